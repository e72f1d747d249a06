import { OPTIONS } from "../../api/facts";
import { ShotField } from "../../shots/ShotField";
import type { ShotWork } from "../../shots/useShot";
import { Choice, Select } from "../../ui/form/Field";
import { Row, Section } from "../../ui/layout/Section";

const optionLabel = (options: readonly { value: string; label: string }[], value: string) =>
  options.find((option) => option.value === value)?.label ?? value;

/** How it is made sharp: frames, where to focus, and what counts as sharp. */
export function MethodSection({ shot, set, errors }: ShotWork) {
  const { facts, plan } = shot;
  const { depth } = plan;
  const elements = shot.place?.viewpoint.elements ?? [];
  return (
    <Section
      title="How"
      fold={`${optionLabel(OPTIONS.DepthMethod, facts.depth_method)}, ${optionLabel(OPTIONS.CocCriterion, facts.coc_criterion)} sharpness`}
    >
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
  );
}
