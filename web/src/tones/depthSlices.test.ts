import { Matrix4, Vector3, Vector4 } from "three";
import { expect, test } from "vitest";
import { NEAREST } from "../drawing/projective";
import { Slices } from "./depthSlices";

/** Looks along y: across x, up z, depth y. */
const CLIP = new Matrix4().set(1, 0, 0, 0, 0, 0, 1, 0, 0, 1, 0, -2 * NEAREST, 0, 1, 0, 0);
const ball = (away: number, radius: number) => ({ ball: { middle: new Vector3(0, away, 0), radius } });
const depth = (matrix: Matrix4, away: number) => {
  const seen = new Vector4(0, away, 0, 1).applyMatrix4(matrix);
  return seen.z / seen.w;
};

test("each thing lies wholly before those drawn earlier, however far they are", () => {
  const slices = new Slices(4);
  let before = 1;
  for (const [away, radius] of [
    [4000, 900],
    [50, 3],
    [60, 3],
    [0.3, 1],
  ] as const) {
    const matrix = slices.next([ball(away, radius)], CLIP);
    const [far, near] = [depth(matrix, away + radius), depth(matrix, Math.max(NEAREST, away - radius))];
    expect(far).toBeLessThanOrEqual(before);
    expect(near).toBeLessThan(far);
    before = near;
  }
  expect(before).toBeGreaterThanOrEqual(-1);
});

test("within a thing the nearer stays nearer, and told apart as finely as its extent allows", () => {
  const matrix = new Slices(10).next([ball(4000, 900)], CLIP);
  const steps = [3100, 3101, 3500, 3501, 4899, 4900].map((away) => depth(matrix, away));
  expect(steps).toEqual([...steps].sort((one, other) => one - other));
  // A metre at four kilometres is many steps of a depth buffer of 24 bits; with one buffer for all it would be less than one.
  expect((depth(matrix, 3501) - depth(matrix, 3500)) * 2 ** 23).toBeGreaterThan(100);
});

test("parts of one thing share a slice, and what stands across is left as it is", () => {
  const slices = new Slices(2);
  const matrix = slices.next([ball(10, 1), ball(14, 2)], CLIP);
  expect(depth(matrix, 9)).toBeGreaterThan(depth(slices.next([ball(5, 1)], CLIP), 6));
  expect(depth(matrix, 16)).toBeLessThanOrEqual(1);
  const seen = new Vector4(3, 12, -2, 1);
  const [as, was] = [seen.clone().applyMatrix4(matrix), seen.clone().applyMatrix4(CLIP)];
  expect([as.x, as.y, as.w]).toEqual([was.x, was.y, was.w]);
});
