import { useQueryClient } from "@tanstack/react-query";
import { useState, useSyncExternalStore } from "react";
import { shotQuery } from "../api/queries";
import { queueOf } from "./useShot";

/** When the shot was last answered with no edit left: what is computed from it is asked for again then, and not while a hand is still at it. */
export function useAnswered(shotId: number): number {
  const queries = useQueryClient();
  const queue = queueOf(shotId, queries);
  const answeredAt = queries.getQueryState(shotQuery(shotId).queryKey)?.dataUpdatedAt ?? 0;
  const edited = useSyncExternalStore(queue.subscribe, () => Object.keys(queue.snapshot().asked).length > 0);
  const [restedAt, setRestedAt] = useState(answeredAt);
  if (!edited && restedAt !== answeredAt) setRestedAt(answeredAt);
  return edited ? restedAt : answeredAt;
}
