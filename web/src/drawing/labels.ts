/** Where the words of a drawing stand: each near what it names, none upon another or upon what must stay free, all of them inside. */

export interface Box {
  x: number;
  y: number;
  width: number;
  height: number;
}

export interface LabelWish {
  text: string;
  /** Font size [px]. */
  size: number;
  /** The point it names. */
  x: number;
  y: number;
  /** On which side of the point it would best stand. */
  side?: "above" | "below" | "left" | "right" | "on";
  /** Room between the point and the words [px]. */
  gap?: number;
  mono?: boolean;
}

export interface PlacedLabel {
  /** The middle of the words, and their baseline. */
  x: number;
  y: number;
  box: Box;
  /** Nothing lies under it. */
  free: boolean;
}

const WIDE = 0.56;
const WIDE_MONO = 0.61;
const TALL = 1.12;
const BASELINE = 0.26;
const RINGS = 7;
const APART = 1;

export const textWidth = (text: string, size: number, mono = false): number =>
  text.length * size * (mono ? WIDE_MONO : WIDE) + 2;

/** Places for labels in the order of their weight. taken: what may not be covered, such as handles. */
export function placeLabels(wishes: LabelWish[], bounds: Box, taken: Box[] = []): PlacedLabel[] {
  const filled = [...taken];
  return wishes.map((wish) => {
    const width = Math.min(bounds.width, textWidth(wish.text, wish.size, wish.mono));
    const height = wish.size * TALL;
    let best: { box: Box; covered: number } | undefined;
    for (const box of candidates(wish, width, height, bounds)) {
      const covered = filled.reduce((sum, other) => sum + overlap(box, other), 0);
      if (!best || covered < best.covered) best = { box, covered };
      if (covered === 0) break;
    }
    const box = best?.box ?? within({ x: wish.x, y: wish.y, width, height }, bounds);
    filled.push(box);
    return {
      x: box.x + box.width / 2,
      y: box.y + box.height - wish.size * BASELINE,
      box,
      free: (best?.covered ?? 0) === 0,
    };
  });
}

/** How much of two boxes lies upon one another [px²], a hair's breadth between them counted in. */
export function overlap(a: Box, b: Box): number {
  const across = Math.min(a.x + a.width, b.x + b.width) - Math.max(a.x, b.x) + APART;
  const down = Math.min(a.y + a.height, b.y + b.height) - Math.max(a.y, b.y) + APART;
  return across > 0 && down > 0 ? across * down : 0;
}

function within(box: Box, bounds: Box): Box {
  return {
    ...box,
    x: Math.min(bounds.x + bounds.width - box.width, Math.max(bounds.x, box.x)),
    y: Math.min(bounds.y + bounds.height - box.height, Math.max(bounds.y, box.y)),
  };
}

/** Boxes to try: the side that is wished for, the other sides, and then farther and farther off. */
function* candidates(wish: LabelWish, width: number, height: number, bounds: Box): Generator<Box> {
  const gap = wish.gap ?? 4;
  const sides: Record<string, [number, number]> = {
    on: [-width / 2, -height / 2],
    above: [-width / 2, -height - gap],
    below: [-width / 2, gap],
    right: [gap, -height / 2],
    left: [-width - gap, -height / 2],
  };
  const first = wish.side ?? "above";
  const order = [first, ...["above", "below", "right", "left"].filter((side) => side !== first)];
  const at = (dx: number, dy: number) => within({ x: wish.x + dx, y: wish.y + dy, width, height }, bounds);
  for (const side of order) {
    const [dx, dy] = sides[side] ?? [0, 0];
    yield at(dx, dy);
  }
  const [dx, dy] = sides[first] ?? [0, 0];
  for (let ring = 1; ring <= RINGS; ring++) {
    const down = ring * (height + APART);
    for (const [right, low] of [
      [0, -down],
      [0, down],
      [width * 0.55, -down],
      [-width * 0.55, -down],
      [width * 0.55, down],
      [-width * 0.55, down],
      [width * 0.6 * ring, 0],
      [-width * 0.6 * ring, 0],
    ] as const)
      yield at(dx + right, dy + low);
  }
}

/** The room that a handle takes. */
export const handleBox = (x: number, y: number, half = 8): Box => ({
  x: x - half,
  y: y - half,
  width: 2 * half,
  height: 2 * half,
});
