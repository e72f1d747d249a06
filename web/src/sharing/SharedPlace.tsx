import { Box } from "@chakra-ui/react";
import type { Schemas } from "../api/client";
import { LocationSketch } from "../places/LocationSketch";

/** A location that somebody has shared: where it is, how one gets there, and what is seen from where. */
export function SharedPlace({ title, place }: { title: string; place: Schemas["SharedLocationOut"] }) {
  return (
    <Box as="article" className="on-paper" display="grid" gap="14px" lineHeight="1.3">
      <Box borderBottom="2px solid currentColor" pb="6px">
        <Box as="h1" fontSize="1.5em" fontWeight="700">
          {title}
        </Box>
        <Box>{place.position_words}</Box>
      </Box>
      {place.notes && <Box whiteSpace="pre-line">{place.notes}</Box>}
      {place.sketch && (
        <Box height={{ base: "350px", md: "300px" }} fontSize="lead" className="no-print">
          <LocationSketch name={title} sketch={place.sketch} />
        </Box>
      )}
      {place.parts.map((part) => (
        <Box key={part.title}>
          <Heading words={part.title} />
          <Box as="ul">
            {part.lines.map((line) => (
              <li key={line}>{line}</li>
            ))}
          </Box>
        </Box>
      ))}
      {place.viewpoints.map((point) => (
        <Box key={point.name} css={{ breakInside: "avoid" }}>
          <Heading words={point.name} />
          {point.position_words && <Box>{point.position_words}</Box>}
          {point.notes && <Box whiteSpace="pre-line">{point.notes}</Box>}
          <Box as="ul" mt="4px">
            {point.seen.map((item, at) => (
              <Box
                as="li"
                // biome-ignore lint/suspicious/noArrayIndexKey: the shared lines of a place do not change, and may have no name
                key={at}
                display="flex"
                justifyContent="space-between"
                gap="16px"
                borderTop="1px solid color-mix(in srgb, currentColor 22%, transparent)"
                py="2px"
              >
                <span>{item.name || item.told}</span>
                {item.name && <span style={{ textAlign: "right" }}>{item.told}</span>}
              </Box>
            ))}
          </Box>
        </Box>
      ))}
    </Box>
  );
}

function Heading({ words }: { words: string }) {
  return (
    <Box as="h2" fontSize="1.15em" fontWeight="700" mb="2px">
      {words}
    </Box>
  );
}
