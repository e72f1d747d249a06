import { Box } from "@chakra-ui/react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { client, type Schemas, take } from "../api/client";
import { locationsQuery, refreshPlans } from "../api/queries";
import { readsFrom } from "../api/session";
import { upload } from "../api/upload";
import { asBody } from "../lib/drafts/asBody";
import { useTitle } from "../lib/focus/useTitle";
import { Button, ButtonLink } from "../ui/form/Button";
import { FilePick } from "../ui/form/FilePick";
import { NewForm } from "../ui/form/NewForm";
import { Empty, FailedPage, Pending } from "../ui/layout/States";
import { UndoBar } from "../ui/overlay/UndoBar";
import { PLACE_FILES } from "./Files";
import { LocationDetail } from "./LocationDetail";

/** All locations, and one of them opened. */
export default function Locations() {
  const query = useQuery(locationsQuery());
  useEffect(() => readsFrom("/api/locations"), []);
  const wanted = Number(useParams().locationId);
  const [making, setMaking] = useState(false);
  useTitle(query.data?.locations.find((location) => location.id === wanted)?.name, "Locations");
  const navigate = useNavigate();
  const queries = useQueryClient();
  if (query.error) return <FailedPage error={query.error} retry={() => void query.refetch()} />;
  if (!query.data) return <Pending what="the locations" />;
  const { locations } = query.data;
  const open =
    locations.find((location) => location.id === wanted) ?? (Number.isNaN(wanted) ? locations[0] : undefined);
  const add = async (values: Record<string, string>) => {
    const made = await take(client.POST("/api/locations", { body: asBody<Schemas["LocationIn"]>(values) }));
    refreshPlans(queries);
    setMaking(false);
    void navigate(`/locations/${made.id}`);
  };
  // The zone is said below the field, never written into it: nothing changes what is being typed.
  const zoneHint = async (values: Record<string, string>): Promise<Record<string, string>> => {
    if (values.zone || !values.coordinates?.trim()) return {};
    const place = await take(client.GET("/api/coordinates", { params: { query: { text: values.coordinates } } }));
    const { latitude_deg, longitude_deg } = place;
    const answer = await take(client.GET("/api/zone", { params: { query: { latitude_deg, longitude_deg } } }));
    return { zone: `left empty: ${answer.zone}` };
  };
  const importFile = async (file: File) => {
    const answer = await upload<Schemas["ImportedOut"]>("/api/locations/import", file);
    refreshPlans(queries);
    void navigate(`/locations/${answer.location.id}`);
    return answer.words;
  };
  return (
    <Box as="main" id="main" tabIndex={-1} outline="none" px="16px" py="14px" maxW="1700px" mx="auto">
      <Box display="flex" flexWrap="wrap" gap="6px 14px" alignItems="center" mb="12px">
        <Box as="h1" fontSize="title" fontWeight="700">
          Locations
        </Box>
        <Button look="main" onClick={() => setMaking(!making)}>
          New location
        </Button>
        <FilePick label="From a file …" accept={PLACE_FILES} take={importFile} />
        <UndoBar
          undo={query.data.undo}
          scopes={["locations", ...locations.map((location) => `location:${location.id}`)]}
        />
        <Box flex={{ base: "1 0 100%", lg: "1" }} />
        <Box fontSize="body" color="muted">
          all as{" "}
          <ButtonLink look="quiet" px="3px" href="/api/export/gpx" download>
            GPX
          </ButtonLink>
          <ButtonLink look="quiet" px="3px" href="/api/export/geojson" download>
            GeoJSON
          </ButtonLink>
        </Box>
      </Box>
      {making && (
        <Box bg="panel" p="14px" mb="14px" maxW="860px">
          <NewForm
            name="location"
            label="Add the location"
            fields={[
              {
                name: "coordinates",
                label: "Coordinates",
                placeholder: "54.531, -3.214",
                hint: "decimal degrees, degrees-minutes-seconds, UTM or MGRS; all that is needed",
              },
              { name: "name", label: "Name", placeholder: "Sallow Estuary", hint: "left empty: its coordinates" },
              { name: "elevation_m", label: "Elevation", placeholder: "0", unit: "m" },
              { name: "zone", label: "Time zone", hint: "left empty: found from the coordinates" },
            ]}
            submit={add}
            cancel={() => setMaking(false)}
            hint={zoneHint}
          />
        </Box>
      )}
      {locations.length === 0 ? (
        <Empty>No locations yet. A location needs nothing but its coordinates; its time zone follows from them.</Empty>
      ) : (
        <Box display="grid" gap="14px 28px" gridTemplateColumns={{ base: "1fr", lg: "200px minmax(0, 1fr)" }}>
          <Box as="ul">
            {locations.map((location) => (
              <Box
                as="li"
                key={location.id}
                borderTop="1px solid"
                borderColor="line"
                py="6px"
                borderLeft="3px solid"
                borderLeftColor={open?.id === location.id ? "accent" : "transparent"}
                pl="9px"
              >
                <Link
                  to={`/locations/${location.id}`}
                  style={{ textDecoration: "none", fontWeight: open?.id === location.id ? 650 : 450 }}
                >
                  {location.name}
                </Link>
                <Box fontFamily="mono" fontSize="small" color="muted">
                  {Math.abs(location.latitude_deg).toFixed(2)}° {location.latitude_deg < 0 ? "S" : "N"}{" "}
                  {Math.abs(location.longitude_deg).toFixed(2)}° {location.longitude_deg < 0 ? "W" : "E"}
                </Box>
              </Box>
            ))}
          </Box>
          {open ? (
            <LocationDetail key={open.id} location={open} all={query.data} />
          ) : (
            <Empty>This location does not exist any more. Undo brings it back.</Empty>
          )}
        </Box>
      )}
    </Box>
  );
}
