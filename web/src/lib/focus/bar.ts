import type { KeyboardEvent } from "react";

const ENDS: Record<string, (at: number, count: number) => number> = {
  ArrowLeft: (at) => at - 1,
  ArrowRight: (at) => at + 1,
  Home: () => 0,
  End: (_at, count) => count - 1,
};

/** Arrow keys go from one button of a bar to the next, so that the bar is one stop of the Tab key. */
export function moveInBar(event: KeyboardEvent<HTMLElement>): void {
  const to = ENDS[event.key];
  if (!to) return;
  const buttons = [...event.currentTarget.querySelectorAll<HTMLButtonElement>("button")];
  const at = buttons.indexOf(document.activeElement as HTMLButtonElement);
  const next = buttons[Math.min(buttons.length - 1, Math.max(0, to(at, buttons.length)))];
  if (at < 0 || !next) return;
  event.preventDefault();
  event.stopPropagation();
  next.focus();
}

/** The one button of a bar that the Tab key stops at: the chosen one, else the first. */
export const stopOfBar = (chosen: readonly boolean[], at: number): 0 | -1 =>
  (chosen.includes(true) ? chosen[at] : at === 0) ? 0 : -1;
