import { expect, it } from "vitest";
import { apart } from "./apart";

it("keeps labels that do not meet where they are", () => {
  const labels = [
    { x: 10, y: 20, half: 5 },
    { x: 60, y: 20, half: 5 },
  ];
  expect(apart(labels, 14, 0, 100)).toEqual(labels);
});

it("pushes later ones off earlier ones, inside the drawing", () => {
  const placed = apart(
    [1, 2, 3, 4].map(() => ({ x: 50, y: 10, half: 20 })),
    14,
    8,
    90,
  );
  const ys = placed.map((label) => label.y).sort((a, b) => a - b);
  for (let index = 1; index < ys.length; index++) expect((ys[index] ?? 0) - (ys[index - 1] ?? 0)).toBeGreaterThanOrEqual(13.5);
  expect(Math.min(...ys)).toBeGreaterThanOrEqual(8);
  expect(placed[0]?.y).toBe(10);
});
