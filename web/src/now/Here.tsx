import { Box } from "@chakra-ui/react";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { ApiError, client, take } from "../api/client";
import { PlaceField, placeNamed } from "../places/PlaceField";
import { coordinatesOf, usePosition } from "../places/usePosition";
import { Button } from "../ui/form/Button";
import { Fall } from "./Fall";
import type { Begin } from "./questions";

const EACH_MS = 30_000;
const MOST_COMING = 8;

/** Where one is: coordinates, or a viewpoint of one's own. */
export interface Standing {
  viewpoint_id: number | null;
  coordinates: string;
  /** How far off the device's position may be [m]; null where it was typed. */
  within_m: number | null;
}

/** The query's part that says where one is. */
export const asQuery = (at: Standing): { viewpoint_id?: number; coordinates?: string } =>
  at.viewpoint_id !== null ? { viewpoint_id: at.viewpoint_id } : at.coordinates ? { coordinates: at.coordinates } : {};

/** The light here and now: what is left of it, how much there is, and what comes next. */
export function Here({ begin, at, stand }: { begin: Begin; at: Standing; stand: (at: Standing) => void }) {
  const here = asQuery(at);
  const said = Object.keys(here).length > 0;
  const [changing, setChanging] = useState(false);
  const found = useQuery({
    queryKey: ["now", "light", here],
    queryFn: ({ signal }) => take(client.GET("/api/now/light", { params: { query: here }, signal })),
    enabled: said,
    refetchInterval: EACH_MS,
    placeholderData: keepPreviousData,
    retry: false,
  });
  const light = found.data;
  const shown = light && (light.place || `${light.latitude_deg.toFixed(4)}, ${light.longitude_deg.toFixed(4)}`);
  const within = at.within_m !== null ? ` ± ${Math.round(at.within_m)} m` : "";
  return (
    <Box as="section" aria-label="Light here" data-now="light">
      <Box display="flex" flexWrap="wrap" alignItems="baseline" gap="0 6px" color="muted">
        <Box as="h1" fontSize="title" fontWeight="700" color="fg" mr="10px">
          Now
        </Box>
        {said && shown && !changing && (
          <>
            <span>
              {shown}
              {within}
            </span>
            <Button look="quiet" onClick={() => setChanging(true)}>
              change
            </Button>
          </>
        )}
      </Box>
      {(!said || changing) && (
        <Where
          begin={begin}
          first={!said}
          stand={(next) => {
            stand(next);
            setChanging(false);
          }}
          leave={said ? () => setChanging(false) : undefined}
        />
      )}
      {found.error && (
        <Box role="alert" color={found.error instanceof ApiError && found.error.away ? "haze" : "rust"} py="6px">
          {found.error.message}
          {found.error instanceof ApiError && found.error.away && " The light here needs it; the cards below go on."}
        </Box>
      )}
      {light && !changing && (
        <Box display="grid" gridTemplateColumns={{ base: "1fr", lg: "1fr 1fr" }} gap="6px 28px" alignItems="end">
          <Box>
            <Box display="flex" flexWrap="wrap" gap="0 36px">
              <Big figure={light.figure} words={light.words} />
              {light.ev100 !== null && <Big figure={`EV ${light.ev100.toFixed(1)}`} words={light.ev_words} />}
            </Box>
            <Box as="ul" display="flex" flexWrap="wrap" gap="0 14px" fontSize="small" mt="2px">
              {light.coming.slice(0, MOST_COMING).map((item, index, all) => (
                <Box as="li" key={`${item.kind} ${item.clock}`} whiteSpace="nowrap">
                  {item.tomorrow && !all[index - 1]?.tomorrow && (
                    <Box as="span" color="muted">
                      tomorrow{" "}
                    </Box>
                  )}
                  {item.words} <Mono>{item.clock}</Mono>
                  {item.figure && `, ${item.figure}`}
                </Box>
              ))}
              <Box as="li">{light.moon_words}</Box>
            </Box>
          </Box>
          <Fall light={light} />
        </Box>
      )}
    </Box>
  );
}

const Mono = ({ children }: { children: string }) => (
  <Box as="span" fontFamily="mono">
    {children}
  </Box>
);

function Big({ figure, words }: { figure: string; words: string }) {
  return (
    <Box>
      <Box fontFamily="mono" fontSize="34px" lineHeight="1.15">
        {figure}
      </Box>
      <Box color="muted" fontSize="small">
        {words}
      </Box>
    </Box>
  );
}

/** Ways to say where one is: by the device, a place of one's own, or coordinates. */
function Where({
  begin,
  first,
  stand,
  leave,
}: {
  begin: Begin;
  first: boolean;
  stand: (at: Standing) => void;
  leave: (() => void) | undefined;
}) {
  const [text, setText] = useState("");
  const [failure, setFailure] = useState<string>();
  const position = usePosition();
  const go = () => {
    const named = placeNamed(begin.places, text);
    if (named) return stand({ viewpoint_id: named.viewpoint_id, coordinates: "", within_m: null });
    if (text.trim()) stand({ viewpoint_id: null, coordinates: text.trim(), within_m: null });
  };
  return (
    <Box display="grid" gap="6px" maxW="640px" py="4px">
      {first && <Box color="muted">Where are you? Light, tide and fading light need it; the cards below do not.</Box>}
      <Box
        as="form"
        display="flex"
        gap="8px"
        alignItems="end"
        flexWrap="wrap"
        onSubmit={(event: React.FormEvent) => {
          event.preventDefault();
          go();
        }}
      >
        <Box flex="1 1 260px">
          <PlaceField
            label="One of your places, or coordinates"
            places={begin.places}
            text={text}
            put={(typed) => {
              setText(typed);
              const named = placeNamed(begin.places, typed);
              if (named) stand({ viewpoint_id: named.viewpoint_id, coordinates: "", within_m: null });
            }}
          />
        </Box>
        <Button type="submit" disabled={!text.trim()}>
          Go there
        </Button>
        {position.possible && (
          <Button
            look="main"
            disabled={position.busy}
            onClick={() =>
              void position.read().then(
                (found) =>
                  stand({
                    viewpoint_id: null,
                    coordinates: coordinatesOf(found),
                    within_m: found.within_m,
                  }),
                (error: Error) => setFailure(error.message),
              )
            }
          >
            {position.busy ? "Finding you …" : "Here"}
          </Button>
        )}
        {leave && (
          <Button look="quiet" onClick={leave}>
            cancel
          </Button>
        )}
      </Box>
      {failure && (
        <Box role="alert" color="rust" fontSize="small">
          {failure}
        </Box>
      )}
    </Box>
  );
}
