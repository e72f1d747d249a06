import { useQueryClient } from "@tanstack/react-query";
import { shotQuery } from "../api/queries";

/** When the shot was last answered: what is computed from it is asked for anew then, and not while an edit is still under way. */
export function useAnswered(shotId: number): number {
  return useQueryClient().getQueryState(shotQuery(shotId).queryKey)?.dataUpdatedAt ?? 0;
}
