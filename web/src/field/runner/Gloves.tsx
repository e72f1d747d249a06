import { Box } from "@chakra-ui/react";
import { useEffect } from "react";
import type { Schemas } from "../../api/client";
import { useStoredValues } from "../../lib/drafts/useStored";
import { clockText, wholeS } from "../offline/countdown";
import { startCountdown, useCountdown } from "../offline/countdowns";
import { spansOf } from "../offline/spans";
import type { RunWork } from "../offline/useRun";
import { FrameFigures } from "./FrameFigures";
import { Hold } from "./Hold";
import { Slide } from "./Slide";

const COUNTED_FROM_S = 1;
// Keys that move the focus or belong to the browser; any other is a remote's.
const NOT_A_REMOTE = new Set([
  "Tab",
  "Escape",
  "Shift",
  "Control",
  "Alt",
  "Meta",
  "ArrowLeft",
  "ArrowRight",
  "Home",
  "End",
]);

/** Whether this device is locked for gloves and rain; it stays so over a reload. */
export function useGloves(): [boolean, (on: boolean) => void] {
  const [kept, keep] = useStoredValues("field gloves", { on: false });
  return [kept.on, (on) => keep({ on })];
}

/**
 * The frame at hand with everything locked but what is held for half a second. Any key does what comes next: start the countdown, or
 * tick the frame; while it counts a key does nothing.
 */
export function Gloves({
  work,
  frame,
  ticked,
  take,
  undo,
  unlock,
}: {
  work: RunWork;
  frame: Schemas["RunFrameOut"];
  /** The frame just ticked, while it can be undone here. */
  ticked: number | null;
  take: () => void;
  undo: () => void;
  unlock: () => void;
}) {
  const now = useCountdown();
  const spans = spansOf(frame, work.sheet, work.found.settings[frame.key]).filter(
    (span) => span.seconds >= COUNTED_FROM_S,
  );
  const mine = now && now.run_id === work.runId && now.frame === frame.key ? now : null;
  const counts = now !== null && now.at !== -1;
  // One camera exposes one frame at a time, and that may be the one before.
  const running = mine ?? (counts ? now : null);
  const starts = wholeS(spans) > 0 && !mine && !counts;
  const start = () =>
    startCountdown({
      run_id: work.runId,
      card_id: work.cardId,
      name: work.sheet.name,
      frame: frame.key,
      number: frame.number,
      spans,
    });
  const next = counts ? null : starts ? start : take;
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      const onButton = event.target instanceof HTMLElement && event.target.closest("button,[role=slider]");
      if (event.repeat || NOT_A_REMOTE.has(event.key) || event.ctrlKey || event.metaKey || event.altKey || onButton)
        return;
      event.preventDefault();
      next?.();
    };
    window.addEventListener("keydown", press);
    return () => window.removeEventListener("keydown", press);
  }, [next]);
  return (
    <Box
      as="main"
      id="main"
      data-gloves=""
      maxW="560px"
      mx="auto"
      px="12px"
      py="10px"
      minH="100dvh"
      display="grid"
      gridTemplateRows="auto auto 1fr"
      gridAutoRows="auto"
      gap="10px"
    >
      <Box fontSize="heading">
        <b>
          Frame {frame.number} of {work.sheet.frames.length}
        </b>{" "}
        {work.sheet.name}
      </Box>
      <Box display="grid" gap="8px" alignContent="start">
        <FrameFigures frame={frame} work={work} />
      </Box>
      <Box
        fontFamily="mono"
        fontSize="display"
        fontWeight="600"
        lineHeight="1.1"
        role="timer"
        aria-live="off"
        data-countdown=""
      >
        {running
          ? running.at === -1
            ? "over"
            : clockText(running.left)
          : wholeS(spans) > 0
            ? clockText(wholeS(spans))
            : ""}
        {running && running.at !== -1 && (
          <Box as="span" fontSize="heading" fontFamily="body" fontWeight="400" color="muted">
            {" "}
            {running.spans[running.at]?.words}
            {running !== mine && `, frame ${running.number}`}
          </Box>
        )}
      </Box>
      {starts && (
        <Hold main minH="110px" act={start}>
          Hold to start
        </Hold>
      )}
      <Box display="grid" gridTemplateColumns={ticked !== null ? "2fr 1fr" : "1fr"} gap="8px">
        <Hold main={!starts} minH={starts ? "76px" : "110px"} act={take}>
          Hold: taken
        </Hold>
        {ticked !== null && (
          <Hold minH="76px" act={undo}>
            Undo {ticked}
          </Hold>
        )}
      </Box>
      <Slide label="slide to unlock" done={unlock} />
    </Box>
  );
}
