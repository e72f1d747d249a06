import { Box } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { kitQuery, markingsQuery } from "../../api/queries";
import { Dial } from "../../dials/Dial";
import { Choice, Field, Select, Tick } from "../../parts/Field";
import { Row, Section } from "../../parts/Section";
import type { ShotWork } from "../../shot/useShot";
import { BackdropSection } from "./BackdropSection";

/** Body, lens, tripod, aim and place of the camera. */
export function CameraRoom(work: ShotWork) {
  const { shot, change, set, errors } = work;
  const kit = useQuery(kitQuery()).data;
  const markings = useQuery(markingsQuery()).data;
  const { facts, place, plan } = shot;
  const [keepSize, setKeepSize] = useState(false);
  const lens = kit?.lenses.find((item) => item.id === facts.lens_id);
  const inside = (markings?.focals ?? []).filter(
    (mark) => lens && mark.value >= lens.focal_min_mm && mark.value <= lens.focal_max_mm,
  );
  const ends = lens ? [lens.focal_min_mm, lens.focal_max_mm].filter((focal) => !inside.some((mark) => mark.value === focal)) : [];
  const detents = [...inside, ...new Set(ends)]
    .map((item) => (typeof item === "number" ? { value: item, label: `${item}` } : item))
    .sort((a, b) => a.value - b.value);
  const key = (field: string) => `shot:${shot.id}:${field}`;
  const number = (
    label: string,
    field: "bearing_deg" | "pitch_deg" | "roll_deg" | "camera_height_m" | "camera_east_m" | "camera_north_m",
    value: string,
    unit: string,
    step: number,
    empty = false,
  ) => (
    <Field
      label={label}
      name={key(field)}
      value={value}
      unit={unit}
      step={step}
      save={(text) => change({ [field]: empty && !text.trim() ? null : text })}
      serverError={errors[field]}
    />
  );
  const clearing = plan.frame.clearing;
  return (
    <>
      <Section title="Camera" aside={<Link to="/kit">kit</Link>}>
        <Row least="150px">
          <Select
            label="Body"
            field="body_id"
            value={facts.body_id}
            options={(kit?.bodies ?? []).map((body) => ({ value: body.id, label: body.name }))}
            choose={(body_id) => set({ body_id })}
            empty="none"
            error={errors.body_id}
          />
          <Select
            label="Lens"
            field="lens_id"
            value={facts.lens_id}
            options={(kit?.lenses ?? []).map((item) => ({ value: item.id, label: item.name }))}
            choose={(lens_id) => set({ lens_id, focal_mm: null })}
            empty="none"
            error={errors.lens_id}
          />
        </Row>
        {lens && detents.length > 0 && (
          <Dial
            label="Focal length"
            name={key("focal_mm")}
            detents={detents}
            value={plan.frame.focal_mm}
            text={`${plan.frame.focal_mm ?? ""}`}
            unit="mm"
            pinned={facts.focal_mm !== null}
            set={(focal_mm) => set({ focal_mm, keep_subject_size: keepSize })}
            letGo={() => set({ focal_mm: null })}
            error={errors.focal_mm}
          />
        )}
        {place && place.viewpoint.elements.length > 0 && (
          <Tick
            label="stepping back or forward with it, so that the subject keeps its size"
            checked={keepSize}
            change={setKeepSize}
          />
        )}
      </Section>
      <Section title="Aim">
        <Choice
          label="The camera stands"
          field="orientation"
          value={facts.orientation}
          options={[
            { value: "lengthwise", label: "lengthwise" },
            { value: "upright", label: "upright" },
          ]}
          choose={(orientation) => set({ orientation })}
        />
        <Row>
          {number(
            "Bearing",
            "bearing_deg",
            plan.frame.bearing_deg === null ? "" : String(Math.round((plan.frame.bearing_deg ?? 0) * 10) / 10),
            `° ${plan.frame.compass ?? ""}`,
            1,
            true,
          )}
          {number("Pitch", "pitch_deg", String(facts.pitch_deg), "° up", 1)}
          {number("Lean", "roll_deg", String(facts.roll_deg), "° right", 0.5)}
        </Row>
      </Section>
      <Section title="Where it stands">
        <Row>
          {number("Camera height", "camera_height_m", String(plan.frame.camera_height_m ?? ""), "m", 0.05, true)}
          {number("East of the mark", "camera_east_m", String(facts.camera_east_m), "m", 0.1)}
          {number("North of the mark", "camera_north_m", String(facts.camera_north_m), "m", 0.1)}
        </Row>
        <Row least="150px">
          <Select
            label="Tripod"
            field="support_id"
            value={facts.support_id}
            options={(kit?.supports ?? []).map((item) => ({ value: item.id, label: item.name }))}
            choose={(support_id) => set({ support_id })}
            empty="held by hand"
            error={errors.support_id}
          />
          {lens?.hood_mm != null && (
            <Box alignSelf="end" pb="7px">
              <Tick label="hood on" field="hood_on" checked={facts.hood_on} change={(hood_on) => set({ hood_on })} />
            </Box>
          )}
        </Row>
        {clearing && (
          <Box fontSize="13.5px" color={clearing.clear ? "muted" : "rust"} data-clearing="">
            {clearing.clear
              ? `${clearing.ring}: the corners stay clear.`
              : `${clearing.ring}: darkens the corners from ${Math.round(clearing.darkens_from * 100)} % of the half diagonal outwards.`}
          </Box>
        )}
      </Section>
      <BackdropSection {...work} />
    </>
  );
}
