import { describe, expect, it } from "vitest";
import { coarseTriangles } from "./coarse";

/** A square wall in front of the eye, so many squares wide, between -1 and 1. */
function wall(squares: number, far: number): { points: Float32Array; triangles: Uint32Array } {
  const points: number[] = [];
  const triangles: number[] = [];
  const at = (column: number, row: number) => row * (squares + 1) + column;
  for (let row = 0; row <= squares; row += 1)
    for (let column = 0; column <= squares; column += 1)
      points.push((far * ((2 * column) / squares - 1)) / 2, far, (far * ((2 * row) / squares - 1)) / 2);
  for (let row = 0; row < squares; row += 1)
    for (let column = 0; column < squares; column += 1) {
      triangles.push(at(column, row), at(column + 1, row), at(column, row + 1));
      triangles.push(at(column + 1, row), at(column + 1, row + 1), at(column, row + 1));
    }
  return { points: new Float32Array(points), triangles: new Uint32Array(triangles) };
}

type Point = [number, number];

/** The area that a mesh covers as seen from the eye, on the plane one metre in front. */
function covered(points: Float32Array, triangles: Uint32Array): number {
  let sum = 0;
  for (let at = 0; at < triangles.length; at += 3) {
    const [a, b, c] = [0, 1, 2].map((corner) => {
      const one = 3 * (triangles[at + corner] as number);
      const depth = points[one + 1] as number;
      return [(points[one] as number) / depth, (points[one + 2] as number) / depth];
    }) as [Point, Point, Point];
    sum += Math.abs((b[0] - a[0]) * (c[1] - a[1]) - (c[0] - a[0]) * (b[1] - a[1])) / 2;
  }
  return sum;
}

describe("the triangles of a hurry", () => {
  it("are a fraction, and cover what all of them cover", () => {
    for (const far of [0.2, 5, 4000]) {
      const { points, triangles } = wall(60, far);
      const few = coarseTriangles(points, triangles);
      expect(few.length).toBeLessThan(triangles.length / 2);
      expect(few.length).toBeGreaterThan(triangles.length / 20);
      // One metre by one is covered, but for half a cell at the rim.
      expect(covered(points, few)).toBeGreaterThan(0.88);
      expect(covered(points, few)).toBeLessThan(1.02);
    }
  });

  it("keep a wall apart from another far behind it, and show the nearer of two close together", () => {
    const near = wall(56, 2);
    const far = wall(56, 50);
    const points = new Float32Array([...near.points, ...far.points]);
    const second = near.points.length / 3;
    const triangles = new Uint32Array([...near.triangles, ...far.triangles.map((at) => at + second)]);
    const few = coarseTriangles(points, triangles);
    for (let at = 0; at < few.length; at += 3) {
      const of = [0, 1, 2].map((corner) => (few[at + corner] as number) >= second);
      expect(new Set(of).size).toBe(1);
    }
    const behind = wall(56, 2.1);
    const both = coarseTriangles(
      new Float32Array([...behind.points, ...near.points]),
      new Uint32Array([...behind.triangles, ...near.triangles.map((at) => at + second)]),
    );
    expect([...both].every((at) => at >= second)).toBe(true);
  });

  it("are left as they are where there is nothing to leave out", () => {
    expect(coarseTriangles(new Float32Array(0), new Uint32Array(0))).toHaveLength(0);
    const { points, triangles } = wall(10, 1);
    expect(coarseTriangles(points, triangles)).toEqual(triangles);
    // All in one place: no edge has a length.
    const nowhere = new Uint32Array(30000);
    expect(coarseTriangles(new Float32Array([0, 1, 0]), nowhere)).toEqual(nowhere);
  });
});
