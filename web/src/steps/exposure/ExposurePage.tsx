import { Box } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { Link, useSearchParams } from "react-router";
import { HIGHLIGHT_MARGINS, KINDS, OPTIONS } from "../../api/facts";
import { kitQuery } from "../../api/queries";
import { plural } from "../../lib/format/spelling";
import { ShotDial, ShotField } from "../../shots/ShotField";
import { StepLayout } from "../../shots/StepLayout";
import type { Shot, ShotWork } from "../../shots/useShot";
import { Working } from "../../shots/Working";
import { useTones } from "../../tones/useTones";
import { Button } from "../../ui/form/Button";
import { Select, Tick } from "../../ui/form/Field";
import { Row, Section } from "../../ui/layout/Section";
import { Empty, Pending } from "../../ui/layout/States";
import { Tabs } from "../../ui/layout/Tabs";
import { CameraSettings } from "./CameraSettings";
import { FiltersOn } from "./FiltersOn";
import { FlashSection } from "./FlashSection";
import { InTones } from "./InTones";
import { Ledger } from "./Ledger";
import { Movers } from "./Movers";
import { PictureView } from "./PictureView";
import { Proposals } from "./Proposals";
import { Spots } from "./Spots";

const isLight = (kind: string) => (KINDS.lights as readonly string[]).includes(kind);

type Colour = keyof typeof HIGHLIGHT_MARGINS;
const COLOURS = (Object.keys(HIGHLIGHT_MARGINS) as Colour[]).map((value) => ({ value, label: value }));

/** The colour whose margin is held back; none where it is another one. */
const colourOf = (margin: number): Colour | null =>
  COLOURS.find(({ value }) => Math.abs(HIGHLIGHT_MARGINS[value] - margin) < 0.005)?.value ?? null;

type View = "ledger" | "picture";
const VIEWS: { value: View; label: string }[] = [
  { value: "ledger", label: "Ledger" },
  { value: "picture", label: "Picture in tones" },
];

function NoPicture({ shot }: { shot: Shot }) {
  return shot.facts.time_utc && shot.plan.frame.view ? (
    <Pending what="the picture" />
  ) : (
    <Empty>Choose a body, a lens and the time in step 2: the picture is made from the light of that moment.</Empty>
  );
}

