import { Box } from "@chakra-ui/react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { client, type Schemas, take } from "../api/client";
import { locationsQuery, refreshPlans } from "../api/queries";
import { upload } from "../api/upload";
import { Button, ButtonLink } from "../parts/Button";
import { FilePick } from "../parts/FilePick";
import { NewForm } from "../parts/NewForm";
import { Empty, Failed, Pending } from "../parts/States";
import { PLACE_FILES } from "./Files";
import { LocationDetail } from "./LocationDetail";

/** All locations, and one of them opened. */
export default function Locations() {
  const query = useQuery(locationsQuery());
  const wanted = Number(useParams().locationId);
  const [making, setMaking] = useState(false);
  const navigate = useNavigate();
  const queries = useQueryClient();
  if (query.error) return <Failed error={query.error} retry={() => void query.refetch()} />;
  if (!query.data) return <Pending what="the locations" />;
  const { locations } = query.data;
  const open = locations.find((location) => location.id === wanted) ?? (Number.isNaN(wanted) ? locations[0] : undefined);
  const add = async (values: Record<string, string>) => {
    const made = await take(client.POST("/api/locations", { body: values as unknown as Schemas["LocationIn"] }));
    refreshPlans(queries);
    setMaking(false);
    void navigate(`/locations/${made.id}`);
  };
  const proposeZone = async (values: Record<string, string>) => {
    if (values.zone || !values.coordinates?.trim()) return values;
    const place = await take(client.GET("/api/coordinates", { params: { query: { text: values.coordinates } } })).catch(
      () => undefined,
    );
    if (!place) return values;
    const { latitude_deg, longitude_deg } = place;
    const answer = await take(client.GET("/api/zone", { params: { query: { latitude_deg, longitude_deg } } })).catch(
      () => undefined,
    );
    return answer ? { ...values, zone: answer.zone } : values;
  };
  const importFile = async (file: File) => {
    const answer = await upload<Schemas["ImportedOut"]>("/api/locations/import", file);
    refreshPlans(queries);
    void navigate(`/locations/${answer.location.id}`);
    return answer.words;
  };
  const undo = async () => {
    await take(
      client.POST("/api/undo", { body: { scopes: ["locations", ...locations.map((location) => `location:${location.id}`)] } }),
    ).catch(() => undefined);
    refreshPlans(queries);
  };
  return (
    <Box as="main" px="16px" py="14px" maxW="1700px" mx="auto">
      <Box display="flex" flexWrap="wrap" gap="6px 14px" alignItems="center" mb="12px">
        <Box as="h1" fontSize="24px" fontWeight="700">
          Locations
        </Box>
        <Button look="main" onClick={() => setMaking(!making)}>
          New location
        </Button>
        <FilePick label="From a file …" accept={PLACE_FILES} take={importFile} />
        <Button look="quiet" onClick={() => void undo()}>
          undo
        </Button>
        <Box flex={{ base: "1 0 100%", lg: "1" }} />
        <Box fontSize="14px" color="muted">
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
              { name: "name", label: "Name", placeholder: "Sallow Estuary" },
              {
                name: "coordinates",
                label: "Coordinates",
                placeholder: "54.531, -3.214",
                hint: "decimal degrees, degrees-minutes-seconds, UTM or MGRS",
              },
              { name: "elevation_m", label: "Elevation", placeholder: "0", unit: "m" },
              { name: "zone", label: "Time zone", hint: "proposed from the coordinates" },
            ]}
            submit={add}
            cancel={() => setMaking(false)}
            changed={proposeZone}
          />
        </Box>
      )}
      {locations.length === 0 ? (
        <Empty>No locations yet. A location needs a name and its coordinates; its time zone is proposed.</Empty>
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
                <Box fontFamily="mono" fontSize="13px" color="muted">
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
