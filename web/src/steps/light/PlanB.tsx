import { useQuery } from "@tanstack/react-query";
import { MEASURE_UNITS, OPTIONS } from "../../api/facts";
import { locationsQuery, shotNamesQuery } from "../../api/queries";
import { ShotField } from "../../shots/ShotField";
import type { ShotWork } from "../../shots/useShot";
import { Select } from "../../ui/form/Field";
import { Row, Section } from "../../ui/layout/Section";

/** Where to go when the light does not come, and what that hangs on. */
export function PlanB({ shot, set, errors }: ShotWork) {
  const { facts } = shot;
  const locations = useQuery(locationsQuery());
  const shots = useQuery(shotNamesQuery());
  const options = [
    ...(shots.data ?? [])
      .filter((item) => item.id !== shot.id)
      .map((item) => ({
        value: `shot:${item.id}`,
        label: item.location_name ? `${item.name}, ${item.location_name}` : item.name,
      })),
    ...(locations.data?.locations ?? []).map((item) => ({ value: `location:${item.id}`, label: item.name })),
  ];
  const value = facts.plan_b_shot_id
    ? `shot:${facts.plan_b_shot_id}`
    : facts.plan_b_location_id
      ? `location:${facts.plan_b_location_id}`
      : null;
  return (
    <Section title="Plan B" fold={value ? (options.find((item) => item.value === value)?.label ?? "") : "none"}>
      <Select
        label="Go to"
        field="plan_b_measure"
        value={value}
        empty="nowhere else"
        options={options}
        choose={(chosen) => {
          const [kind, id] = String(chosen ?? "").split(":");
          set({
            plan_b_shot_id: kind === "shot" ? Number(id) : null,
            plan_b_location_id: kind === "location" ? Number(id) : null,
          });
        }}
        error={errors.plan_b_shot_id ?? errors.plan_b_location_id}
      />
      {value && (
        <Row least="84px">
          <Select
            label="if"
            value={facts.plan_b_measure}
            empty="–"
            options={OPTIONS.Measure}
            choose={(plan_b_measure) => set({ plan_b_measure })}
            error={errors.plan_b_measure}
          />
          <ShotField
            label="is over"
            name="plan_b_over"
            optional
            unit={facts.plan_b_measure ? MEASURE_UNITS[facts.plan_b_measure] : undefined}
            placeholder="60"
          />
          <ShotField
            label="at"
            name="plan_b_clock"
            optional
            value={facts.labels.plan_b_clock ?? ""}
            placeholder="15:00"
          />
        </Row>
      )}
    </Section>
  );
}
