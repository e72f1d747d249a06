import { Box } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { kitQuery, markingsQuery } from "../../api/queries";
import { Dial } from "../../dials/Dial";
import { Button } from "../../parts/Button";
import { Choice, Field, Select, Tick } from "../../parts/Field";
import { Row, Section } from "../../parts/Section";
import { Empty } from "../../parts/States";
import { StepLayout } from "../../shot/StepLayout";
import type { Patch, ShotWork } from "../../shot/useShot";
import { FiltersOn } from "./FiltersOn";
import { Ledger } from "./Ledger";
import { Proposals } from "./Proposals";

/** Step 5: from the light to the shutter, the filters and the bracket. */
export default function ExposurePage({ shot, change, set, asked, errors }: ShotWork) {
  const markings = useQuery(markingsQuery()).data;
  const kit = useQuery(kitQuery()).data;
  const { facts, plan } = shot;
  const { exposure } = plan;
  const lens = kit?.lenses.find((item) => item.id === facts.lens_id);
  const body = kit?.bodies.find((item) => item.id === facts.body_id);
  const key = (field: string) => `shot:${shot.id}:${field}`;
  const optional = (field: keyof Patch) => (text: string) => change({ [field]: text.trim() ? text : null });
  const labelOf = (series: { value: number; label: string }[] | undefined, value: number | null) =>
    value === null ? "" : (series?.find((mark) => Math.abs(Math.log2(mark.value / value)) < 0.02)?.label ?? String(value));
  const apertures = (markings?.apertures ?? []).filter(
    (mark) => !lens || (mark.value >= lens.f_number_min * 0.98 && mark.value <= lens.f_number_max * 1.02),
  );
  const isos = (markings?.isos ?? []).filter((mark) => !body || (mark.value >= body.base_iso && mark.value <= body.max_iso));
  const metered = facts.metered_f_number !== null && facts.metered_shutter_s !== null && facts.metered_iso !== null;
  const partly = !metered && (facts.metered_f_number !== null || facts.metered_shutter_s !== null || facts.metered_iso !== null);
  return (
    <StepLayout
      drawing={
        exposure.ledger.length ? (
          <Ledger shot={shot} />
        ) : (
          <Empty>Type a meter reading at the right, or choose a time in step 2 so that the light can be predicted.</Empty>
        )
      }
      dials={
        <>
          <Section
            title="The meter says"
            aside={
              metered || partly ? (
                <Button
                  look="quiet"
                  fontSize="13px"
                  onClick={() => set({ metered_f_number: null, metered_shutter_s: null, metered_iso: null })}
                >
                  clear the reading
                </Button>
              ) : undefined
            }
          >
            <Row least="76px">
              <Field
                label="Aperture"
                name={key("metered_f_number")}
                value={labelOf(markings?.apertures, facts.metered_f_number)}
                placeholder="f/11"
                save={optional("metered_f_number")}
              />
              <Field
                label="Shutter"
                name={key("metered_shutter_s")}
                value={labelOf(markings?.shutters, facts.metered_shutter_s)}
                placeholder="1/8"
                save={optional("metered_shutter_s")}
              />
              <Field
                label="ISO"
                name={key("metered_iso")}
                value={facts.metered_iso === null ? "" : String(facts.metered_iso)}
                placeholder="100"
                save={optional("metered_iso")}
              />
            </Row>
            {partly && (
              <Box fontSize="13px" color="muted">
                A reading needs all three; until then the exposure is predicted.
              </Box>
            )}
            {metered && (
              <Tick
                label="read through the lens (extension is in the reading)"
                checked={facts.metered_through_lens}
                change={(metered_through_lens) => set({ metered_through_lens })}
              />
            )}
          </Section>
          <Section title="Settings">
            <Row least="180px">
              <Dial
                label="Aperture"
                name={key("f_number")}
                detents={apertures}
                value={exposure.f_number ?? plan.depth.f_number}
                text={exposure.f_number_label ?? plan.depth.f_number_label ?? ""}
                pinned={facts.f_number !== null}
                set={(f_number) => set({ f_number })}
                letGo={() => set({ f_number: null })}
                error={errors.f_number}
              />
              <Dial
                label="ISO"
                name={key("iso")}
                detents={isos}
                value={exposure.iso ?? facts.iso}
                text={String(Math.round(exposure.iso ?? facts.iso ?? 0) || "")}
                pinned={facts.iso !== null}
                set={(iso) => set({ iso })}
                letGo={() => set({ iso: null })}
                error={errors.iso}
              />
            </Row>
          </Section>
          <Section title="What I want">
            <Row least="150px">
              <Dial
                label="Shutter wanted"
                name={key("wanted_shutter_s")}
                detents={[...(markings?.shutters ?? []), ...LONG]}
                value={facts.wanted_shutter_s ?? exposure.wanted?.value ?? exposure.shutter?.value ?? null}
                text={facts.wanted_shutter_label ?? exposure.wanted?.label ?? "any"}
                pinned={facts.wanted_shutter_s !== null}
                set={(wanted_shutter_s) => set({ wanted_shutter_s, wanted_look: null })}
                letGo={() => set({ wanted_shutter_s: null })}
                error={errors.wanted_shutter_s}
              />
              <Select
                label="or the water"
                field="wanted_look"
                value={facts.wanted_look}
                options={(exposure.looks.length ? exposure.looks : LOOKS).map((look) => ({
                  value: look.name as NonNullable<typeof facts.wanted_look>,
                  label: "label" in look ? `${look.name}: ${look.label}` : look.name,
                }))}
                empty="as it comes"
                choose={(wanted_look) => set({ wanted_look, wanted_shutter_s: null })}
              />
            </Row>
            <Proposals proposals={exposure.proposals} facts={facts} set={set} />
            <Tick
              field="follow_fading"
              label="follow the fading light: stay open until the light has come in"
              checked={facts.follow_fading}
              change={(follow_fading) => set({ follow_fading })}
            />
          </Section>
          <Section title="Filters, in stops" aside={<Link to="/kit">bag</Link>}>
            <FiltersOn filters={kit?.filters ?? []} uses={facts.filters} set={set} asked={asked} metered={metered} />
          </Section>
          <Section title="Range and bracket">
            <Row least="84px">
              <Field
                label="Highlight"
                name={key("highlight_ev")}
                value={facts.highlight_ev === null ? "" : String(facts.highlight_ev)}
                placeholder="EV 15"
                unit="EV"
                step={0.5}
                save={optional("highlight_ev")}
              />
              <Field
                label="Shadow"
                name={key("shadow_ev")}
                value={facts.shadow_ev === null ? "" : String(facts.shadow_ev)}
                placeholder="EV 4"
                unit="EV"
                step={0.5}
                save={optional("shadow_ev")}
              />
              <Field
                label="Hold back"
                name={key("highlight_margin_ev")}
                value={String(facts.highlight_margin_ev)}
                unit="EV"
                step={0.33}
                save={(text) => change({ highlight_margin_ev: text })}
              />
            </Row>
            <Row least="84px">
              <Choice
                label="Frames"
                field="bracket"
                value={facts.bracket}
                options={[
                  { value: "none", label: "one" },
                  { value: "range", label: "bracket the range" },
                ]}
                choose={(bracket) => set({ bracket })}
              />
              <Field
                label="Step"
                name={key("bracket_step_ev")}
                value={String(facts.bracket_step_ev)}
                unit="EV"
                step={0.5}
                save={(text) => change({ bracket_step_ev: text })}
              />
              <Field
                label="Compensate"
                name={key("compensation_ev")}
                value={String(facts.compensation_ev)}
                unit="EV"
                step={0.33}
                save={(text) => change({ compensation_ev: text })}
              />
            </Row>
          </Section>
        </>
      }
    />
  );
}

const LOOKS = ["frozen", "textured", "silky", "veiled", "flattened"].map((name) => ({ name }));
// Beyond the camera's own markings a timer counts: whole minutes by doubling.
const LONG = [64, 128, 256, 512, 1024].map((seconds) => ({ value: seconds, label: `${Math.round(seconds / 60)}'` }));
