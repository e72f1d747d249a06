// Width of a cell in usual edge lengths: about a fifth of the triangles are left.
const CELL_EDGES = 2;
// Below so many there is little to save, and an outline to lose.
const FEW = 2300;
const SAMPLES = 500;
// So many cells lie between two opposite directions at most: three of them and a distance make one exact number.
const STEPS = 2 ** 15;
const LEAST_CELL = 2.1 / STEPS;

/**
 * The triangles of a mesh drawn in a hurry: points that lie close together for the eye at the origin become one, the nearest of them,
 * and triangles without a surface are left out. The points stay as they are.
 */
export function coarseTriangles(points: Float32Array, triangles: Uint32Array): Uint32Array {
  if (triangles.length < 3 * FEW) return triangles;
  const towards = directions(points);
  const edge = usualEdge(towards, triangles);
  if (!(edge > 0)) return triangles;
  const cell = Math.max(CELL_EDGES * edge, LEAST_CELL);
  const count = points.length / 3;
  const keys = new Float64Array(count);
  const nearest = new Map<number, number>();
  for (let at = 0; at < count; at += 1) {
    const key = keyOf(towards, 4 * at, cell);
    keys[at] = key;
    const old = nearest.get(key);
    if (old === undefined || (towards[4 * at + 3] ?? 0) < (towards[4 * old + 3] ?? 0)) nearest.set(key, at);
  }
  const stands = Uint32Array.from(keys, (key) => nearest.get(key) ?? 0);
  const kept = new Uint32Array(triangles.length);
  let end = 0;
  for (let at = 0; at < triangles.length; at += 3) {
    const a = stands[triangles[at] ?? 0] ?? 0;
    const b = stands[triangles[at + 1] ?? 0] ?? 0;
    const c = stands[triangles[at + 2] ?? 0] ?? 0;
    if (a === b || b === c || a === c) continue;
    kept[end] = a;
    kept[end + 1] = b;
    kept[end + 2] = c;
    end += 3;
  }
  return kept.slice(0, end);
}

/** Direction and distance of each point, one after the other. */
function directions(points: Float32Array): Float32Array {
  const made = new Float32Array((points.length / 3) * 4);
  for (let at = 0; at < points.length / 3; at += 1) {
    const x = points[3 * at] ?? 0;
    const y = points[3 * at + 1] ?? 0;
    const z = points[3 * at + 2] ?? 0;
    const far = Math.hypot(x, y, z) || 1;
    made[4 * at] = x / far;
    made[4 * at + 1] = y / far;
    made[4 * at + 2] = z / far;
    made[4 * at + 3] = far;
  }
  return made;
}

/** The cell of a point in one number; what lies far behind something else stays apart from it. */
function keyOf(towards: Float32Array, at: number, cell: number): number {
  const step = (axis: number) => Math.round((towards[at + axis] ?? 0) / cell) + STEPS / 2;
  const depth = Math.min(63, Math.max(0, Math.round(Math.log2(towards[at + 3] ?? 1)) + 32));
  return ((step(0) * STEPS + step(1)) * STEPS + step(2)) * 64 + depth;
}

/** The middle length of some edges [rad]. */
function usualEdge(towards: Float32Array, triangles: Uint32Array): number {
  const stride = 3 * Math.max(1, Math.floor(triangles.length / 3 / SAMPLES));
  const lengths: number[] = [];
  for (let at = 0; at + 1 < triangles.length; at += stride) {
    const [a = 0, b = 0] = [triangles[at], triangles[at + 1]];
    lengths.push(Math.hypot(...[0, 1, 2].map((axis) => (towards[4 * a + axis] ?? 0) - (towards[4 * b + axis] ?? 0))));
  }
  return lengths.sort((one, other) => one - other)[Math.floor(lengths.length / 2)] ?? 0;
}
