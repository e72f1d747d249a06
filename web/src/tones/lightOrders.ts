import type { SceneData, Sight } from "./sceneData";

/** What the page asks of the worker that draws light, for one of its painters. */
export type Order = { painter: number } & (
  | { what: "begin" }
  | { what: "scene"; data: SceneData }
  | { what: "draw"; sight: Sight }
  | { what: "end" }
);

/** What the worker says: whether it can paint here, a picture, or that an order to draw is carried out. */
export type Told = { painter: number } & (
  | { what: "ready"; able: boolean }
  | { what: "picture"; picture: ImageBitmap }
  | { what: "done" }
);
