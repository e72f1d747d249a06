import { Box } from "@chakra-ui/react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { client, type Schemas, take } from "../api/client";
import { OPTIONS } from "../api/facts";
import { lightQuery, locationsQuery, sketchQuery } from "../api/queries";
import { asBody } from "../lib/drafts/asBody";
import { coordinates, plain } from "../lib/format/numbers";
import { dayText, readDay } from "../lib/format/spelling";
import { ShareButton } from "../sharing/ShareButton";
import { FallOfLight } from "../steps/light/FallOfLight";
import { SkylineRibbon } from "../steps/light/SkylineRibbon";
import { Button } from "../ui/form/Button";
import { DateField } from "../ui/form/DateField";
import { DeleteButton } from "../ui/form/DeleteButton";
import { Field, Select } from "../ui/form/Field";
import { NewForm } from "../ui/form/NewForm";
import { Row, Section } from "../ui/layout/Section";
import { Empty, Failed } from "../ui/layout/States";
import { Tabs } from "../ui/layout/Tabs";
import { Approach } from "./Approach";
import { Hazards, Seasons } from "./Dangers";
import { Files } from "./Files";
import { LocationSketch } from "./LocationSketch";
import { Openings } from "./Openings";
import { OwnTide } from "./OwnTide";
import { useLocation } from "./useLocation";
import { ViewpointPanel } from "./ViewpointPanel";

/** The day that a text means; it is not kept, and the server need not read it. */
function read(text: string): string {
  const found = readDay(text);
  if (found === undefined) throw new Error(`“${text}” is not a date here. Write ${dayText("2026-11-24")}.`);
  return found;
}

type View = "above" | "sky" | "day";

/** One location: from above, its light, the way there, its dangers and seasons, its viewpoints. */
export function LocationDetail({ location, all }: { location: Schemas["LocationOut"]; all: Schemas["LocationsOut"] }) {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const { save, edit, done } = useLocation(location.id);
  const [adding, setAdding] = useState(false);
  const key = (field: string) => `location:${location.id}:${field}`;
  const remove = async () => {
    await take(client.DELETE("/api/locations/{location_id}", { params: { path: { location_id: location.id } } }));
    // It leaves the page before anything of it could be asked for again.
    queries.setQueryData(
      locationsQuery().queryKey,
      (before) => before && { ...before, locations: before.locations.filter((item) => item.id !== location.id) },
    );
    queries.removeQueries({ queryKey: ["light"] });
    queries.removeQueries({ queryKey: ["locations", location.id] });
    done(undefined);
    void navigate("/locations");
  };
  return (
    <Box
      minW="0"
      display="grid"
      gap="6px 26px"
      gridTemplateColumns="minmax(0, 1fr)"
      css={{ "@media (min-width: 1180px)": { gridTemplateColumns: "minmax(0, 3fr) minmax(0, 2fr)" } }}
      alignItems="start"
    >
      <Box minW="0">
        <LocationDrawings location={location} />
        {location.viewpoints.map((point) => (
          <ViewpointPanel key={point.id} location={location} viewpoint={point} />
        ))}
        {adding ? (
          <NewForm
            name={`viewpoint:${location.id}`}
            label="Add the viewpoint"
            fields={[
              { name: "name", label: "Name", placeholder: "North shore" },
              {
                name: "coordinates",
                label: "Coordinates",
                placeholder: "54.531, -3.214",
                hint: "or from another viewpoint:",
              },
              {
                name: "from_viewpoint_id",
                label: "Seen from",
                options: [
                  { value: "", label: "–" },
                  ...location.viewpoints.map((point) => ({ value: String(point.id), label: point.name })),
                ],
              },
              { name: "from_bearing_deg", label: "at a bearing of", unit: "°", placeholder: "62" },
              { name: "from_distance_m", label: "and a distance of", placeholder: "140 m" },
            ]}
            cancel={() => setAdding(false)}
            submit={async ({ from_viewpoint_id, ...values }) => {
              await take(
                client.POST("/api/locations/{location_id}/viewpoints", {
                  params: { path: { location_id: location.id } },
                  body: asBody<Schemas["ViewpointIn"]>({
                    ...values,
                    ...(from_viewpoint_id ? { from_viewpoint_id: Number(from_viewpoint_id) } : {}),
                  }),
                }),
              ).then(done);
              setAdding(false);
            }}
          />
        ) : (
          <Box display="flex" gap="8px" flexWrap="wrap" pt="8px">
            <Button onClick={() => setAdding(true)}>Add a viewpoint</Button>
            <ShareButton of={{ location: location.id }} />
            <DeleteButton
              name={location.name}
              remove={remove}
              uses={location.viewpoints.flatMap((point) => point.used_by)}
            />
          </Box>
        )}
      </Box>
      <Box minW="0">
        <Section title={location.name}>
          <Row least="165px">
            <Field words label="Name" name={key("name")} value={location.name} save={save("name")} />
            <Field
              label="Coordinates"
              name={key("coordinates")}
              value={coordinates(location.latitude_deg, location.longitude_deg)}
              hint="degrees, DMS, UTM or MGRS"
              save={save("coordinates")}
            />
            <Field
              label="Elevation"
              name={key("elevation_m")}
              value={plain(location.elevation_m, 1)}
              unit="m"
              save={save("elevation_m")}
            />
            <Field words label="Time zone" name={key("zone")} value={location.zone} save={save("zone")} />
            <Select
              label="Horizon"
              field="horizon"
              value={location.horizon}
              options={OPTIONS.Horizon}
              choose={(horizon) => void edit({ horizon: horizon ?? "as_typed" })}
            />
            {location.horizon === "land" && (
              <Field
                label="Lower by"
                name={key("horizon_drop_m")}
                value={plain(location.horizon_drop_m, 0)}
                unit="m"
                save={save("horizon_drop_m")}
              />
            )}
          </Row>
          <Field words label="Notes" name={key("notes")} value={location.notes} save={save("notes")} />
        </Section>
        <Approach location={location} />
        <Openings location={location} />
        <Hazards location={location} />
        <OwnTide location={location} tides={all.tide_places} />
        <Seasons location={location} />
        <Files location={location} />
      </Box>
    </Box>
  );
}

