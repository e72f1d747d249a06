import { client, take } from "../../../api/client";
import type { Outline } from "../../../drawing/export";

interface SceneFile {
  elements: { name: string; in_frame: [number, number][][] | null }[];
}

/** The elements' outlines in the frame as the server gives them. at: where a share of the frame's width and height lies in the drawing. */
export async function outlinesOf(shotId: number, at: (u: number, v: number) => [number, number]): Promise<Outline[]> {
  const answer: unknown = await take(
    client.GET("/api/shots/{shot_id}/scene.json", { params: { path: { shot_id: shotId } } }),
  );
  const ring = (points: [number, number][]) =>
    `M${points
      .map(([u, v]) =>
        at(u, v)
          .map((value) => value.toFixed(1))
          .join(" "),
      )
      .join("L")}Z`;
  return (answer as SceneFile).elements.map(({ name, in_frame }) => ({
    name,
    path: (in_frame ?? []).map(ring).join(""),
  }));
}
