import { Box } from "@chakra-ui/react";
import { at, clockText, type Span, wholeS } from "../offline/countdown";
import {
  type Countdown as Counted,
  dismissCountdown,
  lengthenCountdown,
  startCountdown,
  stopCountdown,
  useCountdown,
} from "../offline/countdowns";
import { Thumb } from "./Thumb";

const COUNTED_FROM_S = 1;

/** Whose countdown it is. */
export interface Counts {
  run_id: string;
  card_id: number;
  name: string;
  frame: string;
  number: number;
}

/** The countdown of a frame: started here, and shown here while it runs. */
export function Countdown({ spans: all, of }: { spans: Span[]; of: Counts }) {
  const now = useCountdown();
  // Nobody counts what is over at once.
  const planned = all.filter((span) => span.seconds >= COUNTED_FROM_S);
  const mine = now && now.run_id === of.run_id && now.frame === of.frame ? now : null;
  const busy = now !== null && !mine && now.at !== -1;
  const spans = mine?.spans ?? planned;
  const start = () => startCountdown({ ...of, spans: planned });
  if (wholeS(spans) <= 0) return null;
  return (
    <Box display="grid" gap="8px" aria-label="Countdown" role="group">
      <Bars spans={spans} seconds={mine?.seconds ?? 0} />
      <Box display="flex" alignItems="baseline" gap="12px" role="timer" aria-live="off">
        <Box fontFamily="mono" fontSize="display" lineHeight="1" fontWeight="600" data-countdown="">
          {clockText(mine ? mine.left : wholeS(spans))}
        </Box>
        <Box fontSize="heading" color="muted">
          {mine ? wordsOf(mine) : spans.map((item) => `${item.words} ${clockText(item.seconds)}`).join(", ")}
        </Box>
      </Box>
      {mine?.doubt && <Doubt of={mine} />}
      <Box display="grid" gridTemplateColumns="repeat(3, 1fr)" gap="8px">
        {mine && mine.at !== -1 ? (
          <Thumb onClick={stopCountdown}>Stop</Thumb>
        ) : (
          <Thumb look="main" onClick={start} disabled={busy}>
            Start
          </Thumb>
        )}
        <Thumb onClick={start} disabled={!mine || mine.at === -1}>
          Restart
        </Thumb>
        <Thumb onClick={lengthenCountdown} disabled={!mine || mine.at === -1}>
          Longer
        </Thumb>
      </Box>
    </Box>
  );
}

/** The countdown under way while something else is shown; nothing where the page shows it already. */
export function CountdownBar({ shown }: { shown: { run_id: string; frame: string } | null }) {
  const now = useCountdown();
  if (!now || (shown && shown.run_id === now.run_id && shown.frame === now.frame)) return null;
  return (
    <Box border="2px solid" borderColor="accent" px="10px" py="8px" display="grid" gap="6px" data-counting="">
      <Box
        display="grid"
        gridTemplateColumns="auto 1fr auto"
        gap="12px"
        alignItems="center"
        role="timer"
        aria-live="off"
      >
        <Box fontFamily="mono" fontSize="display" lineHeight="1" fontWeight="600">
          {clockText(now.left)}
        </Box>
        <Box fontSize="lead">
          {wordsOf(now)}, frame {now.number} of {now.name}
        </Box>
        <Thumb onClick={now.at === -1 ? dismissCountdown : stopCountdown}>{now.at === -1 ? "OK" : "Stop"}</Thumb>
      </Box>
      {now.doubt && <Doubt of={now} />}
    </Box>
  );
}

function wordsOf(now: Counted): string {
  if (now.at !== -1) return now.spans[now.at]?.words ?? "";
  const ago = Math.floor(now.overS);
  return ago < 1 ? "over" : `over, ${ago < 60 ? `${ago} s` : clockText(ago)} ago`;
}

function Doubt({ of }: { of: Counted }) {
  const exposes = of.spans.some((span) => span.kind === "exposure");
  return (
    <Box role="status" fontSize="lead" color="rust" data-doubt="">
      ◐ {of.doubt}
      {exposes && " The exposure is noted as not known."}
    </Box>
  );
}

function Bars({ spans, seconds }: { spans: Span[]; seconds: number }) {
  const whole = wholeS(spans);
  const here = at(spans, seconds);
  return (
    <Box display="flex" height="14px" gap="2px" aria-hidden="true">
      {spans.map((item, index) => {
        const running = index === here.at ? 1 - here.left / here.total : 0;
        const share = here.at === -1 || index < here.at ? 1 : running;
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
  );
}
