import { useQueryClient } from "@tanstack/react-query";
import { client, type Schemas, take } from "../../api/client";
import { OPTIONS, SHAPES } from "../../api/facts";
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
        client.POST("/api/viewpoints/{viewpoint_id}/elements", {
          params: { path: { viewpoint_id: viewpointId } },
          body,
        }),
      ).then(done),
    edit: (elementId: number, body: ElementPatch) =>
      take(client.PATCH("/api/elements/{element_id}", { params: { path: { element_id: elementId } }, body })).then(
        done,
      ),
    remove: (elementId: number) =>
      take(client.DELETE("/api/elements/{element_id}", { params: { path: { element_id: elementId } } })).then(done),
  };
}

/** What a shape is called. */
export const shapeWords = (shape: Schemas["Shape"]): string =>
  OPTIONS.Shape.find((option) => option.value === shape)?.label ?? shape;

/** Whether a shape runs a course over the ground. */
export const isLine = (shape: string): boolean => (SHAPES.lines as readonly string[]).includes(shape);
