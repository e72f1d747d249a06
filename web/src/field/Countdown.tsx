import { Box } from "@chakra-ui/react";
import { useEffect, useRef, useState } from "react";
import { at, clockText, Elapsed, type Span } from "./countdown";
import { readySound, signal, useSignals } from "./signals";
import { Thumb } from "./Thumb";

const COUNTED_FROM_S = 1;

/** What is waited for around a frame, one span after the other, by the clock. done: what came of it, with the exposure as it really was. */
export function Countdown({ spans: all, done }: { spans: Span[]; done: (exposureS: number | null) => void }) {
  // Nobody counts what is over at once.
  const spans = all.filter((span) => span.seconds >= COUNTED_FROM_S);
  const [elapsed, setElapsed] = useState<Elapsed | null>(null);
  const [seconds, setSeconds] = useState(0);
  const [more, setMore] = useState<number[]>([]);
  const [signals] = useSignals();
  const running = spans.map((span, index) => ({ ...span, seconds: span.seconds + (more[index] ?? 0) }));
  const here = at(running, seconds);
  const whole = running.reduce((sum, span) => sum + span.seconds, 0);
  const told = useRef(-2);
  const live = useRef({ running, signals, done });
  live.current = { running, signals, done };

  useEffect(() => {
    if (!elapsed) return;
    const tick = () => {
      const passed = elapsed.ms() / 1000;
      setSeconds(passed);
      const { running, signals, done } = live.current;
      const now = at(running, passed).at;
      if (now === told.current) return;
      if (told.current !== -2) signal(signals, now !== -1);
      told.current = now;
      if (now !== -1) return;
      setElapsed(null);
      done(running.find((span) => span.kind === "exposure")?.seconds ?? null);
    };
    tick();
    const timer = window.setInterval(tick, 100);
    document.addEventListener("visibilitychange", tick);
    return () => {
      window.clearInterval(timer);
      document.removeEventListener("visibilitychange", tick);
    };
  }, [elapsed]);

  const start = () => {
    readySound();
    told.current = -2;
    setMore([]);
    setSeconds(0);
    setElapsed(new Elapsed());
  };
  const longer = () => {
    const span = running[here.at];
    if (!span) return;
    // An exposure grows by a third of a stop, a wait by five seconds.
    const by = span.kind === "exposure" ? span.seconds * (2 ** (1 / 3) - 1) : 5;
    setMore(spans.map((_, index) => (more[index] ?? 0) + (index === here.at ? by : 0)));
  };
  if (whole <= 0) return null;
  const span = running[here.at];
  return (
    <Box display="grid" gap="8px" aria-label="Countdown" role="group">
      <Box display="flex" height="14px" gap="2px" aria-hidden="true">
        {running.map((item, index) => {
          const before = running.slice(0, index).reduce((sum, other) => sum + other.seconds, 0);
          const share = item.seconds > 0 ? Math.min(1, Math.max(0, (seconds - before) / item.seconds)) : 0;
          return (
            <Box
              key={item.kind}
              flex={`${Math.max(item.seconds, whole * 0.03)} 0 0`}
              bg="raised"
              border="1px solid"
              borderColor={item.kind === "exposure" ? "accent" : "edge"}
            >
              <Box height="100%" width={`${share * 100}%`} bg={item.kind === "exposure" ? "accent" : "edge"} />
            </Box>
          );
        })}
      </Box>
      <Box display="flex" alignItems="baseline" gap="12px" role="timer" aria-live="off">
        <Box fontFamily="mono" fontSize="52px" lineHeight="1" fontWeight="600" data-countdown="">
          {clockText(elapsed ? here.left : whole)}
        </Box>
        <Box fontSize="18px" color="muted">
          {elapsed && span ? span.words : spans.map((item) => `${item.words} ${clockText(item.seconds)}`).join(", ")}
        </Box>
      </Box>
      <Box display="grid" gridTemplateColumns="repeat(3, 1fr)" gap="8px">
        {elapsed ? (
          <Thumb onClick={() => setElapsed(null)}>Stop</Thumb>
        ) : (
          <Thumb look="main" onClick={start}>
            Start
          </Thumb>
        )}
        <Thumb onClick={start} disabled={!elapsed && seconds === 0}>
          Again
        </Thumb>
        <Thumb onClick={longer} disabled={!elapsed}>
          Longer
        </Thumb>
      </Box>
    </Box>
  );
}
