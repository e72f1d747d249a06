export interface Detent {
  value: number;
  label: string;
}

export interface Scale {
  marks: Detent[];
  /** Why it goes no further at either end. */
  at_start: string;
  at_end: string;
}

/** The detent nearest a value, on the scale of stops. */
export function nearestDetent(detents: Detent[], value: number): number {
  let best = 0;
  detents.forEach((detent, index) => {
    if (Math.abs(Math.log(detent.value / value)) < Math.abs(Math.log((detents[best]?.value ?? 1) / value)))
      best = index;
  });
  return best;
}

/** Where a value lies between its detents, so that odd values stand between the marks; never beyond the ends. */
export function between(detents: Detent[], value: number, nearest: number): number {
  const here = detents[nearest];
  if (!here || value <= 0) return nearest;
  const rising = (detents[detents.length - 1]?.value ?? 1) > (detents[0]?.value ?? 0);
  const towards = value > here.value === rising ? 1 : -1;
  const next = detents[nearest + towards];
  if (!next) return nearest;
  return nearest + (towards * Math.log(value / here.value)) / Math.log(next.value / here.value);
}

export interface Step {
  index: number;
  /** The scale ended before the step was done. */
  end: "start" | "end" | undefined;
}

/** The value a number of detents away, within the scale. */
export function stepped(detents: Detent[], from: number, by: number): Step {
  const wanted = from + by;
  const index = Math.min(detents.length - 1, Math.max(0, wanted));
  return { index, end: wanted < 0 ? "start" : wanted > detents.length - 1 ? "end" : undefined };
}

/** A step from a value that may lie between two detents: towards the neighbour on that side. */
export function steppedFromValue(detents: Detent[], value: number, by: number): Step {
  const nearest = nearestDetent(detents, value);
  const exact = between(detents, value, nearest);
  const off = exact - nearest;
  // From between two marks the first step goes to the next mark, not past it.
  const back = Math.abs(off) > 0.02 && Math.sign(off) !== Math.sign(by) ? Math.sign(by) : 0;
  return stepped(detents, nearest, by - back);
}
