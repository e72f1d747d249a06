// How far apart edits are sent at least and at most while a hand moves what is drawn before the answer [ms].
const LEAST_MS = 240;
const MOST_MS = 600;
// In between as many times as long as the page takes to show an answer: the hand goes before the verdicts.
const TIMES_AN_ANSWER = 8;

/** How far apart the edits under a hand are sent [ms]. shown: how long the page took to show the last answer [ms]. */
export function calmFor(shown: number): number {
  return Math.min(MOST_MS, Math.max(LEAST_MS, TIMES_AN_ANSWER * shown));
}

/** Tell how long the page takes from now until it has drawn [ms]. */
export function untilDrawn(told: (ms: number) => void): void {
  const began = performance.now();
  requestAnimationFrame(() => setTimeout(() => told(performance.now() - began)));
}