function LocationDrawings({ location }: { location: Schemas["LocationOut"] }) {
  const [view, setView] = useState<View>("above");
  const [day, setDay] = useState(() => new Date().toLocaleDateString("sv-SE", { timeZone: location.zone }));
  const [pointId, setPointId] = useState<number>();
  const point = location.viewpoints.find((item) => item.id === pointId) ?? location.viewpoints[0];
  const sketch = useQuery(sketchQuery(location.id));
  const light = useQuery({ ...lightQuery(point?.id ?? 0, day), enabled: Boolean(point) && view !== "above" });
  const failed = view === "above" ? sketch : light;
  return (
    <Tabs
      label="Views of the location"
      value={view}
      options={[
        { value: "above", label: "From above" },
        { value: "sky", label: "The skyline" },
        { value: "day", label: "A day of light" },
      ]}
      choose={setView}
      aside={
        view !== "above" && (
          <Box display="flex" gap="8px" alignItems="end">
            {location.viewpoints.length > 1 &&
              location.viewpoints.map((item) => (
                <Button
                  key={item.id}
                  look={item.id === point?.id ? "chosen" : "quiet"}
                  py="1px"
                  fontSize="small"
                  onClick={() => setPointId(item.id)}
                >
                  {item.name}
                </Button>
              ))}
            <Box width="150px">
              <DateField
                label="Date"
                name={`view:${location.id}:date_local`}
                value={day}
                save={async (text) => setDay(read(text))}
              />
            </Box>
          </Box>
        )
      }
    >
      <Box height="400px" pb="10px">
        {failed.error ? (
          <Failed error={failed.error} retry={() => void failed.refetch()} />
        ) : view === "above" ? (
          sketch.data && <LocationSketch name={location.name} sketch={sketch.data} />
        ) : !point ? (
          <Empty>Light needs a viewpoint: add one below.</Empty>
        ) : light.data ? (
          view === "sky" ? (
            <SkylineRibbon day={light.data} centre={light.data.noon_compass === "N" ? 0 : 180} />
          ) : (
            <FallOfLight day={light.data} />
          )
        ) : null}
      </Box>
    </Tabs>
  );
}
