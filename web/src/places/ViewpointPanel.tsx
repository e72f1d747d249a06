import { Box } from "@chakra-ui/react";
import { client, type Schemas, take } from "../api/client";
import { AddElement } from "../steps/place/AddElement";
import { ElementList } from "../steps/place/ElementList";
import { DeleteButton } from "../ui/form/DeleteButton";
import { Field } from "../ui/form/Field";
import { Row, Section } from "../ui/layout/Section";
import { Scoutings } from "./Scoutings";
import { SkylinePanel } from "./SkylinePanel";
import { useLocation } from "./useLocation";

/** A viewpoint: where it is, what the land around it hides, what is seen from it. */
export function ViewpointPanel({
  location,
  viewpoint,
}: {
  location: Schemas["LocationOut"];
  viewpoint: Schemas["ViewpointOut"];
}) {
  const { done } = useLocation(location.id);
  const path = { viewpoint_id: viewpoint.id };
  const edit = (body: Schemas["ViewpointPatch"]) =>
    take(client.PATCH("/api/viewpoints/{viewpoint_id}", { params: { path }, body })).then(done);
  const key = (field: string) => `viewpoint:${viewpoint.id}:${field}`;
  return (
    <Section
      title={viewpoint.name}
      aside={
        <DeleteButton
          name="viewpoint"
          uses={viewpoint.used_by}
          remove={() => take(client.DELETE("/api/viewpoints/{viewpoint_id}", { params: { path } })).then(done)}
        />
      }
    >
      <Row least="150px">
        <Field
          words
          label="Name of the viewpoint"
          name={key("name")}
          value={viewpoint.name}
          save={(name) => edit({ name })}
        />
        <Field
          label="Coordinates"
          name={key("coordinates")}
          value={viewpoint.position_own ? viewpoint.position_words : ""}
          placeholder="as the location"
          hint="degrees, minutes and seconds, UTM or MGRS"
          save={(text) => edit({ coordinates: text.trim() || null })}
        />
      </Row>
      <SkylinePanel location={location} viewpoint={viewpoint} />
      <Scoutings viewpoint={viewpoint} done={done} />
      <Box>
        <ElementList elements={viewpoint.elements} />
      </Box>
      <AddElement viewpointId={viewpoint.id} />
    </Section>
  );
}
