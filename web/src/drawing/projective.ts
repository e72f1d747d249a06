/** Points in space on a drawing: a 3 × 4 matrix takes (x, y, z, 1) to (u·w, v·w, w). Plain geometry, no knowledge of what is drawn. */

export type Point3 = readonly number[];
export type Matrix = readonly (readonly number[])[];
export type Placed = [u: number, v: number, w: number];

/** Nothing nearer than this along the view is drawn. */
export const NEAREST = 0.005;

export function place(matrix: Matrix, [x = 0, y = 0, z = 0]: Point3): Placed {
  const row = ([a = 0, b = 0, c = 0, d = 0]: readonly number[]) => a * x + b * y + c * z + d;
  return [row(matrix[0] ?? []), row(matrix[1] ?? []), row(matrix[2] ?? [])];
}

/** The product of a 3 × 4 and a 4 × 4 matrix: what the second does to a point happens first. */
export function after(matrix: Matrix, first: Matrix): Matrix {
  return matrix.map((row) =>
    [0, 1, 2, 3].map((column) => row.reduce((sum, value, at) => sum + value * (first[at]?.[column] ?? 0), 0)),
  );
}

export interface Move {
  /** The eye moves by this much. */
  shift?: Point3;
  /** Clockwise from above, then upwards [degrees]. */
  turn?: number;
  tilt?: number;
  /** The picture grows by this factor about its middle. */
  zoom?: number;
}

/** The matrix of a view whose eye is moved and turned: the world is moved the other way before the old matrix sees it. */
export function moved(
  view: { matrix: Matrix; eye: Point3; right: Point3 },
  { shift = [0, 0, 0], turn = 0, tilt = 0, zoom = 1 }: Move,
): Matrix {
  const rotation = times(about(view.right, (-tilt * Math.PI) / 180), about([0, 0, 1], (turn * Math.PI) / 180));
  const from = view.eye.map((value, at) => value + (shift[at] ?? 0));
  const world = rotation.map((row, at) => [...row, (view.eye[at] ?? 0) - dot(row, from)]);
  const [across = [], upwards = [], depth = []] = after(view.matrix, [...world, [0, 0, 0, 1]]);
  const grown = (row: readonly number[]) => row.map((value, at) => zoom * value + 0.5 * (1 - zoom) * (depth[at] ?? 0));
  return [grown(across), grown(upwards), depth];
}

/** A face's corners in the drawing, what lies behind the eye cut away; empty where nothing is left. Source: Sutherland and Hodgman 1974. */
export function seen(corners: readonly Placed[]): [number, number][] {
  const kept: [number, number][] = [];
  let here = corners.at(-1);
  for (const next of corners) {
    if (here && here[2] >= NEAREST !== next[2] >= NEAREST) {
      const part = (NEAREST - here[2]) / (next[2] - here[2]);
      kept.push([(here[0] + (next[0] - here[0]) * part) / NEAREST, (here[1] + (next[1] - here[1]) * part) / NEAREST]);
    }
    if (next[2] >= NEAREST) kept.push([next[0] / next[2], next[1] / next[2]]);
    here = next;
  }
  return kept.length > 2 ? kept : [];
}

/** Twice the area of a polygon, positive where it runs counter-clockwise with v downwards. */
export function turnOf(polygon: readonly [number, number][]): number {
  let sum = 0;
  let here = polygon.at(-1);
  for (const next of polygon) {
    if (here) sum += next[0] * here[1] - here[0] * next[1];
    here = next;
  }
  return sum;
}

export interface Body {
  points: readonly Point3[];
  faces: readonly (readonly number[])[];
  tones: readonly number[];
  closed: boolean;
}

/** The faces of a body that show, each with its tone. Of a closed one those turned away do not; mirrored turns all of them round. */
export function facesSeen(
  matrix: Matrix,
  body: Body,
  mirrored = false,
): { polygon: [number, number][]; tone: number }[] {
  const placed = body.points.map((point) => place(matrix, point));
  const found: { polygon: [number, number][]; tone: number }[] = [];
  body.faces.forEach((face, at) => {
    const polygon = seen(face.flatMap((corner) => (placed[corner] ? [placed[corner]] : [])));
    if (!polygon.length) return;
    if (body.closed && turnOf(polygon) * (mirrored ? -1 : 1) <= 0) return;
    found.push({ polygon, tone: body.tones[at] ?? 2 });
  });
  return found;
}

/** Turn by an angle about an axis of length 1. Source: O. Rodrigues 1840. */
function about([x = 0, y = 0, z = 0]: Point3, angle: number): number[][] {
  const [c, s, t] = [Math.cos(angle), Math.sin(angle), 1 - Math.cos(angle)];
  return [
    [c + x * x * t, x * y * t - z * s, x * z * t + y * s],
    [y * x * t + z * s, c + y * y * t, y * z * t - x * s],
    [z * x * t - y * s, z * y * t + x * s, c + z * z * t],
  ];
}

function times(one: number[][], other: number[][]): number[][] {
  return one.map((row) =>
    [0, 1, 2].map((column) =>
      dot(
        row,
        other.map((line) => line[column] ?? 0),
      ),
    ),
  );
}

const dot = (one: readonly number[], other: readonly number[]) =>
  one.reduce((sum, value, at) => sum + value * (other[at] ?? 0), 0);
