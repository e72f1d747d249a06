import { BufferAttribute, BufferGeometry, Mesh, Vector3 } from "three";
import { coarseTriangles } from "./coarse";
import type { Layer } from "./sceneData";

const SUN_RADIUS = (0.2665 * Math.PI) / 180;

/** A layer as it is seen, in shade, and mirrored. */
export class Part {
  private readonly fine: number;
  /** A ball around all its points. */
  readonly ball: { middle: Vector3; radius: number };
  readonly seen: Mesh;
  readonly shaded: Mesh | null;
  readonly mirrored: Mesh | null;

  constructor(readonly layer: Layer) {
    const points = new BufferAttribute(layer.points, 3);
    // All triangles, then the fewer that are drawn while a hand moves.
    const coarse = coarseTriangles(layer.points, layer.triangles);
    const both = new Uint32Array(layer.triangles.length + coarse.length);
    both.set(layer.triangles);
    both.set(coarse, layer.triangles.length);
    const triangles = new BufferAttribute(both, 1);
    this.fine = layer.triangles.length;
    this.ball = ballAround(layer.points);
    const made = (ev: Float32Array | null, polariser: Float32Array | null) => {
      if (!ev) return null;
      const geometry = new BufferGeometry();
      geometry.setAttribute("position", points);
      geometry.setIndex(triangles);
      geometry.setAttribute("ev", new BufferAttribute(ev, 1));
      geometry.setAttribute("polariser", new BufferAttribute(polariser ?? new Float32Array(ev.length), 1));
      const mesh = bare(geometry);
      mesh.userData = { grain: layer.grainM, stops: layer.grainStops };
      return mesh;
    };
    this.seen = made(layer.ev, layer.polariser) as Mesh;
    this.shaded = made(layer.shadeEv, null);
    this.mirrored = made(layer.mirrorEv, layer.mirrorPolariser);
  }

  /** Choose between all triangles and few. */
  rough(on: boolean) {
    for (const mesh of [this.seen, this.shaded, this.mirrored])
      if (mesh) mesh.geometry.setDrawRange(on ? this.fine : 0, on ? Number.POSITIVE_INFINITY : this.fine);
  }

  dispose() {
    for (const mesh of [this.seen, this.shaded, this.mirrored]) mesh?.geometry.dispose();
  }
}

function ballAround(points: Float32Array): { middle: Vector3; radius: number } {
  const geometry = new BufferGeometry();
  geometry.setAttribute("position", new BufferAttribute(points, 3));
  geometry.computeBoundingSphere();
  const sphere = geometry.boundingSphere;
  return { middle: sphere?.center ?? new Vector3(), radius: sphere?.radius ?? 0 };
}

export function bare(geometry: BufferGeometry): Mesh {
  const mesh = new Mesh(geometry);
  mesh.frustumCulled = false;
  return mesh;
}

export function flatMesh({ points, ev }: { points: number[]; ev: number }): Mesh {
  const geometry = new BufferGeometry();
  const count = points.length / 3;
  geometry.setAttribute("position", new BufferAttribute(new Float32Array(points), 3));
  geometry.setAttribute("ev", new BufferAttribute(new Float32Array(count).fill(ev), 1));
  geometry.setAttribute("polariser", new BufferAttribute(new Float32Array(count), 1));
  return bare(geometry);
}

/** A convex ring as triangles. */
export function fan(ring: number[][]): { points: number[]; ev: number } {
  const points: number[] = [];
  for (let at = 1; at < ring.length - 1; at += 1)
    points.push(...(ring[0] ?? []), ...(ring[at] ?? []), ...(ring[at + 1] ?? []));
  return { points, ev: 0 };
}

/** The sun's disc, far away and brighter than anything else. */
export function sunDisc({ altitude, azimuth }: { altitude: number; azimuth: number }): {
  points: number[];
  ev: number;
} {
  const [a, z] = [(altitude * Math.PI) / 180, (azimuth * Math.PI) / 180];
  const towards = new Vector3(Math.cos(a) * Math.sin(z), Math.cos(a) * Math.cos(z), Math.sin(a));
  const right = new Vector3(Math.cos(z), -Math.sin(z), 0);
  const up = new Vector3().crossVectors(right, towards);
  const ring = Array.from({ length: 24 }, (_, at) => {
    const turn = (at * Math.PI) / 12;
    const far = towards
      .clone()
      .addScaledVector(right, SUN_RADIUS * Math.cos(turn))
      .addScaledVector(up, SUN_RADIUS * Math.sin(turn));
    return far.multiplyScalar(1e6).toArray();
  });
  return { ...fan(ring), ev: 40 };
}
