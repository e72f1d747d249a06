import { NEAREST } from "../drawing/projective";
import type { Inks, Layer, Painter, Response, SceneData, Sight, View } from "./sceneData";
import { correctionOf, graduatedStops, toneOf } from "./sceneData";

type Grid = Float32Array;

/** Draws the scene face by face on a plain canvas, where there is no WebGL. Nothing is out of focus here, and shadows are not drawn. */
export class PlainPainter implements Painter {
  private readonly context: CanvasRenderingContext2D;
  private data: SceneData | null = null;

  constructor(
    private readonly canvas: HTMLCanvasElement,
    private readonly shown: () => void,
  ) {
    const context = canvas.getContext("2d");
    if (!context) throw new Error("no canvas");
    this.context = context;
  }

  scene(data: SceneData): void {
    this.data = data;
  }

  draw({ view, response, inks, width, height, scale }: Sight): void {
    const { data, context, canvas } = this;
    if (!data || width < 2 || height < 2) return;
    canvas.width = Math.round(width * scale);
    canvas.height = Math.round(height * scale);
    context.setTransform(scale, 0, 0, scale, 0, 0);
    const paint = (layer: Layer, mirrored: boolean) => {
      const ev = mirrored ? layer.mirrorEv : layer.ev;
      const stops = mirrored ? layer.mirrorPolariser : layer.polariser;
      if (ev)
        this.faces(
          layer,
          this.placed(layer, view, mirrored, width, height),
          ev,
          response.polariser ? stops : null,
          response,
          inks,
          width,
          height,
        );
    };
    for (const layer of data.layers) {
      paint(layer, false);
      if (layer.kind !== "water" || layer.elementId === null || !data.mirrors.has(layer.elementId)) continue;
      context.save();
      this.clip(layer, this.placed(layer, view, false, width, height));
      for (const other of data.layers) paint(other, true);
      context.restore();
    }
    this.shown();
  }

  end(): void {
    this.data = null;
  }

  /** Every point as (x, y, depth) on the canvas. */
  private placed(layer: Layer, view: View, mirrored: boolean, width: number, height: number): Grid {
    const data = this.data as SceneData;
    const [u = [], v = [], w = []] = view.matrix;
    const moved = (layer.elementId !== null && view.shifts.get(layer.elementId)) || { east: 0, north: 0 };
    const made = new Float32Array(layer.points.length);
    const along = (row: readonly number[], x: number, y: number, z: number) =>
      (row[0] ?? 0) * x + (row[1] ?? 0) * y + (row[2] ?? 0) * z + (row[3] ?? 0);
    for (let at = 0; at < made.length; at += 3) {
      const x = (layer.points[at] ?? 0) + (data.anchor[0] ?? 0) + moved.east;
      const y = (layer.points[at + 1] ?? 0) + (data.anchor[1] ?? 0) + moved.north;
      const up = (layer.points[at + 2] ?? 0) + (data.anchor[2] ?? 0);
      const z = mirrored ? 2 * (data.mirrorLevel ?? 0) - up : up;
      const depth = along(w, x, y, z);
      made[at] = (0.5 + (along(u, x, y, z) / depth - 0.5) * view.fit) * width;
      made[at + 1] = (0.5 + (along(v, x, y, z) / depth - 0.5) * view.fit) * height;
      made[at + 2] = depth;
    }
    return made;
  }

  private faces(
    layer: Layer,
    placed: Grid,
    ev: Float32Array,
    polariser: Float32Array | null,
    response: Response,
    inks: Inks,
    width: number,
    height: number,
  ) {
    const { context } = this;
    const shown: { at: number; depth: number }[] = [];
    for (let at = 0; at < layer.triangles.length; at += 3) {
      const depths = [0, 1, 2].map((corner) => placed[3 * (layer.triangles[at + corner] ?? 0) + 2] ?? 0);
      if (Math.min(...depths) > NEAREST) shown.push({ at, depth: Math.max(...depths) });
    }
    if (layer.kind === "thing") shown.sort((one, other) => other.depth - one.depth);
    for (const { at } of shown) {
      const corners = [0, 1, 2].map((corner) => layer.triangles[at + corner] ?? 0);
      const [x, y] = [0, 1].map(
        (axis) => corners.reduce((sum, corner) => sum + (placed[3 * corner + axis] ?? 0), 0) / 3,
      );
      if (x === undefined || y === undefined || x < -80 || y < -80 || x > width + 80 || y > height + 80) continue;
      const mean = corners.reduce((sum, corner) => sum + (ev[corner] ?? 0) + (polariser?.[corner] ?? 0), 0) / 3;
      const lift = correctionOf(layer, response.corrections);
      const taken = response.graduated ? graduatedStops(response.graduated, x / width, y / height) : 0;
      const below = response.brightestEv - mean - lift + taken;
      const ink =
        below < 0
          ? inks.clipped
          : below > response.brightestEv - response.darkestEv
            ? inks.blocked
            : inks.white.map((part) => part * toneOf(response, below));
      context.fillStyle = context.strokeStyle = `rgb(${ink.map((part) => Math.round(255 * part)).join(" ")})`;
      context.beginPath();
      for (const corner of corners) context.lineTo(placed[3 * corner] ?? 0, placed[3 * corner + 1] ?? 0);
      context.closePath();
      context.fill();
      context.lineWidth = 0.7;
      context.stroke();
    }
  }

  private clip(layer: Layer, placed: Grid) {
    const { context } = this;
    context.beginPath();
    for (let at = 0; at < layer.triangles.length; at += 3) {
      const corners = [0, 1, 2].map((corner) => layer.triangles[at + corner] ?? 0);
      if (corners.some((corner) => (placed[3 * corner + 2] ?? 0) <= NEAREST)) continue;
      corners.forEach((corner, index) => {
        const [x, y] = [placed[3 * corner] ?? 0, placed[3 * corner + 1] ?? 0];
        if (index) context.lineTo(x, y);
        else context.moveTo(x, y);
      });
      context.closePath();
    }
    context.clip();
  }
}