/** Step 5: from the light to the shutter, the filters and the bracket. */
export default function ExposurePage(work: ShotWork) {
  const { shot, set } = work;
  const kit = useQuery(kitQuery()).data;
  const { facts, plan } = shot;
  const { exposure } = plan;
  const toned = useTones(shot);
  const [params, setParams] = useSearchParams();
  const through = params.get("through") ?? undefined;
  const view: View = params.get("view") === "picture" ? "picture" : "ledger";
  const lights = (kit?.accessories ?? []).some((item) => isLight(item.kind) && facts.accessory_ids.includes(item.id));
  const metered = facts.metered_f_number !== null && facts.metered_shutter_s !== null && facts.metered_iso !== null;
  const partly =
    !metered && (facts.metered_f_number !== null || facts.metered_shutter_s !== null || facts.metered_iso !== null);
  const history = shot.plan.because.some((reason) => reason.code === "exposure.reading_is_history");
  const onLens = facts.filters
    .filter((use) => use.on_lens)
    .map((use) => kit?.filters.find((item) => item.id === use.filter_id)?.name)
    .filter(Boolean)
    .join(" + ");
  return (
    <StepLayout
      drawing={
        exposure.ledger.length ? (
          <Tabs
            label="Drawings of this step"
            value={view}
            options={VIEWS}
            choose={(next) => setParams({ view: next }, { replace: true })}
          >
            {view === "ledger" ? (
              <Ledger shot={shot} tones={toned?.tones} />
            ) : toned ? (
              <PictureView {...work} toned={toned} through={through} />
            ) : (
              <NoPicture shot={shot} />
            )}
          </Tabs>
        ) : (
          <Empty>
            Type a meter reading at the right, or choose a time in step 2 so that the light can be predicted.
          </Empty>
        )
      }
      dials={
        <>
          <Section
            title="Meter reading"
            aside={
              metered || partly ? (
                <Button
                  look="quiet"
                  fontSize="small"
                  onClick={() => set({ metered_f_number: null, metered_shutter_s: null, metered_iso: null })}
                >
                  clear the reading
                </Button>
              ) : undefined
            }
          >
            <Row least="76px">
              <ShotField
                label="Aperture"
                name="metered_f_number"
                optional
                value={facts.labels.metered_f_number ?? ""}
                placeholder="f/11"
              />
              <ShotField
                label="Shutter"
                name="metered_shutter_s"
                optional
                value={facts.labels.metered_shutter_s ?? ""}
                placeholder="1/8"
              />
              <ShotField label="ISO" name="metered_iso" optional placeholder="100" />
            </Row>
            {partly && (
              <Box fontSize="small" color="muted">
                A reading needs all three; until then the exposure is predicted.
              </Box>
            )}
            {((metered && facts.metered_at_utc !== null && facts.metered_at_utc !== facts.time_utc) || history) && (
              <Box>
                <Button look="quiet" fontSize="small" onClick={() => set({ metered_at_utc: facts.time_utc })}>
                  it was read here, at the time of the shot
                </Button>
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
          <Section
            title="What I want"
            aside={
              exposure.shutter && (
                <Box as="span" fontSize="small">
                  <Working of="shutter">how {exposure.shutter.label} comes about</Working>
                </Box>
              )
            }
          >
            <Row least="150px">
              <ShotDial
                name="wanted_shutter_s"
                scale="shutters"
                label="Shutter wanted"
                value={facts.wanted_shutter_s ?? exposure.wanted?.value ?? exposure.shutter?.value ?? null}
                text={facts.labels.wanted_shutter_s ?? exposure.wanted?.label ?? "any"}
                also={{ wanted_look: null }}
              />
            </Row>
            <Proposals proposals={exposure.proposals} facts={facts} set={set} />
            <Tick
              field="follow_fading"
              label="follow the changing light: stay open until the light has come in"
              checked={facts.follow_fading}
              change={(follow_fading) => set({ follow_fading })}
            />
          </Section>
          <Section
            title="Filters, in stops"
            term="neutral density"
            fold={onLens || "none on the lens"}
            aside={<Link to="/kit">bag</Link>}
          >
            <FiltersOn {...work} filters={kit?.filters ?? []} metered={metered} />
          </Section>
          <Section
            title="Settings"
            fold={`${exposure.f_number_label ?? "no aperture"}, ISO ${Math.round(exposure.iso ?? facts.iso ?? 0)}`}
          >
            <Row least="180px">
              <ShotDial
                name="f_number"
                scale="apertures"
                label="Aperture"
                value={exposure.f_number ?? plan.depth.f_number}
                text={exposure.f_number_label ?? plan.depth.f_number_label ?? ""}
              />
              <ShotDial
                name="iso"
                scale="isos"
                label="ISO"
                value={exposure.iso ?? facts.iso}
                text={String(Math.round(exposure.iso ?? facts.iso ?? 0) || "")}
              />
            </Row>
          </Section>
          <Movers {...work} />
          <Spots {...work} />
          {toned && <InTones {...work} toned={toned} through={through} />}
          {lights && <FlashSection {...work} />}
          <Section
            title="Range and bracket"
            term="dynamic range"
            fold={exposure.exposures.length > 1 ? plural(exposure.exposures.length, "exposure") : "one exposure"}
          >
            <Row least="84px">
              <ShotField label="Highlight" name="highlight_ev" optional placeholder="EV 15" unit="EV" step={0.5} />
              <ShotField label="Shadow" name="shadow_ev" optional placeholder="EV 4" unit="EV" step={0.5} />
              <ShotField label="Highlight safety margin" name="highlight_margin_ev" unit="EV" step={0.33} />
              <Select
                label="Brightest colour"
                value={colourOf(facts.highlight_margin_ev)}
                options={COLOURS}
                empty="another margin"
                choose={(colour) => colour && set({ highlight_margin_ev: HIGHLIGHT_MARGINS[colour] })}
              />
            </Row>
            <Row least="84px">
              <Box gridColumn="span 2">
                <Select
                  label="Exposures"
                  field="bracket"
                  value={facts.bracket}
                  options={OPTIONS.BracketMode}
                  choose={(bracket) => bracket && set({ bracket })}
                />
              </Box>
              {facts.bracket === "around" && <ShotField label="Frames" name="bracket_count" step={2} />}
              {(facts.bracket === "around" || facts.bracket === "range") && (
                <ShotField label="Step" name="bracket_step_ev" unit="EV" step={0.5} />
              )}
              <ShotField label="Compensate" name="compensation_ev" unit="EV" step={0.33} />
            </Row>
          </Section>
          <CameraSettings shot={shot} />
        </>
      }
    />
  );
}
