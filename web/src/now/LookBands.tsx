import { Box, chakra } from "@chakra-ui/react";
import type { Schemas } from "../api/client";
import { moveInBar, stopOfBar } from "../lib/focus/bar";

type Bands = Schemas["LookTimesOut"][];

/** The looks side by side over the logarithm of the shutter time; a press chooses one. */
export function LookBands({ bands, look, choose }: { bands: Bands; look: string; choose: (look: string) => void }) {
  // What is frozen begins at no time at all: it is drawn over three stops.
  const stops = (band: Bands[number]) => (band.from_s > 0 ? Math.log2(band.to_s / band.from_s) : 3);
  return (
    <Box display="flex" gap="2px" role="toolbar" aria-label="Looks" onKeyDown={moveInBar}>
      {bands.map((band, at) => (
        <chakra.button
          key={band.name}
          type="button"
          tabIndex={stopOfBar(
            bands.map((item) => item.name === look),
            at,
          )}
          aria-pressed={band.name === look}
          onClick={() => choose(band.name)}
          flex={`${Math.max(2.6, stops(band))} 1 0`}
          minW="0"
          minH={{ base: "44px", lg: "28px" }}
          px="3px"
          border="0"
          cursor="pointer"
          fontSize="small"
          overflow="hidden"
          textOverflow="ellipsis"
          bg={band.name === look ? "accent" : "raised"}
          color={band.name === look ? "onAccent" : "fg"}
        >
          {band.label}
        </chakra.button>
      ))}
    </Box>
  );
}
