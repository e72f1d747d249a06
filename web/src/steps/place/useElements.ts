import { useQueryClient } from "@tanstack/react-query";
import { client, type Schemas, take } from "../../api/client";
import { refreshPlans } from "../../api/queries";

type ElementIn = Schemas["ElementIn"];
type ElementPatch = Schemas["ElementPatch"];

/** Adding, changing and deleting elements; every plan is asked for again afterwards. */
export function useElements() {
  const queries = useQueryClient();
  const done = <T>(answer: T): T => {
    refreshPlans(queries);
    return answer;
  };
  return {
    add: (viewpointId: number, body: ElementIn) =>
      take(
        client.POST("/api/viewpoints/{viewpoint_id}/elements", { params: { path: { viewpoint_id: viewpointId } }, body }),
      ).then(done),
    edit: (elementId: number, body: ElementPatch) =>
      take(client.PATCH("/api/elements/{element_id}", { params: { path: { element_id: elementId } }, body })).then(done),
    remove: (elementId: number) =>
      take(client.DELETE("/api/elements/{element_id}", { params: { path: { element_id: elementId } } })).then(done),
  };
}

export const SHAPES: Schemas["ElementIn"]["shape"][] = [
  "boulder",
  "tree",
  "post",
  "posts",
  "tower",
  "block",
  "wall",
  "path",
  "stream",
  "shoreline",
  "water",
  "ridge",
  "skyline",
  "flower",
  "insect",
];
export const SHAPE_WORDS: Record<string, string> = {
  block: "block",
  tower: "tower",
  wall: "wall",
  path: "path",
  stream: "stream",
  shoreline: "shoreline",
  skyline: "ridge from the skyline",
  insect: "insect",
  boulder: "boulder",
  post: "post",
  posts: "row of posts",
  tree: "tree",
  ridge: "ridge",
  water: "water",
  flower: "flower",
};

/** Shapes that run a course over the ground. */
export const LINES: string[] = ["path", "stream", "shoreline", "wall"];
