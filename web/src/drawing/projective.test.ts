import { describe, expect, it } from "vitest";
import { after, facesSeen, moved, place, seen, turnOf } from "./projective";

// By hand: 24 mm on 36 × 24 mm, level, looking north from 1.5 m: x = 0.5 + 24/36 · e/n, y = 0.5 - 24/24 · (u - 1.5)/n.
const north = {
  matrix: [
    [24 / 36, 0.5, 0, 0],
    [0, 0.5, -1, 1.5],
    [0, 1, 0, 0],
  ],
  eye: [0, 0, 1.5],
  right: [1, 0, 0],
};
const at = (matrix: readonly (readonly number[])[], point: number[]) => {
  const [u, v, w] = place(matrix, point);
  return [u / w, v / w];
};
const near = (found: readonly number[], wanted: readonly number[]) => {
  for (const [index, value] of wanted.entries()) expect(found[index]).toBeCloseTo(value, 9);
};

describe("a view that is moved", () => {
  it("sees as a camera standing there", () => {
    // A metre to the right and 30 cm lower: what stood at (2, 10, 1) stands at (1, 10) and 0.2 m under the eye.
    near(at(moved(north, { shift: [1, 0, -0.3] }), [2, 10, 1]), [0.5 + (24 / 36) * 0.1, 0.5 + 0.2 / 10]);
  });
  it("turned by 90° sees the east in the middle", () => {
    near(at(moved(north, { turn: 90 }), [10, 0, 1.5]), [0.5, 0.5]);
    // Clockwise: what was straight ahead leaves to the left.
    expect(at(moved(north, { turn: 20 }), [0, 10, 1.5])[0]).toBeCloseTo(0.5 - (24 / 36) * Math.tan(Math.PI / 9), 9);
  });
  it("tilted up by 10° sees what stands 10° high in the middle", () => {
    near(at(moved(north, { tilt: 10 }), [0, 10, 1.5 + 10 * Math.tan(Math.PI / 18)]), [0.5, 0.5]);
  });
  it("turns before it tilts, as a tripod head does", () => {
    const high = 1.5 + 10 * Math.tan(Math.PI / 18);
    near(at(moved(north, { turn: 90, tilt: 10 }), [10, 0, high]), [0.5, 0.5]);
  });
  it("zoomed by two sees everything twice as far from the middle", () => {
    const [x = 0, y = 0] = at(north.matrix, [2, 10, 1]);
    near(at(moved(north, { zoom: 2 }), [2, 10, 1]), [0.5 + 2 * (x - 0.5), 0.5 + 2 * (y - 0.5)]);
  });
  it("and not moved is itself", () => {
    for (const [line, row] of moved(north, {}).entries()) near(row, north.matrix[line] ?? []);
  });
});

describe("faces", () => {
  it("are cut where they pass the eye", () => {
    // A square on the ground from 5 m behind to 5 m ahead: its front half is left.
    const square = [
      [-1, -5, 0],
      [1, -5, 0],
      [1, 5, 0],
      [-1, 5, 0],
    ].map((point) => place(north.matrix, point));
    const cut = seen(square);
    expect(cut.length).toBe(4);
    for (const [x, y] of cut) expect(Number.isFinite(x) && Number.isFinite(y)).toBe(true);
    expect(seen(square.slice(0, 2))).toEqual([]);
  });
  it("of a closed body show when turned to the eye", () => {
    // Counter-clockwise seen from the south, where the eye is; the same face the other way round looks away.
    const points = [
      [-1, 10, 0],
      [1, 10, 0],
      [1, 10, 2],
      [-1, 10, 2],
    ];
    const body = (face: number[], closed: boolean) => ({ points, faces: [face], tones: [3], closed });
    expect(facesSeen(north.matrix, body([0, 1, 2, 3], true))).toHaveLength(1);
    expect(facesSeen(north.matrix, body([3, 2, 1, 0], true))).toHaveLength(0);
    expect(facesSeen(north.matrix, body([3, 2, 1, 0], false))).toHaveLength(1);
    expect(turnOf(facesSeen(north.matrix, body([0, 1, 2, 3], true))[0]?.polygon ?? [])).toBeGreaterThan(0);
  });
  it("in a mirror are turned round, and still show", () => {
    // Water at the height of the ground: z becomes -z.
    const mirror = [
      [1, 0, 0, 0],
      [0, 1, 0, 0],
      [0, 0, -1, 0],
      [0, 0, 0, 1],
    ];
    const matrix = after(north.matrix, mirror);
    near(at(matrix, [0, 10, 2]), at(north.matrix, [0, 10, -2]));
    const body = {
      points: [
        [-1, 10, 0],
        [1, 10, 0],
        [1, 10, 2],
        [-1, 10, 2],
      ],
      faces: [[0, 1, 2, 3]],
      tones: [2],
      closed: true,
    };
    expect(facesSeen(matrix, body, true)).toHaveLength(1);
    expect(facesSeen(matrix, body, false)).toHaveLength(0);
  });
});
