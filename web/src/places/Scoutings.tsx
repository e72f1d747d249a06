import { Box } from "@chakra-ui/react";
import { useState } from "react";
import { client, type Schemas, take } from "../api/client";
import { upload } from "../api/upload";
import { asBody } from "../lib/drafts/asBody";
import { dayText } from "../lib/format/spelling";
import { Button } from "../ui/form/Button";
import { DateField } from "../ui/form/DateField";
import { DeleteButton } from "../ui/form/DeleteButton";
import { Field } from "../ui/form/Field";
import { FilePick } from "../ui/form/FilePick";
import { NewForm } from "../ui/form/NewForm";
import { Row } from "../ui/layout/Section";

/** Visits to a viewpoint by day: what was seen and measured, what to bring, a photograph. Every shot from here is offered them. */
export function Scoutings({
  viewpoint,
  done,
}: {
  viewpoint: Schemas["ViewpointOut"];
  /** Everything that was asked for with places in it is asked for again. */
  done: <T>(answer: T) => T;
}) {
  const [adding, setAdding] = useState(false);
  const today = dayText(new Date().toLocaleDateString("sv-SE"));
  return (
    <Box display="grid" gap="6px">
      {viewpoint.scoutings.map((visit) => (
        <Visit key={visit.id} visit={visit} viewpointId={viewpoint.id} done={done} />
      ))}
      {adding ? (
        <NewForm
          name={`scouting:${viewpoint.id}`}
          label="Record the visit"
          fields={[
            { name: "visited_on", label: "Visited on", initial: today },
            { name: "bring", label: "What to bring", placeholder: "waders, longer strap" },
            { name: "note", label: "What was seen", lines: 2, placeholder: "The path is dry to the second stile." },
            {
              name: "angles",
              label: "Measured, one a line",
              lines: 4,
              placeholder: "cairn 212 4.5\nnotch 236 2.8",
              hint: "a name, a bearing and an altitude in degrees",
            },
          ]}
          cancel={() => setAdding(false)}
          submit={async (values) => {
            await take(
              client.POST("/api/viewpoints/{viewpoint_id}/scoutings", {
                params: { path: { viewpoint_id: viewpoint.id } },
                body: asBody<Schemas["ScoutingIn"]>(values),
              }),
            ).then(done);
            setAdding(false);
          }}
        />
      ) : (
        <Box>
          <Button look="quiet" px="0" fontSize="small" onClick={() => setAdding(true)}>
            record a visit by day
          </Button>
        </Box>
      )}
    </Box>
  );
}

function Visit({
  visit,
  viewpointId,
  done,
}: {
  visit: Schemas["ScoutingOut"];
  viewpointId: number;
  done: <T>(answer: T) => T;
}) {
  const path = { scouting_id: visit.id };
  const edit = (body: Schemas["ScoutingPatch"]) =>
    take(client.PATCH("/api/scoutings/{scouting_id}", { params: { path }, body })).then(done);
  const key = (field: string) => `scouting:${visit.id}:${field}`;
  const asSkyline = () =>
    take(
      client.PUT("/api/viewpoints/{viewpoint_id}/skyline", {
        params: { path: { viewpoint_id: viewpointId } },
        body: { points: visit.angles.map((angle) => [angle.bearing_deg, angle.altitude_deg]) },
      }),
    ).then(done);
  return (
    <Box borderTop="1px solid" borderColor="line" pt="5px" data-visit={visit.visited_on}>
      <Box display="flex" justifyContent="space-between" gap="10px" alignItems="baseline">
        <Box fontWeight="650" fontSize="body">
          Scouted on {visit.day_words}
        </Box>
        <DeleteButton
          name="visit"
          remove={() => take(client.DELETE("/api/scoutings/{scouting_id}", { params: { path } })).then(done)}
        />
      </Box>
      <Box
        display="grid"
        gap="6px 14px"
        gridTemplateColumns={visit.photo ? { base: "1fr", lg: "minmax(0, 1fr) 190px" } : "minmax(0, 1fr)"}
      >
        <Box display="grid" gap="4px">
          <Row least="130px">
            <DateField
              label="Visited on"
              name={key("visited_on")}
              value={visit.visited_on}
              save={(visited_on) => edit({ visited_on })}
            />
            <Field
              words
              label="What to bring"
              name={key("bring")}
              value={visit.bring}
              save={(bring) => edit({ bring })}
            />
          </Row>
          <Field words label="What was seen" name={key("note")} value={visit.note} save={(note) => edit({ note })} />
          {visit.angles.length > 0 && (
            <Box display="flex" gap="4px 16px" flexWrap="wrap" fontSize="small" alignItems="baseline">
              {visit.angles.map((angle) => (
                <span key={`${angle.name}${angle.bearing_deg}`}>
                  {angle.name}{" "}
                  <Box as="span" fontFamily="mono">
                    {angle.bearing_deg}° {angle.altitude_deg}°
                  </Box>
                </span>
              ))}
              <Button look="quiet" px="0" fontSize="small" onClick={() => void asSkyline()}>
                take as the skyline
              </Button>
            </Box>
          )}
          <Box display="flex" gap="8px" flexWrap="wrap">
            <FilePick
              label={visit.photo ? "Another photograph …" : "Add a photograph …"}
              accept="image/jpeg,image/png,image/tiff,image/webp"
              take={async (file) => {
                done(await upload<Schemas["ScoutingOut"]>(`/api/scoutings/${visit.id}/photo`, file));
                return "The photograph is kept.";
              }}
            />
            {visit.photo && (
              <DeleteButton
                name="photograph"
                remove={() =>
                  take(client.DELETE("/api/scoutings/{scouting_id}/photo", { params: { path } })).then(done)
                }
              />
            )}
          </Box>
        </Box>
        {visit.photo && (
          <img
            src={visit.photo}
            alt={`Scouted on ${visit.day_words}`}
            style={{ width: "100%", height: "auto", maxHeight: 180, objectFit: "contain" }}
          />
        )}
      </Box>
    </Box>
  );
}
