import { Box } from "@chakra-ui/react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { client, type Schemas, take } from "../api/client";
import { lightQuery, refreshPlans } from "../api/queries";
import { Button } from "../parts/Button";
import { DeleteButton } from "../parts/DeleteButton";
import { Field } from "../parts/Field";
import { NewForm } from "../parts/NewForm";
import { Row, Section } from "../parts/Section";
import { Failed } from "../parts/States";
import { FallOfLight } from "../steps/light/FallOfLight";
import { AddElement } from "../steps/place/AddElement";
import { ElementList } from "../steps/place/ElementList";

/** One location: what it is, its light on a day, its viewpoints and what is seen from them. */
export function LocationDetail({ location }: { location: Schemas["LocationOut"] }) {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const [day, setDay] = useState(() => new Date().toLocaleDateString("sv-SE", { timeZone: location.zone }));
  const [adding, setAdding] = useState(false);
  const light = useQuery(lightQuery(location.id, day));
  const key = (field: string) => `location:${location.id}:${field}`;
  const save = (field: keyof Schemas["LocationPatch"]) => async (text: string) => {
    await take(
      client.PATCH("/api/locations/{location_id}", { params: { path: { location_id: location.id } }, body: { [field]: text } }),
    );
    refreshPlans(queries);
  };
  const remove = async () => {
    await take(client.DELETE("/api/locations/{location_id}", { params: { path: { location_id: location.id } } }));
    // Its light is not to be asked for again.
    queries.removeQueries({ queryKey: ["light", location.id] });
    refreshPlans(queries);
    void navigate("/locations");
  };
  return (
    <Box minW="0" display="grid" gap="6px">
      <Section title={location.name}>
        <Row least="110px">
          <Field words label="Name" name={key("name")} value={location.name} save={save("name")} />
          <Field
            label="Latitude"
            name={key("latitude_deg")}
            value={String(location.latitude_deg)}
            unit="° N"
            save={save("latitude_deg")}
          />
          <Field
            label="Longitude"
            name={key("longitude_deg")}
            value={String(location.longitude_deg)}
            unit="° E"
            save={save("longitude_deg")}
          />
          <Field
            label="Elevation"
            name={key("elevation_m")}
            value={String(location.elevation_m)}
            unit="m"
            save={save("elevation_m")}
          />
          <Field words label="Time zone" name={key("zone")} value={location.zone} save={save("zone")} />
        </Row>
        <Field words label="Notes" name={key("notes")} value={location.notes} save={save("notes")} />
      </Section>
      <Section
        title="A day of light here"
        aside={
          <Box width="170px">
            <Field
              label="Date"
              type="date"
              name={`view:${location.id}:date_local`}
              value={day}
              save={async (text) => text && setDay(text)}
            />
          </Box>
        }
      >
        {light.error && <Failed error={light.error} retry={() => void light.refetch()} />}
        <Box height="340px">{light.data && <FallOfLight day={light.data} />}</Box>
      </Section>
      {location.viewpoints.map((point) => (
        <Section
          key={point.id}
          title={point.name}
          aside={
            <DeleteButton
              name="viewpoint"
              remove={async () => {
                await take(client.DELETE("/api/viewpoints/{viewpoint_id}", { params: { path: { viewpoint_id: point.id } } }));
                refreshPlans(queries);
              }}
            />
          }
        >
          <Field
            words
            label="Name of the viewpoint"
            name={`viewpoint:${point.id}:name`}
            value={point.name}
            save={async (name) => {
              await take(
                client.PATCH("/api/viewpoints/{viewpoint_id}", { params: { path: { viewpoint_id: point.id } }, body: { name } }),
              );
              refreshPlans(queries);
            }}
          />
          <ElementList elements={point.elements} />
          <AddElement viewpointId={point.id} />
        </Section>
      ))}
      {adding ? (
        <NewForm
          name={`viewpoint:${location.id}`}
          label="Add the viewpoint"
          fields={[{ name: "name", label: "Name", placeholder: "North shore" }]}
          cancel={() => setAdding(false)}
          submit={async (values) => {
            await take(
              client.POST("/api/locations/{location_id}/viewpoints", {
                params: { path: { location_id: location.id } },
                body: values as unknown as Schemas["ViewpointIn"],
              }),
            );
            refreshPlans(queries);
            setAdding(false);
          }}
        />
      ) : (
        <Box display="flex" gap="8px" flexWrap="wrap">
          <Button onClick={() => setAdding(true)}>Add a viewpoint</Button>
          <DeleteButton name={location.name} remove={remove} />
        </Box>
      )}
    </Box>
  );
}
