import { Box } from "@chakra-ui/react";
import { OPTIONS } from "../../api/facts";
import { ShotField } from "../../shots/ShotField";
import type { ShotWork } from "../../shots/useShot";
import { Select } from "../../ui/form/Field";
import { Row, Section } from "../../ui/layout/Section";

/** What light and how much water the shot wants. */
export function Wanted({ shot, set, errors }: ShotWork) {
  const { facts, place } = shot;
  const elements = (place?.viewpoint.elements ?? []).filter((element) => element.bed_m !== null);
  return (
    <Section title="Wanted">
      <Row least="120px">
        <Select
          label="Light"
          field="wanted_light"
          value={facts.wanted_light}
          empty="any"
          options={OPTIONS.LightKind}
          choose={(wanted_light) => set({ wanted_light })}
          error={errors.wanted_light}
        />
        <Select
          label="On"
          field="subject_element_id"
          value={facts.subject_element_id}
          empty="the largest"
          options={(place?.viewpoint.elements ?? []).map((element) => ({ value: element.id, label: element.name }))}
          choose={(subject_element_id) => set({ subject_element_id })}
          error={errors.subject_element_id}
        />
      </Row>
      {place?.tide_name && (
        <Box data-field="water_low_m">
          <Row least="84px">
            <ShotField label="Water from" name="water_low_m" optional unit="m" placeholder="any" step={0.1} />
            <ShotField label="to" name="water_high_m" optional unit="m" placeholder="any" step={0.1} />
            <Select
              label="at"
              value={facts.water_element_id}
              empty="the tide's zero"
              options={elements.map((element) => ({ value: element.id, label: element.name }))}
              choose={(water_element_id) => set({ water_element_id })}
              error={errors.water_element_id}
            />
          </Row>
        </Box>
      )}
    </Section>
  );
}
