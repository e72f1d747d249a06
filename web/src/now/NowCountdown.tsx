import { Box } from "@chakra-ui/react";
import { useEffect, useState } from "react";
import { clockText, DEVICE, Elapsed } from "../field/offline/countdown";
import { readySound, signal, signalsNow } from "../field/runner/signals";
import { useStoredValues } from "../lib/drafts/useStored";
import { Button } from "../ui/form/Button";

const TICK_MS = 100;
// Nobody counts a shorter exposure.
const LEAST_S = 1;

/** Counts an exposure down, large, with sound and vibration at its end; a reload goes on with it. */
export function NowCountdown({ seconds, words }: { seconds: number | undefined; words: string }) {
  const [kept, keep] = useStoredValues<{ started_ms: number; whole_s: number; words: string }>("now:countdown", {
    started_ms: 0,
    whole_s: 0,
    words: "",
  });
  const counting = kept.started_ms > 0;
  return (
    <Box display="grid" gap="6px">
      {counting && <Running key={kept.started_ms} {...kept} />}
      <Box display="flex" gap="8px">
        {counting ? (
          <Button onClick={() => keep({ started_ms: 0 })}>Stop counting</Button>
        ) : (
          <Button
            look="main"
            disabled={seconds === undefined || seconds < LEAST_S}
            onClick={() => {
              readySound();
              keep({ started_ms: DEVICE.wall(), whole_s: seconds ?? 0, words });
            }}
          >
            Count down
          </Button>
        )}
      </Box>
    </Box>
  );
}

function Running({ started_ms, whole_s, words }: { started_ms: number; whole_s: number; words: string }) {
  // Begun in this page both clocks tell the time; after a reload only the wall clock does.
  const [elapsed] = useState(() =>
    DEVICE.wall() - started_ms < 1000 ? new Elapsed() : new Elapsed(DEVICE, started_ms),
  );
  const [left, setLeft] = useState(whole_s);
  useEffect(() => {
    let hidden = false;
    let over = false;
    const tick = () => {
      const rest = whole_s - elapsed.ms(hidden) / 1000;
      hidden = document.visibilityState === "hidden";
      if (rest <= 0 && !over) {
        over = true;
        signal(signalsNow(), false);
      }
      setLeft(rest);
    };
    tick();
    const timer = window.setInterval(tick, TICK_MS);
    return () => window.clearInterval(timer);
  }, [elapsed, whole_s]);
  return (
    <Box border="2px solid" borderColor="accent" px="10px" py="6px">
      <Box role="timer" aria-live="off" display="flex" gap="12px" alignItems="baseline" flexWrap="wrap">
        <Box fontFamily="mono" fontSize="64px" lineHeight="1.05" fontWeight="600" data-countdown="">
          {clockText(left)}
        </Box>
        <Box color="muted">{left > 0 ? `of ${clockText(whole_s)}, ${words}` : "over: close the shutter"}</Box>
      </Box>
      {elapsed.doubt && (
        <Box role="status" color="rust" fontSize="small">
          ◐ {elapsed.doubt}
        </Box>
      )}
    </Box>
  );
}
