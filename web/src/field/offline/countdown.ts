/** The device's two clocks [ms]: the wall clock goes on while a device sleeps and can be set; the steady one cannot be set, but may stand in a sleep. */
export interface Clocks {
  wall: () => number;
  steady: () => number;
}

export const DEVICE: Clocks = { wall: () => Date.now(), steady: () => performance.now() };
// Clocks that drift apart by less than this agree [ms].
const SLACK_MS = 1500;

/** Time since a start. It is certain as long as both clocks agree, or the wall clock was set back. */
export class Elapsed {
  private wall: number;
  private steady: number;
  private passed: number;
  /** Why the time may be wrong; empty while it is certain. */
  doubt = "";

  constructor(
    private readonly clocks: Clocks = DEVICE,
    /** The wall clock's time of the start, where the page was reloaded since: only the wall clock is left to tell. */
    startedMs: number | null = null,
  ) {
    this.wall = clocks.wall();
    this.steady = clocks.steady();
    this.passed = startedMs === null ? 0 : Math.max(0, this.wall - startedMs);
    if (startedMs !== null)
      this.doubt = "This page was reloaded: the time is by the device's clock alone and may be wrong.";
  }

  /** Milliseconds since the start. hidden: the page was out of sight since the last call, so that the device may have slept. */
  ms(hidden = false): number {
    const wall = this.clocks.wall();
    const steady = this.clocks.steady();
    const byWall = wall - this.wall;
    const bySteady = Math.max(0, steady - this.steady);
    const slept = hidden && byWall - bySteady > SLACK_MS;
    if (slept) this.doubt = "The device slept: the time is by its clock alone and may be wrong.";
    else if (byWall - bySteady > SLACK_MS)
      this.doubt = `The device's clock jumped by ${clockText(Math.round((byWall - bySteady) / 1000))}. If the device slept, so much more has passed.`;
    this.passed += slept ? byWall : bySteady;
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

export const wholeS = (spans: Span[]): number => spans.reduce((sum, span) => sum + span.seconds, 0);

/** The span that is running after a time and the rest of it; -1 when all are over. */
export function at(spans: Span[], elapsedS: number): { at: number; left: number; total: number } {
  let before = 0;
  for (const [index, span] of spans.entries()) {
    if (elapsedS < before + span.seconds)
      return { at: index, left: before + span.seconds - elapsedS, total: span.seconds };
    before += span.seconds;
  }
  return { at: -1, left: 0, total: 0 };
}

/** How long the exposure among the spans lasted, once it is over; null before, and where there is none. */
export function exposedS(spans: Span[], elapsedS: number): number | null {
  const index = spans.findIndex((span) => span.kind === "exposure");
  const now = at(spans, elapsedS).at;
  return index >= 0 && (now === -1 || now > index) ? (spans[index]?.seconds ?? null) : null;
}

/** A span of time as it is read at arm's length: "0:09", "2:32", "1:05:00". */
export function clockText(seconds: number): string {
  const whole = Math.max(0, Math.ceil(seconds - 1e-6));
  const hours = Math.floor(whole / 3600);
  const minutes = Math.floor((whole % 3600) / 60);
  const rest = String(whole % 60).padStart(2, "0");
  return hours ? `${hours}:${String(minutes).padStart(2, "0")}:${rest}` : `${minutes}:${rest}`;
}

/** A countdown under way, as it is kept on the device. */
export interface Counting {
  run_id: string;
  card_id: number;
  /** The shot, and which of its frames. */
  name: string;
  frame: string;
  number: number;
  spans: Span[];
  started_ms: number;
}
