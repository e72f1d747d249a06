/** Of taps at the turn of each wave or gust: how long from one to the next, how much that strays, and when the next is due. */
export interface Rhythm {
  periodS: number;
  /** Standard deviation of one interval [s]; null of one interval alone. */
  spreadS: number | null;
  count: number;
  lastMs: number;
}

// A gap this many times as long as the middle one is a tap that was missed, or a lull.
const LULL = 1.75;

/** taps: instants in milliseconds, in order. Null while there are fewer than two. */
export function rhythmOf(taps: number[]): Rhythm | null {
  const gaps = taps.slice(1).map((tap, index) => (tap - (taps[index] ?? tap)) / 1000);
  const last = taps.at(-1);
  if (!gaps.length || last === undefined) return null;
  const middle = [...gaps].sort((a, b) => a - b)[Math.floor((gaps.length - 1) / 2)] ?? 0;
  const kept = gaps.filter((gap) => gap <= middle * LULL);
  const mean = kept.reduce((sum, gap) => sum + gap, 0) / kept.length;
  const spread =
    kept.length > 1 ? Math.sqrt(kept.reduce((sum, gap) => sum + (gap - mean) ** 2, 0) / (kept.length - 1)) : null;
  return { periodS: mean, spreadS: spread, count: kept.length, lastMs: last };
}

/** Seconds until the next is due; those that came unseen are passed over. */
export function dueInS(rhythm: Rhythm, nowMs: number): number {
  const since = (nowMs - rhythm.lastMs) / 1000;
  return rhythm.periodS - (((since % rhythm.periodS) + rhythm.periodS) % rhythm.periodS);
}

/**
 * When to open the shutter, in seconds from now, so that an exposure ends as the next wave comes in: the water drains all the while.
 * Null where the exposure is longer than a wave.
 */
export function openInS(rhythm: Rhythm, shutterS: number, nowMs: number): number | null {
  if (shutterS > rhythm.periodS) return null;
  const open = dueInS(rhythm, nowMs) - shutterS;
  return open >= 0 ? open : open + rhythm.periodS;
}
