import { Box } from "@chakra-ui/react";
import { useEffect, useState } from "react";
import type { Schemas } from "../../api/client";
import { clockText } from "../offline/countdown";

type Sheet = Schemas["RunSheetOut"];

// Before the start by more than this one is not out yet [h].
const OUT_H = 8;

/** The light that is left and the tide's turn, on one bar from the start to where the light ends. */
export function LightLeft({ sheet, lateMin }: { sheet: Sheet; lateMin: number }) {
  const now = useNow();
  const start = sheet.start_utc ? Date.parse(sheet.start_utc) + lateMin * 60_000 : null;
  const end = sheet.light_ends_utc ? Date.parse(sheet.light_ends_utc) : null;
  if (start === null) return null;
  const planned = `${sheet.start_clock} start${sheet.light_ends_clock ? `, ${sheet.light_name} ends ${sheet.light_ends_clock}` : ""}`;
  const away = start - now > OUT_H * 3_600_000 || (end !== null && now - end > OUT_H * 3_600_000);
  if (away || end === null)
    return (
      <Box fontSize="body" color="muted">
        {planned}
        {sheet.tide?.turns[0] && `, ${turnWords(sheet.tide.turns)}`}
      </Box>
    );
  const from = Math.min(start, now);
  const share = (moment: number) =>
    Math.min(100, Math.max(0, ((moment - from) / (Math.max(end, now) - from || 1)) * 100));
  const left = (end - now) / 1000;
  const turns = (sheet.tide?.turns ?? []).filter(
    (turn) => Date.parse(turn.at_utc) > from && Date.parse(turn.at_utc) < end,
  );
  return (
    <Box display="grid" gap="4px" aria-label="Light left" role="group">
      <Box position="relative" height="16px" bg="raised" border="1px solid" borderColor="edge">
        <Box
          position="absolute"
          left={`${share(now)}%`}
          right="0"
          top="0"
          bottom="0"
          bg={left > 0 ? "low" : "raised"}
        />
        <Box position="absolute" left={`${share(now)}%`} top="-3px" bottom="-3px" width="3px" bg="accent" />
        {turns.map((turn) => (
          <Box
            key={turn.at_utc}
            position="absolute"
            left={`${share(Date.parse(turn.at_utc))}%`}
            top="-3px"
            bottom="-3px"
            width="2px"
            bg="haze"
          />
        ))}
      </Box>
      <Box display="flex" justifyContent="space-between" gap="10px" fontSize="lead" flexWrap="wrap">
        <span>
          {now < start
            ? `starts in ${clockText((start - now) / 1000)}`
            : left > 0
              ? "light left "
              : "the light has gone"}
          {now >= start && left > 0 && <b style={{ fontFamily: "var(--lr-fonts-mono)" }}>{clockText(left)}</b>}
        </span>
        <Box as="span" color="muted">
          {sheet.tide ? turnWords(sheet.tide.turns, now) : `ends ${sheet.light_ends_clock}`}
        </Box>
      </Box>
    </Box>
  );
}

function turnWords(turns: { kind: string; clock: string; height: string; at_utc: string }[], now = 0): string {
  const next = turns.find((turn) => Date.parse(turn.at_utc) > now);
  return next ? `${next.kind} ${next.clock}, ${next.height}` : "";
}

function useNow(): number {
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    const timer = window.setInterval(() => setNow(Date.now()), 1000);
    return () => window.clearInterval(timer);
  }, []);
  return now;
}
