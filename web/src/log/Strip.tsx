import { Box } from "@chakra-ui/react";
import type { Schemas } from "../api/client";
import { Section } from "../ui/layout/Section";

type Spell = Schemas["SpellOut"];

const WIDE = 1000;
const ROW = 26;
const TOP = 18;

/** A session on one clock: what was planned above, what was taken below; frames that were planned carry their number. */
export function Strip({ strip }: { strip: Schemas["SessionStripOut"] }) {
  const rows = [
    ...(strip.planned.length ? [{ name: "planned", spells: strip.planned }] : []),
    { name: "taken", spells: strip.taken },
  ];
  const high = TOP + rows.length * ROW;
  return (
    <Section title="On one clock">
      <Box display="grid" gridTemplateColumns="62px minmax(0, 1fr)" fontSize="small" color="muted">
        <Box pt={`${TOP}px`}>
          {rows.map((row) => (
            <Box key={row.name} height={`${ROW}px`} lineHeight={`${ROW}px`}>
              {row.name}
            </Box>
          ))}
        </Box>
        <Box position="relative" data-strip="">
          <svg
            viewBox={`0 0 ${WIDE} ${high}`}
            preserveAspectRatio="none"
            width="100%"
            height={high}
            role="img"
            aria-label={rows.map((row) => `${row.name}: ${row.spells.map((item) => item.words).join("; ")}`).join(". ")}
          >
            {strip.ticks.map((tick) => (
              <line
                key={tick.share}
                x1={tick.share * WIDE}
                x2={tick.share * WIDE}
                y1={TOP - 3}
                y2={high}
                stroke="var(--lr-colors-line)"
                vectorEffect="non-scaling-stroke"
              />
            ))}
            {rows.map((row, at) =>
              row.spells.map((item) => <Bar key={`${row.name}${item.words}${item.from_share}`} item={item} row={at} />),
            )}
          </svg>
          {strip.ticks.map((tick, at) => (
            <Box
              key={tick.share}
              // On a phone every other one has room.
              display={{ base: at % 2 ? "none" : "block", lg: "block" }}
              position="absolute"
              top="-2px"
              left={`${tick.share * 100}%`}
              transform="translateX(-50%)"
              fontFamily="mono"
              fontSize="note"
            >
              {tick.clock}
            </Box>
          ))}
        </Box>
      </Box>
    </Section>
  );
}

function Bar({ item, row }: { item: Spell; row: number }) {
  const frame = item.kind === "frame";
  const left = item.from_share * WIDE;
  // Even the shortest exposure can be seen.
  const wide = Math.max(2.2, (item.to_share - item.from_share) * WIDE);
  const y = TOP + row * ROW + (frame ? 5 : 10);
  return (
    <rect
      x={left}
      y={y}
      width={wide}
      height={frame ? ROW - 10 : ROW - 20}
      fill={frame ? "var(--lr-colors-accent)" : "var(--lr-colors-edge)"}
      opacity={frame && item.number === 0 ? 0.45 : 1}
    >
      <title>{item.words}</title>
    </rect>
  );
}
