import { Box } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { OPTIONS } from "../../../api/facts";
import { kitQuery } from "../../../api/queries";
import { percent, plain } from "../../../lib/format/numbers";
import { ShotDial, ShotField } from "../../../shots/ShotField";
import type { ShotWork } from "../../../shots/useShot";
import { Choice, Select, Tick } from "../../../ui/form/Field";
import { Row, Section } from "../../../ui/layout/Section";
import { BackdropSection } from "./BackdropSection";

/** Body, lens, tripod, aim and place of the camera. */
export function CameraPanel(work: ShotWork) {
  const { shot, set, errors } = work;
  const kit = useQuery(kitQuery()).data;
  const { facts, place, plan } = shot;
  const [keepSize, setKeepSize] = useState(false);
  const lens = kit?.lenses.find((item) => item.id === facts.lens_id);
  const vignetting = plan.frame.vignetting;
  const support = kit?.supports.find((item) => item.id === facts.support_id);
  return (
    <>
      <Section title="Camera">
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
        {lens && (
          <ShotDial
            name="focal_mm"
            scale="focals"
            label="Focal length"
            value={plan.frame.focal_mm}
            text={plain(plan.frame.focal_mm)}
            unit="mm"
            also={{ keep_subject_size: keepSize }}
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
          label="Orientation"
          field="orientation"
          value={facts.orientation}
          options={OPTIONS.Orientation}
          choose={(orientation) => set({ orientation })}
        />
        <Row>
          <ShotField
            name="bearing_deg"
            label="Bearing"
            value={plain(plan.frame.bearing_deg, 1)}
            unit={`° ${plan.frame.compass ?? ""}`}
            step={1}
            optional
          />
          <ShotField name="pitch_deg" label="Pitch" unit="° up" step={1} />
          <ShotField name="roll_deg" label="Roll" unit="° right" step={0.5} />
          <ShotField
            name="camera_height_m"
            label="Camera height"
            value={plain(plan.frame.camera_height_m)}
            unit="m"
            step={0.05}
            optional
          />
        </Row>
      </Section>
      <Section title="Where it stands" fold={standsWords(facts.camera_east_m, facts.camera_north_m, support?.name)}>
        <Row>
          <ShotField name="camera_east_m" label="Moved east" unit="m" step={0.1} />
          <ShotField name="camera_north_m" label="Moved north" unit="m" step={0.1} />
        </Row>
        <Row least="150px">
          <Select
            label="Tripod"
            field="support_id"
            value={facts.support_id}
            options={(kit?.supports ?? []).map((item) => ({ value: item.id, label: item.name }))}
            choose={(support_id) => set({ support_id })}
            empty="not named"
            error={errors.support_id}
          />
          {lens?.hood_mm != null && (
            <Box alignSelf="end" pb="7px">
              <Tick label="hood on" field="hood_on" checked={facts.hood_on} change={(hood_on) => set({ hood_on })} />
            </Box>
          )}
        </Row>
        {vignetting && (
          <Box fontSize="small" color={vignetting.clear ? "muted" : "rust"} data-vignetting="">
            {vignetting.clear
              ? `${vignetting.ring}: the corners stay clear.`
              : `${vignetting.ring}: darkens the corners from ${percent(vignetting.darkens_from)} of the half diagonal outwards.`}
          </Box>
        )}
      </Section>
      <BackdropSection {...work} />
    </>
  );
}

/** Where the tripod stands, in a few words. */
const standsWords = (east_m: number, north_m: number, tripod: string | undefined) =>
  [east_m || north_m ? "moved from the mark" : "on the mark", tripod].filter(Boolean).join(", ");
