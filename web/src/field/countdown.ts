/**
 * A clock for countdowns: it goes by the wall clock, so that it is right after the device slept, and is corrected by the steady
 * clock, so that nobody who sets the wall clock in the middle loses an exposure.
 */
export interface Clocks {
  wall: () => number;
  steady: () => number;
}

export const DEVICE: Clocks = { wall: () => Date.now(), steady: () => performance.now() };
// A steady clock stands while a device sleeps; one that is set jumps at once. Less than this is neither [ms].
const SLACK_MS = 1500;

export class Elapsed {
  private wall: number;
  private steady: number;
  private passed = 0;

  constructor(private readonly clocks: Clocks = DEVICE) {
    this.wall = clocks.wall();
    this.steady = clocks.steady();
  }

  /** Milliseconds since it was made. */
  ms(): number {
    const wall = this.clocks.wall();
    const steady = this.clocks.steady();
    const byWall = wall - this.wall;
    const bySteady = Math.max(0, steady - this.steady);
    // The wall clock went further: the device slept. It went back: it was set, and the steady clock counts.
    this.passed += byWall - bySteady > SLACK_MS ? byWall : bySteady;
    this.wall = wall;
    this.steady = steady;
    return this.passed;
  }
}

export interface Span {
  kind: string;
  words: string;
  seconds: number;
}

/** Where a row of spans stands after so many seconds: which is running and what of it is left; at -1 when all are over. */
export function at(spans: Span[], elapsedS: number): { at: number; left: number; total: number } {
  let before = 0;
  for (const [index, span] of spans.entries()) {
    if (elapsedS < before + span.seconds) return { at: index, left: before + span.seconds - elapsedS, total: span.seconds };
    before += span.seconds;
  }
  return { at: -1, left: 0, total: 0 };
}

/** A span of time as it is read at arm's length: "0:09", "2:32", "1:05:00". */
export function clockText(seconds: number): string {
  const whole = Math.max(0, Math.ceil(seconds - 1e-6));
  const hours = Math.floor(whole / 3600);
  const minutes = Math.floor((whole % 3600) / 60);
  const rest = String(whole % 60).padStart(2, "0");
  return hours ? `${hours}:${String(minutes).padStart(2, "0")}:${rest}` : `${minutes}:${rest}`;
}
