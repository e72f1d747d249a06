import { clockIn } from "../../lib/format/spelling";

/** The value of an evenly sampled curve between its samples. */
export function along(curve: number[], step: number, seconds: number): number {
  const position = seconds / step;
  const index = Math.min(curve.length - 2, Math.max(0, Math.floor(position)));
  const share = Math.min(1, Math.max(0, position - index));
  return (curve[index] ?? 0) * (1 - share) + (curve[index + 1] ?? 0) * share;
}

/** Clock times of a local day, from seconds since its start. */
export function clockOf(startUtc: string, zone: string): (seconds: number) => string {
  const start = Date.parse(startUtc);
  const clock = clockIn(zone);
  return (seconds) => clock(new Date(start + seconds * 1000));
}
