import { Box } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { OPTIONS } from "../../api/facts";
import { kitQuery } from "../../api/queries";
import { Choice, Field, Select, Tick } from "../../parts/Field";
import { Figure, Figures } from "../../parts/Figure";
import { Row, Section } from "../../parts/Section";
import { Empty } from "../../parts/States";
import { ShotDial, ShotField } from "../../shot/ShotField";
import { StepLayout } from "../../shot/StepLayout";
import type { ShotWork } from "../../shot/useShot";
import { ApertureStrip } from "./ApertureStrip";
import { ReciprocalRuler } from "./ReciprocalRuler";
import { SubjectRuler } from "./SubjectRuler";

/** Step 4: what must be sharp, where to focus, in how many frames. */
export default function DepthPage({ shot, change, set, asked, errors }: ShotWork) {
  const kit = useQuery(kitQuery()).data;
  const { facts, plan } = shot;
  const { depth } = plan;
  const closeUp = facts.magnification !== null;
  const lens = kit?.lenses.find((item) => item.id === facts.lens_id);
  const elements = shot.place?.viewpoint.elements ?? [];
  const key = (field: string) => `shot:${shot.id}:${field}`;
  const verdictOf = (id: number) => depth.elements.find((item) => item.id === id)?.verdict ?? "";
  // As the camera sees it, which may stand beside the mark.
  const seenAt = (id: number) => plan.place.seen.find((item) => item.id === id)?.distance_label;
  const sharp = () => (asked().sharp_element_ids as number[] | undefined) ?? facts.sharp_element_ids;
  const toggle = (id: number, on: boolean) =>
    set({ sharp_element_ids: on ? [...sharp(), id] : sharp().filter((other) => other !== id) });
  return (
    <StepLayout
      drawing={
        depth.positions.length ? (
          <>
            <Box flex="1" minH="0">
              {closeUp ? <SubjectRuler shot={shot} /> : <ReciprocalRuler shot={shot} set={set} />}
            </Box>
            <ApertureStrip choices={depth.apertures} set={set} rail={closeUp} />
          </>
        ) : (
          <Empty>
            {facts.lens_id && facts.body_id
              ? "Say at the right what must be sharp: tick elements, or type a near and a far limit. The ruler then shows where to focus."
              : "Choose a body and a lens in step 3 first."}
          </Empty>
        )
      }
      dials={
        <>
          {depth.f_number !== null && (
            <ShotDial
              name="f_number"
              scale="apertures"
              label="Aperture"
              value={depth.f_number}
              text={depth.f_number_label ?? ""}
            />
          )}
          <Box mt="10px" mb="12px">
            <Figures>
              <Figure name="frames" value={depth.positions.length || "–"} note={depth.method && METHOD_WORDS[depth.method]} />
              {closeUp ? (
                <Figure
                  name="one slice"
                  value={depth.slice_mm?.toFixed(2) ?? "–"}
                  unit="mm"
                  note={depth.step_mm ? `steps of ${depth.step_mm.toFixed(2)} mm` : undefined}
                />
              ) : (
                <Figure name="hyperfocal" value={depth.hyperfocal?.label ?? "–"} note="from the lens" />
              )}
              <Figure
                name="worst blur"
                value={depth.worst_blur_um !== null ? Math.round(depth.worst_blur_um) : "–"}
                unit="µm"
                note={`of ${Math.round(depth.coc_um ?? 0)} allowed`}
              />
              <Figure
                name="diffraction"
                value={depth.airy_um !== null ? Math.round(depth.airy_um) : "–"}
                unit="µm"
                note="Airy disc"
              />
            </Figures>
          </Box>
          <Section
            title="What must be sharp"
            aside={
              <Tick
                label="close up, by magnification"
                checked={closeUp}
                change={(on) =>
                  set(
                    on
                      ? {
                          magnification: Math.min(1, lens?.max_magnification ?? 1),
                          subject_depth_mm: facts.subject_depth_mm ?? 3,
                        }
                      : { magnification: null },
                  )
                }
              />
            }
          >
            {closeUp ? (
              <Row>
                <ShotField label="Magnification" name="magnification" unit=":1" step={0.1} />
                <ShotField label="Depth of the subject" name="subject_depth_mm" optional unit="mm" step={0.1} />
              </Row>
            ) : (
              <>
                <Box display="grid" gap="4px" data-field="sharp_element_ids">
                  {elements.map((element) => (
                    <Box key={element.id} display="flex" justifyContent="space-between" gap="10px">
                      <Tick
                        label={element.name}
                        checked={facts.sharp_element_ids.includes(element.id)}
                        change={(on) => toggle(element.id, on)}
                      />
                      <Box as="span" fontSize="13.5px" color="muted">
                        <Box as="span" fontFamily="mono">
                          {seenAt(element.id) ?? element.distance_label}
                        </Box>{" "}
                        {verdictOf(element.id)}
                      </Box>
                    </Box>
                  ))}
                  {!elements.length && <Box color="muted">Add elements in step 1, or type limits here.</Box>}
                </Box>
                <Row>
                  <ShotField
                    label="Near limit"
                    name="near_m"
                    optional
                    value={facts.labels.near_m ?? ""}
                    placeholder={depth.near?.label ?? "30 cm"}
                  />
                  <Field
                    label="Far limit"
                    name={key("far_m")}
                    value={facts.far_infinite ? "∞" : (facts.labels.far_m ?? "")}
                    placeholder={depth.far?.label ?? "∞"}
                    save={(text) => {
                      const infinite = /^\s*(∞|inf(inity)?)\s*$/i.test(text);
                      return change(
                        infinite
                          ? { far_infinite: true, far_m: null }
                          : { far_infinite: false, far_m: text.trim() ? text : null },
                      );
                    }}
                  />
                </Row>
              </>
            )}
          </Section>
          <Section title="How">
            <Choice
              label="Frames"
              field="depth_method"
              value={facts.depth_method}
              options={OPTIONS.DepthMethod}
              choose={(depth_method) => set({ depth_method })}
            />
            {depth.method === "single" && (
              <Select
                label="Where to focus a single frame"
                field="focus_school"
                value={facts.focus_school}
                options={OPTIONS.FocusSchool}
                choose={(focus_school) => focus_school && set({ focus_school })}
              />
            )}
            {depth.method === "single" && facts.focus_school === "subject" && (
              <Select
                label="Main subject"
                field="subject_element_id"
                value={facts.subject_element_id}
                options={elements.map((element) => ({ value: element.id, label: element.name }))}
                choose={(subject_element_id) => set({ subject_element_id })}
                empty="not named"
                error={errors.subject_element_id}
              />
            )}
            <Row>
              <Select
                label="Sharpness"
                field="coc_criterion"
                value={facts.coc_criterion}
                options={OPTIONS.CocCriterion}
                choose={(coc_criterion) => coc_criterion && set({ coc_criterion })}
              />
              <ShotField label="Overlap" name="overlap" hint="share of a slice" step={0.05} />
            </Row>
            {facts.coc_criterion === "custom" && (
              <ShotField label="Circle of confusion" name="coc_custom_mm" optional placeholder="0.030" unit="mm" />
            )}
            {facts.coc_criterion === "print" && (
              <Row>
                <ShotField label="Print width" name="print_width_mm" unit="mm" />
                <ShotField label="Seen from" name="viewing_distance_mm" unit="mm" />
              </Row>
            )}
          </Section>
        </>
      }
    />
  );
}

const METHOD_WORDS: Record<string, string> = { single: "one frame", ring: "turning the ring", rail: "on the rail" };
