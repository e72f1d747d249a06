import { Box } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import type { Schemas } from "../../api/client";
import { kitQuery } from "../../api/queries";
import { ShotField } from "../../shots/ShotField";
import type { ShotWork } from "../../shots/useShot";
import { Field, Tick } from "../../ui/form/Field";
import { Row, Section } from "../../ui/layout/Section";

/** What must be sharp: elements and limits, or close up a depth of the subject. */
export function SharpSection({ shot, change, set, asked, errors }: ShotWork) {
  const kit = useQuery(kitQuery()).data;
  const { facts, plan } = shot;
  const { depth } = plan;
  const closeUp = facts.magnification !== null;
  const lens = kit?.lenses.find((item) => item.id === facts.lens_id);
  const elements = shot.place?.viewpoint.elements ?? [];
  const blurOf = (id: number) => depth.elements.find((item) => item.id === id);
  const sharp = () => (asked().sharp_element_ids as number[] | undefined) ?? facts.sharp_element_ids;
  const toggle = (id: number, on: boolean) =>
    set({ sharp_element_ids: on ? [...sharp(), id] : sharp().filter((other) => other !== id) });
  return (
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
          <Field
            label="or ruler across it"
            name={`shot:${shot.id}:field_mm`}
            value={plan.frame.close_up ? plan.frame.close_up.field_width_mm.toFixed(1) : ""}
            unit="mm"
            save={(text) => change({ field_mm: text })}
            serverError={errors.field_mm}
          />
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
                <Along blur={blurOf(element.id)} otherwise={element.distance_label} />
              </Box>
            ))}
            {depth.ground && (
              <Box display="flex" justifyContent="space-between" gap="10px" data-field="ground_sharp">
                <Tick
                  label="the ground at the lower edge"
                  checked={facts.ground_sharp}
                  change={(ground_sharp) => set({ ground_sharp })}
                />
                <Along blur={depth.ground} otherwise="" />
              </Box>
            )}
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
              name={`shot:${shot.id}:far_m`}
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
  );
}

/** From where to where something shows along the axis, and how sharp it comes out at its worst. */
function Along({ blur, otherwise }: { blur: Schemas["ElementBlurOut"] | undefined; otherwise: string }) {
  return (
    <Box as="span" fontSize="small" color="muted" textAlign="right">
      <Box as="span" fontFamily="mono">
        {blur?.distance_label ?? otherwise}
      </Box>{" "}
      <Box as="span" color={blur && !blur.holds && blur.must_be_sharp ? "rust" : "muted"}>
        {blur?.verdict}
      </Box>
    </Box>
  );
}
