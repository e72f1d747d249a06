import { Box } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { locationsQuery, recipeQuery, shotNamesQuery } from "../api/queries";
import { Labelled, SelectBox } from "../ui/form/Field";
import { Row, Section } from "../ui/layout/Section";
import type { Entry } from "./entry";

/** A recipe from a picture: what its water and its light were, when that light comes again, and which shutter does the same elsewhere. */
export function Recipe({ entry }: { entry: Entry }) {
  const frames = entry.frames.filter((frame) => frame.shutter);
  const best = [...frames].sort((a, b) => (b.stars ?? 0) - (a.stars ?? 0))[0];
  const [frameId, setFrameId] = useState<number | null>(best?.id ?? null);
  const [locationId, setLocationId] = useState<number | null>(null);
  const [shotId, setShotId] = useState<number | null>(null);
  const places = useQuery(locationsQuery());
  const shots = useQuery(shotNamesQuery());
  const query = useQuery({
    ...recipeQuery(frameId ?? 0, locationId, shotId),
    enabled: frameId !== null && entry.location_id !== null,
  });
  if (!best || entry.location_id === null) return null;
  return (
    <Section title="The same again">
      <Row least="150px">
        <Labelled label="Frame">
          <SelectBox value={String(frameId ?? "")} onChange={(event) => setFrameId(Number(event.target.value))}>
            {frames.map((frame) => (
              <option key={frame.id} value={frame.id}>
                {frame.shutter} {frame.look} {frame.stars ? `(${frame.stars} of 5)` : ""}
              </option>
            ))}
          </SelectBox>
        </Labelled>
        <Labelled label="Light again at">
          <SelectBox
            value={String(locationId ?? "")}
            onChange={(event) => setLocationId(Number(event.target.value) || null)}
          >
            <option value="">the same place</option>
            {(places.data?.locations ?? []).map((place) => (
              <option key={place.id} value={place.id}>
                {place.name}
              </option>
            ))}
          </SelectBox>
        </Labelled>
        <Labelled label="On the water of">
          <SelectBox value={String(shotId ?? "")} onChange={(event) => setShotId(Number(event.target.value) || null)}>
            <option value="">no other shot</option>
            {(shots.data ?? []).map((shot) => (
              <option key={shot.id} value={shot.id}>
                {shot.name}
              </option>
            ))}
          </SelectBox>
        </Labelled>
      </Row>
      {query.error && <Box color="rust">{query.error.message}</Box>}
      {query.data && (
        <Box fontSize="body" display="grid" gap="3px" data-recipe="">
          {query.data.lines.map((text) => (
            <div key={text}>{text}</div>
          ))}
          {query.data.again.length > 0 && (
            <Box>
              That sun comes again at {query.data.place}:
              {query.data.again.map((span) => (
                <Box key={span.days} fontFamily="mono" fontSize="small">
                  {span.days}, about {span.clock}
                </Box>
              ))}
            </Box>
          )}
        </Box>
      )}
    </Section>
  );
}
