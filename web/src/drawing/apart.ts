export interface Label {
  x: number;
  y: number;
  /** Half its width. */
  half: number;
}

/** Labels in the order of their weight, each pushed up or down by lines until it covers none before it. */
export function apart(labels: Label[], line: number, top: number, bottom: number): Label[] {
  const placed: Label[] = [];
  for (const label of labels) {
    const steps = [0, -1, 1, -2, 2, -3, 3, -4, 4].map((step) => label.y + step * line);
    const free = steps.find(
      (y) =>
        y >= top &&
        y <= bottom &&
        !placed.some((other) => Math.abs(other.y - y) < line - 0.5 && Math.abs(other.x - label.x) < other.half + label.half + 4),
    );
    placed.push({ ...label, y: free ?? Math.min(bottom, Math.max(top, label.y)) });
  }
  return placed;
}
