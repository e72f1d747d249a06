import { Box } from "@chakra-ui/react";
import type { Schemas } from "../../api/client";
import { percent } from "../../lib/format/numbers";
import type { ShotWork } from "../../shots/useShot";
import { Button } from "../../ui/form/Button";

/** The alignments of a year, each to be put into the shot. */
export function Hits({ hits, set }: { hits: Schemas["HitOut"][]; set: ShotWork["set"] }) {
  if (!hits.length) return null;
  return (
    <Box as="ul" maxH="190px" overflowY="auto" aria-label="Alignments found" css={{ scrollbarWidth: "thin" }}>
      {hits.map((hit) => (
        <Box
          as="li"
          key={hit.best_utc}
          display="grid"
          gridTemplateColumns="1fr auto auto"
          gap="10px"
          alignItems="baseline"
          fontSize="small"
          borderBottom="1px solid"
          borderColor="line"
          py="2px"
        >
          <span>
            {hit.date_words}{" "}
            <Box as="span" color="muted">
              {hit.light}
              {hit.fraction !== null ? `, ${percent(hit.fraction)} lit` : ""}
              {hit.frame_words ? `; ${hit.frame_words}` : ""}
            </Box>
          </span>
          <Box as="span" fontFamily="mono">
            {hit.best_clock} {hit.altitude_deg.toFixed(1)}°
          </Box>
          <Button look="quiet" py="0" fontSize="small" onClick={() => set({ time_utc: hit.best_utc })}>
            put into the shot
          </Button>
        </Box>
      ))}
    </Box>
  );
}
