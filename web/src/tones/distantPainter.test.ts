import { afterEach, beforeEach, expect, test, vi } from "vitest";
import type { Order, Told } from "./lightOrders";
import type { SceneData, Sight } from "./sceneData";

type Heard = { message: (event: { data: Told }) => void; error: () => void };

/** Stands for the worker: what it was asked, and its way to answer. */
class Played {
  static made: Played[] = [];
  orders: Order[] = [];
  private readonly heard: Partial<Heard> = {};
  constructor() {
    Played.made.push(this);
  }
  addEventListener<K extends keyof Heard>(kind: K, listen: Heard[K]) {
    this.heard[kind] = listen;
  }
  postMessage(order: Order) {
    this.orders.push(order);
  }
  say(told: Told) {
    this.heard.message?.({ data: told });
  }
  fail() {
    this.heard.error?.();
  }
}

const sight = (width: number) => ({ width }) as Sight;
const shownOn = vi.fn();
const canvas = Object.assign({} as HTMLCanvasElement, { getContext: () => ({ transferFromImageBitmap: shownOn }) });

beforeEach(() => {
  vi.resetModules();
  Played.made = [];
  shownOn.mockClear();
  vi.stubGlobal("Worker", Played);
  vi.stubGlobal("OffscreenCanvas", class {});
});
afterEach(() => vi.unstubAllGlobals());

async function begun(shown: () => void = () => undefined) {
  const { DistantPainter } = await import("./distantPainter");
  const asked = DistantPainter.begin(canvas, shown);
  const worker = Played.made.at(-1) as Played;
  const painter = worker.orders.at(-1)?.painter ?? 0;
  return { asked, worker, painter, DistantPainter };
}

test("no more than two pictures are under way, and what a hand has left behind is not drawn", async () => {
  const { asked, worker, painter } = await begun();
  worker.say({ painter, what: "ready", able: true });
  const made = await asked;
  made?.scene({} as SceneData);
  for (const width of [1, 2, 3, 4, 5]) made?.draw(sight(width));
  const drawn = () => worker.orders.flatMap((order) => (order.what === "draw" ? [order.sight.width] : []));
  expect(drawn()).toEqual([1, 2]);
  worker.say({ painter, what: "done" });
  expect(drawn()).toEqual([1, 2, 5]);
  worker.say({ painter, what: "done" });
  worker.say({ painter, what: "done" });
  expect(drawn()).toEqual([1, 2, 5]);
  expect(worker.orders.map(({ what }) => what)).toEqual(["begin", "scene", "draw", "draw", "draw"]);
});

test("pictures are shown until the painter ends", async () => {
  const shown = vi.fn();
  const { asked, worker, painter } = await begun(shown);
  worker.say({ painter, what: "ready", able: true });
  const made = await asked;
  const picture = {} as ImageBitmap;
  worker.say({ painter, what: "picture", picture });
  expect(shownOn).toHaveBeenCalledExactlyOnceWith(picture);
  expect(shown).toHaveBeenCalledTimes(1);
  made?.end();
  worker.say({ painter, what: "picture", picture });
  expect(shown).toHaveBeenCalledTimes(1);
});

test("where light cannot be drawn there is no painter", async () => {
  const { asked, worker, painter, DistantPainter } = await begun();
  worker.say({ painter, what: "ready", able: false });
  expect(await asked).toBeNull();
  vi.stubGlobal("OffscreenCanvas", undefined);
  expect(await DistantPainter.begin(canvas, () => undefined)).toBeNull();
});

test("a worker that could not be loaded is asked for again, and one that had a fault goes on", async () => {
  const { asked, worker, DistantPainter } = await begun();
  worker.fail();
  expect(await asked).toBeNull();
  const again = DistantPainter.begin(canvas, () => undefined);
  const second = Played.made.at(-1) as Played;
  expect(second).not.toBe(worker);
  const painter = second.orders.at(-1)?.painter ?? 0;
  second.say({ painter, what: "ready", able: true });
  const made = await again;
  second.fail();
  made?.draw(sight(1));
  expect(Played.made.length).toBe(2);
  expect(second.orders.at(-1)?.what).toBe("draw");
});

test("a hand is followed no faster than pictures are drawn", async () => {
  const { asked, worker, painter } = await begun();
  const { inStep } = await import("../drawing/inStep");
  worker.say({ painter, what: "ready", able: true });
  const made = await asked;
  const followed: number[] = [];
  const move = (place: number) => inStep(worker, () => followed.push(place));
  made?.draw(sight(1));
  move(1);
  made?.draw(sight(2));
  move(2);
  move(3);
  expect(followed).toEqual([1]);
  worker.say({ painter, what: "done" });
  expect(followed).toEqual([1, 3]);
  made?.draw(sight(3));
  move(4);
  expect(followed).toEqual([1, 3]);
  made?.end();
  expect(followed).toEqual([1, 3, 4]);
});

test("a painter that has ended draws nothing more and holds no hand up", async () => {
  const { asked, worker, painter } = await begun();
  const { inStep } = await import("../drawing/inStep");
  worker.say({ painter, what: "ready", able: true });
  const made = await asked;
  made?.draw(sight(1));
  made?.end();
  for (const width of [2, 3, 4]) made?.draw(sight(width));
  expect(worker.orders.map(({ what }) => what)).toEqual(["begin", "draw", "end"]);
  const followed = vi.fn();
  inStep(worker, followed);
  expect(followed).toHaveBeenCalledTimes(1);
});
