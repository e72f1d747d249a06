import { SHAPES } from "../../../api/facts";
import { facesSeen, type Matrix, type Point3, place, seen, turnOf } from "../../../drawing/projective";
import { toneOf } from "../../../drawing/Silhouettes";
import type { Shot } from "../../../shots/useShot";
import { ink } from "../../../theme/system";

export type Seen = Shot["plan"]["frame"]["elements"][number];
export type Paper = (u: number, v: number) => string;

/** An element moved over the ground by a hand, before the server has taken it. */
export interface Shift {
  id: number;
  east: number;
  north: number;
}

export const onGround = (shape: string) => (SHAPES.flat as readonly string[]).includes(shape);
export const isWet = (shape: string) => (SHAPES.wet as readonly string[]).includes(shape);

// Darker and lighter than the middle tone, by the light that falls on a face.
const SHADES = [
  { role: "shade", opacity: 0.42 },
  { role: "shade", opacity: 0.2 },
  null,
  { role: "lit", opacity: 0.16 },
  { role: "lit", opacity: 0.34 },
] as const;

export function pathOf(polygons: readonly [number, number][][], paper: Paper): string {
  return polygons.map((polygon) => `M${polygon.map(([u, v]) => paper(u, v)).join("L")}Z`).join("");
}

/** Flat faces as one path that is filled all over: all run the same way round, so that none cuts another out. */
export function silhouette(faces: readonly (readonly [number, number])[][]): string {
  return faces
    .map((face) => {
      const polygon = face as [number, number][];
      return pathOf(
        [turnOf(polygon) < 0 ? [...polygon].reverse() : polygon],
        (x, y) => `${x.toFixed(1)} ${y.toFixed(1)}`,
      );
    })
    .join("");
}

/** Points with a hand's shift of their element. */
export function shifted(points: readonly Point3[], shift?: Shift): readonly Point3[] {
  return shift ? points.map(([x = 0, y = 0, z = 0]) => [x + shift.east, y + shift.north, z]) : points;
}

/** A closed line in space as a path. */
export function ringPath(matrix: Matrix, points: readonly Point3[], paper: Paper): string {
  const ring = seen(points.map((point) => place(matrix, point)));
  return ring.length ? pathOf([ring], paper) : "";
}

/** One element's solids in their tones: the whole in one, then what is darker and lighter over it. */
export function Solids({
  item,
  matrix,
  paper,
  shift,
  mirrored = false,
  fill,
}: {
  item: Seen;
  matrix: Matrix;
  paper: Paper;
  shift?: Shift | undefined;
  mirrored?: boolean;
  fill?: string;
}) {
  const faces = item.meshes.flatMap((mesh) =>
    facesSeen(matrix, { ...mesh, points: shifted(mesh.points, shift) }, mirrored),
  );
  if (!faces.length) return null;
  const whole = pathOf(
    faces.map((face) => face.polygon),
    paper,
  );
  const base = fill ?? toneOf(item);
  return (
    <>
      <path d={whole} fill={base} stroke={base} strokeWidth={0.6} strokeLinejoin="round" />
      {!isWet(item.shape) &&
        SHADES.map((shade, tone) => {
          const part = shade ? faces.filter((face) => face.tone === tone) : [];
          return shade && part.length ? (
            <path
              key={shade.role + shade.opacity}
              d={pathOf(
                part.map((face) => face.polygon),
                paper,
              )}
              fill={ink(shade.role)}
              fillOpacity={shade.opacity}
            />
          ) : null;
        })}
    </>
  );
}

/** The box around what is seen of an element, in the frame's shares; undefined behind the camera. */
export function boundsOf(
  item: Seen,
  matrix: Matrix,
  shift?: Shift,
): { left: number; right: number; top: number; bottom: number } | undefined {
  let box: { left: number; right: number; top: number; bottom: number } | undefined;
  for (const mesh of item.meshes)
    for (const point of shifted(mesh.points, shift)) {
      const [u, v, w] = place(matrix, point);
      if (w <= 0.005) continue;
      const [x, y] = [u / w, v / w];
      box = box
        ? {
            left: Math.min(box.left, x),
            right: Math.max(box.right, x),
            top: Math.min(box.top, y),
            bottom: Math.max(box.bottom, y),
          }
        : { left: x, right: x, top: y, bottom: y };
    }
  return box;
}

export const visible = (box: ReturnType<typeof boundsOf>) =>
  !!box && box.right > 0 && box.left < 1 && box.bottom > 0 && box.top < 1;
