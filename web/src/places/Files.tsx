import { Box } from "@chakra-ui/react";
import type { Schemas } from "../api/client";
import { upload } from "../api/upload";
import { ButtonLink } from "../ui/form/Button";
import { FilePick } from "../ui/form/FilePick";
import { Section } from "../ui/layout/Section";
import { useLocation } from "./useLocation";

export const PLACE_FILES = ".gpx,.kml,.geojson,.json,.csv";
const ENDINGS = ["gpx", "kml", "geojson", "csv"];

/** Points and tracks of a location from files, and as files. */
export function Files({ location }: { location: Schemas["LocationOut"] }) {
  const { done } = useLocation(location.id);
  return (
    <Section title="Files">
      <FilePick
        label="Import points and tracks …"
        accept={PLACE_FILES}
        hint="GPX, KML, GeoJSON or CSV: points become viewpoints, tracks become walks"
        take={async (file) => {
          const answer = await upload<Schemas["ImportedOut"]>(`/api/locations/${location.id}/import`, file);
          done(answer);
          return answer.words;
        }}
      />
      <Box display="flex" gap="8px" flexWrap="wrap" alignItems="baseline" fontSize="body">
        Save as
        {ENDINGS.map((ending) => (
          <ButtonLink key={ending} look="quiet" href={`/api/locations/${location.id}/export/${ending}`} download>
            {ending === "geojson" ? "GeoJSON" : ending.toUpperCase()}
          </ButtonLink>
        ))}
      </Box>
    </Section>
  );
}
