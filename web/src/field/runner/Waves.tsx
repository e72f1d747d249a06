import { Box } from "@chakra-ui/react";
import { useEffect, useState } from "react";
import type { Schemas } from "../../api/client";
import type { RunWork } from "../offline/useRun";
import { dueInS, openInS, type Rhythm, rhythmOf } from "./rhythm";
import { Thumb } from "./Thumb";

/** Tap at each wave or gust: the period with its spread, a bar towards the next, and when to open the shutter. */
export function Waves({ work, frame }: { work: RunWork; frame: Schemas["RunFrameOut"] | null }) {
  const [taps, setTaps] = useState<number[]>([]);
  const [now, setNow] = useState(() => Date.now());
  const rhythm = rhythmOf(taps);
  useEffect(() => {
    const timer = window.setInterval(() => setNow(Date.now()), 100);
    return () => window.clearInterval(timer);
  }, []);
  const shutter = frame ? (work.found.settings[frame.key]?.shutter_s ?? frame.shutter_s) : null;
  return (
    <Box display="grid" gap="12px" fontSize="heading">
      <Thumb look="main" minH="110px" fontSize="title" onClick={() => setTaps([...taps, Date.now()])}>
        Tap as each {taps.length ? `comes in (${taps.length})` : "wave or gust comes in"}
      </Thumb>
      {rhythm ? (
        <>
          <Box fontFamily="mono" fontSize="display" fontWeight="600">
            {rhythm.periodS.toFixed(1)} s
            <Box as="span" fontSize="heading" fontFamily="body" color="muted" ml="10px">
              {rhythm.spreadS === null
                ? "from one wave to the next"
                : `± ${rhythm.spreadS.toFixed(1)} s over ${rhythm.count}`}
            </Box>
          </Box>
          <Due rhythm={rhythm} now={now} shutterS={shutter} />
        </>
      ) : (
        <Box color="muted">Two taps give a period, five a good one.</Box>
      )}
      <Box display="grid" gridTemplateColumns="1fr 1fr" gap="8px">
        <Thumb onClick={() => setTaps([])} disabled={!taps.length}>
          Again
        </Thumb>
        <Thumb
          disabled={!rhythm}
          onClick={() =>
            rhythm && void work.tell("waves", { value: Number(rhythm.periodS.toFixed(2)), count: rhythm.count })
          }
        >
          Note the period
        </Thumb>
      </Box>
    </Box>
  );
}

function Due({ rhythm, now, shutterS }: { rhythm: Rhythm; now: number; shutterS: number | null }) {
  const due = dueInS(rhythm, now);
  const open = shutterS === null ? null : openInS(rhythm, shutterS, now);
  return (
    <>
      <Box height="18px" bg="raised" border="1px solid" borderColor="edge" position="relative" aria-hidden="true">
        <Box height="100%" width={`${(1 - due / rhythm.periodS) * 100}%`} bg="haze" />
        {shutterS !== null && shutterS <= rhythm.periodS && (
          <Box
            position="absolute"
            top="-4px"
            bottom="-4px"
            left={`${(1 - shutterS / rhythm.periodS) * 100}%`}
            width="4px"
            bg="accent"
          />
        )}
      </Box>
      <div>the next in {due.toFixed(0)} s</div>
      {shutterS !== null && (
        <Box color={open !== null && open < 0.6 ? "accent" : "fg"} fontWeight="600">
          {open === null
            ? "The exposure is longer than a wave: open as one turns back."
            : `open in ${open.toFixed(0)} s: the water drains until the next comes in`}
        </Box>
      )}
    </>
  );
}
