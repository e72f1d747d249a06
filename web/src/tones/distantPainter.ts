import { keepsUp } from "../drawing/inStep";
import type { Order, Told } from "./lightOrders";
import type { Painter, SceneData, Sight } from "./sceneData";

// One is being drawn while the next one waits at the worker's door: none is drawn that a hand has already left behind.
const MOST_UNDER_WAY = 2;

/** A page has one worker that draws light; it stays for the next step. */
let worker: Worker | null = null;
let last = 0;
const painters = new Map<number, DistantPainter>();

function drawingWorker(): Worker {
  if (worker) return worker;
  const made = new Worker(new URL("./lightWorker.ts", import.meta.url), { type: "module" });
  let begun = false;
  made.addEventListener("message", ({ data: told }: MessageEvent<Told>) => {
    begun = true;
    painters.get(told.painter)?.told(told);
  });
  made.addEventListener("error", () => {
    // One that has answered before goes on after a fault; one that could not be loaded is asked for again by the next canvas.
    if (begun) return;
    worker = null;
    for (const painter of painters.values()) painter.told({ painter: painter.id, what: "ready", able: false });
  });
  worker = made;
  return made;
}

/** Has the scene's light drawn by a worker and shows its pictures. */
export class DistantPainter implements Painter {
  readonly id: number;
  private next: Sight | null = null;
  private underWay = 0;
  private ready: (able: boolean) => void = () => undefined;

  private constructor(
    private readonly canvas: HTMLCanvasElement,
    private readonly shown: () => void,
  ) {
    last += 1;
    this.id = last;
    painters.set(this.id, this);
  }

  /** A painter for a canvas; null where light cannot be drawn. shown: told of every picture. */
  static async begin(canvas: HTMLCanvasElement, shown: () => void): Promise<DistantPainter | null> {
    if (typeof OffscreenCanvas === "undefined") return null;
    const made = new DistantPainter(canvas, shown);
    const able = await new Promise<boolean>((resolve) => {
      made.ready = resolve;
      made.order({ painter: made.id, what: "begin" });
    });
    if (able) return made;
    painters.delete(made.id);
    return null;
  }

  scene(data: SceneData): void {
    this.order({ painter: this.id, what: "scene", data });
  }

  draw(sight: Sight): void {
    this.next = sight;
    this.send();
  }

  end(): void {
    painters.delete(this.id);
    keepsUp(this, true);
    this.order({ painter: this.id, what: "end" });
  }

  told(told: Told): void {
    if (told.what === "ready") this.ready(told.able);
    else if (told.what === "picture") {
      this.canvas.getContext("bitmaprenderer")?.transferFromImageBitmap(told.picture);
      this.shown();
    } else {
      this.underWay -= 1;
      this.send();
      if (this.underWay < MOST_UNDER_WAY) keepsUp(this, true);
    }
  }

  private send() {
    if (!this.next || this.underWay >= MOST_UNDER_WAY || !painters.has(this.id)) return;
    this.underWay += 1;
    this.order({ painter: this.id, what: "draw", sight: this.next });
    this.next = null;
    if (this.underWay >= MOST_UNDER_WAY) keepsUp(this, false);
  }

  private order(order: Order) {
    drawingWorker().postMessage(order);
  }
}
