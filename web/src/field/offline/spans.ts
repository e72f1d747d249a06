import type { Schemas } from "../../api/client";
import type { Span } from "./countdown";
import type { Found } from "./tables";

type Frame = Schemas["RunFrameOut"];
type SetTo = Found["settings"][string];

/** What is waited for around a frame: with settings as found, the exposure and the dark frame after it last as long as those say. */
export function spansOf(frame: Frame, sheet: Schemas["RunSheetOut"], set: SetTo | undefined): Span[] {
  const spans = frame.phases.map(({ kind, words, seconds, ...phase }) => ({
    kind,
    words,
    seconds: kind === "event" ? untilS(phase, sheet) : kind === "exposure" && set ? set.shutter_s : seconds,
  }));
  if (!set) return spans;
  const others = spans.filter((span) => span.kind !== "dark_frame");
  return [...others, { kind: "dark_frame", words: "dark frame", seconds: set.dark_s }];
}

function untilS(phase: Pick<Schemas["PhaseOut"], "at_s">, sheet: Schemas["RunSheetOut"]): number {
  if (phase.at_s === null || !sheet.start_utc) return 0;
  const left = (Date.parse(sheet.start_utc) - Date.now()) / 1000 + phase.at_s;
  // Days before, or long after, there is nothing to wait for here.
  return left > 0 && left < 12 * 3600 ? left : 0;
}
