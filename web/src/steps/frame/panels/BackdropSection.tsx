import { Box } from "@chakra-ui/react";
import { useQueryClient } from "@tanstack/react-query";
import type { Schemas } from "../../../api/client";
import { client, take } from "../../../api/client";
import { shotQuery } from "../../../api/queries";
import { upload } from "../../../api/upload";
import type { ShotWork } from "../../../shots/useShot";
import { DeleteButton } from "../../../ui/form/DeleteButton";
import { Field } from "../../../ui/form/Field";
import { FilePick } from "../../../ui/form/FilePick";
import { Row, Section } from "../../../ui/layout/Section";

/** A test frame behind the finder, scaled to its own field of view by its EXIF. */
export function BackdropSection({ shot }: ShotWork) {
  const queries = useQueryClient();
  const { backdrop } = shot;
  const done = (answer: Schemas["ShotOut"]) => queries.setQueryData(shotQuery(shot.id).queryKey, answer);
  const edit = (body: Schemas["BackdropPatch"]) =>
    take(client.PATCH("/api/shots/{shot_id}/backdrop", { params: { path: { shot_id: shot.id } }, body })).then(done);
  const field = (
    label: string,
    name: "focal_mm" | "bearing_deg" | "pitch_deg" | "opacity",
    unit: string,
    step: number,
  ) => (
    <Field
      label={label}
      name={`backdrop:${shot.id}:${name}`}
      value={String(Math.round((backdrop?.[name] ?? 0) * 100) / 100)}
      unit={unit}
      step={step}
      save={(text) => edit({ [name]: text })}
    />
  );
  return (
    <Section title="A photograph behind it" fold={backdrop ? backdrop.name : "none"}>
      {backdrop ? (
        <>
          <Box fontSize="small">
            {backdrop.name}{" "}
            <Box as="span" color="muted">
              {backdrop.focal_source}
            </Box>
          </Box>
          <Row least="84px">
            {field("Taken with", "focal_mm", "mm", 1)}
            {field("Aimed at", "bearing_deg", "°", 0.5)}
            {field("Pitched", "pitch_deg", "°", 0.5)}
            {field("Strength", "opacity", "", 0.1)}
          </Row>
          <DeleteButton
            name={backdrop.name}
            remove={() =>
              take(client.DELETE("/api/shots/{shot_id}/backdrop", { params: { path: { shot_id: shot.id } } })).then(
                () => queries.invalidateQueries({ queryKey: shotQuery(shot.id).queryKey }),
              )
            }
          />
        </>
      ) : (
        <FilePick
          label="Load a test frame …"
          accept=".jpg,.jpeg,.png,.tif,.tiff,.webp"
          hint="Its EXIF tells the focal length; it is laid behind the scene at its true field of view."
          take={async (file) => {
            const answer = await upload<Schemas["ShotOut"]>(`/api/shots/${shot.id}/backdrop`, file);
            done(answer);
            return `${file.name} stands behind the finder.`;
          }}
        />
      )}
    </Section>
  );
}
