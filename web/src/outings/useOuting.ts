import { useQuery, useQueryClient } from "@tanstack/react-query";
import { client, type Schemas, take } from "../api/client";
import { outingQuery } from "../api/queries";

export type Outing = Schemas["OutingOut"];
export type Stop = Schemas["StopOut"];
type OutingPatch = Schemas["OutingPatch"];
type StopPatch = Schemas["StopPatch"];

/** One outing and its edits; every answer is the whole outing, planned again. */
export function useOuting(id: number) {
  const queries = useQueryClient();
  const query = useQuery(outingQuery(id));
  const stands = async (answer: Promise<Outing>) => {
    const found = await answer;
    // What was asked for while this edit was under way may be older than it.
    await queries.cancelQueries({ queryKey: outingQuery(id).queryKey });
    queries.setQueryData(outingQuery(id).queryKey, found);
    void queries.invalidateQueries({ queryKey: ["outings"], exact: true });
  };
  return {
    query,
    change: (body: OutingPatch) =>
      stands(take(client.PATCH("/api/outings/{outing_id}", { params: { path: { outing_id: id } }, body }))),
    addStop: (body: Schemas["StopIn"]) =>
      stands(take(client.POST("/api/outings/{outing_id}/stops", { params: { path: { outing_id: id } }, body }))),
    changeStop: (stop: number, body: StopPatch) =>
      stands(take(client.PATCH("/api/stops/{stop_id}", { params: { path: { stop_id: stop } }, body }))),
    removeStop: (stop: number) =>
      stands(take(client.DELETE("/api/stops/{stop_id}", { params: { path: { stop_id: stop } } }))),
  };
}

export type OutingWork = Omit<ReturnType<typeof useOuting>, "query"> & { outing: Outing };
