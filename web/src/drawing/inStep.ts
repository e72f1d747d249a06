/**
 * A hand is followed as fast as pictures are drawn, and no faster: what a drawing does for a place that no picture shows any more takes its time from the
 * next picture. Where there is a graphics card, or no picture at all, that is at once.
 */

// Whatever becomes of a picture, a hand is not left behind for longer.
const LONGEST_MS = 250;

const behind = new Set<object>();
const waiting = new Map<object, () => void>();
let patience: ReturnType<typeof setTimeout> | undefined;

/** Told by anyone who draws pictures: whether it has as many before it as it takes. */
export function keepsUp(painter: object, able: boolean): void {
  if (able) behind.delete(painter);
  else behind.add(painter);
  if (!behind.size) go();
}

/** Follow a hand to where it is now; if pictures are behind, once they are not, and then only to the last place. */
export function inStep(hand: object, follow: () => void): void {
  if (!behind.size) {
    follow();
    return;
  }
  waiting.set(hand, follow);
  patience ??= setTimeout(go, LONGEST_MS);
}

/** Follow at once what still waits, as when a hand lets go. */
export function catchUp(hand: object): void {
  const follow = waiting.get(hand);
  waiting.delete(hand);
  follow?.();
}

/** Leave a hand where it was last followed to. */
export function forget(hand: object): void {
  waiting.delete(hand);
}

function go() {
  clearTimeout(patience);
  patience = undefined;
  const all = [...waiting.values()];
  waiting.clear();
  for (const follow of all) follow();
}
