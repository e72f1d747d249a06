import { useQueryClient } from "@tanstack/react-query";
import { client, type Schemas, take } from "../../../api/client";
import { refreshPlans } from "../../../api/queries";

/** Changing the ground of a viewpoint; every plan is asked for again afterwards. */
export function useViewpoint() {
  const queries = useQueryClient();
  return {
    edit: (viewpointId: number, body: Schemas["ViewpointPatch"]) =>
      take(
        client.PATCH("/api/viewpoints/{viewpoint_id}", { params: { path: { viewpoint_id: viewpointId } }, body }),
      ).then((answer) => {
        refreshPlans(queries);
        return answer;
      }),
  };
}
