import type { Order, Told } from "./lightOrders";
import { LightPainter } from "./lightPainter";

const painters = new Map<number, LightPainter>();
const tell = (told: Told, transfer: Transferable[] = []) => postMessage(told, { transfer });

/** Draws light away from the page: where there is no graphics card a picture takes as long as a screen shows one, and the page would stand still for it. */
addEventListener("message", ({ data: order }: MessageEvent<Order>) => {
  const { painter } = order;
  if (order.what === "begin") {
    const canvas = new OffscreenCanvas(1, 1);
    const shown = () => {
      const picture = canvas.transferToImageBitmap();
      tell({ painter, what: "picture", picture }, [picture]);
    };
    try {
      painters.set(painter, new LightPainter(canvas, shown));
    } catch {
      // Without targets of floats there is no linear light: the page has a plainer way.
    }
    tell({ painter, what: "ready", able: painters.has(painter) });
  } else if (order.what === "scene") painters.get(painter)?.scene(order.data);
  else if (order.what === "draw") {
    try {
      painters.get(painter)?.draw(order.sight);
    } finally {
      // The page waits for it, whatever became of the picture.
      tell({ painter, what: "done" });
    }
  } else {
    painters.get(painter)?.end();
    painters.delete(painter);
  }
});
