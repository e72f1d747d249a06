import type { Inks, Response, SceneData, View } from "./sceneData";

/** What a picture is to be drawn for. */
export interface Sight {
  view: View;
  response: Response;
  inks: Inks;
  width: number;
  height: number;
  scale: number;
}

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
