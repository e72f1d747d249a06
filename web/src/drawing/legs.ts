/** How much of a band a leg of a shot's span takes: one stands wider than one walks, and drives on a line. */
export function shareOfBand(leg: string): number {
  return { drive: 0.14, "walk in": 0.4, "walk out": 0.4, frames: 1 }[leg] ?? 0.7;
}
