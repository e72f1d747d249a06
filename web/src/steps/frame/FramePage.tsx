import { Box } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useSearchParams } from "react-router";
import { kitQuery, markingsQuery } from "../../api/queries";
import { Dial } from "../../dials/Dial";
import { Choice, Field, Select, Tick } from "../../parts/Field";
import { Figure, Figures } from "../../parts/Figure";
import { Row, Section } from "../../parts/Section";
import { Empty } from "../../parts/States";
import { Tabs } from "../../parts/Tabs";
import { StepLayout } from "../../shot/StepLayout";
import type { ShotWork } from "../../shot/useShot";
import { CropSection } from "./CropSection";
import { Finder } from "./Finder";
import { FineTuner } from "./FineTuner";
import { FrameReadings } from "./FrameReadings";
import { GroundView } from "./GroundView";

type Room = "camera" | "ground" | "tuner";
const ROOMS: { value: Room; label: string }[] = [
  { value: "camera", label: "Camera and aim" },
  { value: "ground", label: "Ground and reading" },
  { value: "tuner", label: "Fine-tuner" },
];

/** Step 3: lens, orientation and aim, and what the sensor then sees. */
export default function FramePage(work: ShotWork) {
  const { shot, change, set, errors } = work;
  const kit = useQuery(kitQuery()).data;
  const markings = useQuery(markingsQuery()).data;
  const { facts, place, plan } = shot;
  const [params, setParams] = useSearchParams();
  const [keepSize, setKeepSize] = useState(false);
  const room = ROOMS.find((item) => item.value === params.get("room"))?.value ?? "camera";
  const lens = kit?.lenses.find((item) => item.id === facts.lens_id);
  const inside = (markings?.focals ?? []).filter(
    (mark) => lens && mark.value >= lens.focal_min_mm && mark.value <= lens.focal_max_mm,
  );
  const ends = lens ? [lens.focal_min_mm, lens.focal_max_mm].filter((focal) => !inside.some((mark) => mark.value === focal)) : [];
  const detents = [...inside, ...new Set(ends)]
    .map((item) => (typeof item === "number" ? { value: item, label: `${item}` } : item))
    .sort((a, b) => a.value - b.value);
  const key = (field: string) => `shot:${shot.id}:${field}`;
  return (
    <StepLayout
      drawing={
        plan.frame.width_mm ? (
          <Finder shot={shot} set={set} />
        ) : (
          <Empty>Choose a body and a lens at the right: the finder is drawn from them.</Empty>
        )
      }
      dials={
        <>
          <Tabs
            label="Rooms of this step"
            value={room}
            options={ROOMS}
            choose={(next) => setParams({ room: next }, { replace: true })}
          />
          {room === "camera" && (
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
                  <Field
                    label="Bearing"
                    name={key("bearing_deg")}
                    value={plan.frame.bearing_deg === null ? "" : String(Math.round((plan.frame.bearing_deg ?? 0) * 10) / 10)}
                    unit={`° ${plan.frame.compass ?? ""}`}
                    step={1}
                    save={(text) => change({ bearing_deg: text.trim() ? text : null })}
                  />
                  <Field
                    label="Pitch"
                    name={key("pitch_deg")}
                    value={String(facts.pitch_deg)}
                    unit="° up"
                    step={1}
                    save={(text) => change({ pitch_deg: text })}
                  />
                  <Field
                    label="Camera height"
                    name={key("camera_height_m")}
                    value={String(plan.frame.camera_height_m ?? "")}
                    unit="m"
                    step={0.05}
                    save={(text) => change({ camera_height_m: text.trim() ? text : null })}
                  />
                </Row>
              </Section>
              {plan.frame.horizontal_fov_deg && (
                <Section title="Field of view">
                  <Figures>
                    <Figure name="across" value={`${plan.frame.horizontal_fov_deg.toFixed(1)}°`} />
                    <Figure name="upwards" value={`${plan.frame.vertical_fov_deg?.toFixed(1)}°`} />
                    <Figure
                      name="magnification"
                      value={plan.depth.magnification ? `${plan.depth.magnification.toPrecision(2)}:1` : "–"}
                    />
                  </Figures>
                </Section>
              )}
            </>
          )}
          {room === "camera" && plan.frame.crop && <CropSection {...work} />}
          {room === "ground" && (
            <>
              <Section title="Where the camera stands">
                <Row>
                  <Field
                    label="East of the mark"
                    name={key("camera_east_m")}
                    value={String(facts.camera_east_m)}
                    unit="m"
                    step={0.1}
                    save={(text) => change({ camera_east_m: text })}
                  />
                  <Field
                    label="North of the mark"
                    name={key("camera_north_m")}
                    value={String(facts.camera_north_m)}
                    unit="m"
                    step={0.1}
                    save={(text) => change({ camera_north_m: text })}
                  />
                </Row>
                <Box height="250px">
                  <GroundView shot={shot} set={set} />
                </Box>
              </Section>
              {plan.frame.width_mm && <FrameReadings {...work} />}
            </>
          )}
          {room === "tuner" &&
            (plan.frame.width_mm && place && place.viewpoint.elements.length > 0 ? (
              <FineTuner {...work} />
            ) : (
              <Empty>The tuner needs a body, a lens, and elements in the scene.</Empty>
            ))}
        </>
      }
    />
  );
}
