import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useMemo, useRef, useState } from "react";
import { ApiError, client, type Schemas, take } from "../api/client";
import { refreshPlans, shotQuery } from "../api/queries";

export type Shot = Schemas["ShotOut"];
export type Patch = Schemas["ShotPatch"];

type Values = { [name in keyof Patch]?: unknown };

// Edits whose effect is drawn before the server answers, and how far apart they are sent while they keep coming [ms].
const DRAWN_AT_ONCE = new Set(["camera_east_m", "camera_north_m", "camera_height_m", "bearing_deg", "pitch_deg"]);
const CALM_MS = 160;

interface Waiting {
  patch: Patch;
  settle: { resolve: () => void; reject: (error: unknown) => void }[];
}

/** What a step's page needs of the shot: its data, changing it, and the refusals by field. */
export interface ShotWork {
  shot: Shot;
  change: (patch: Patch) => Promise<void>;
  /** Like change, for dials and handles: a refusal is shown at the field and not thrown. */
  set: (patch: Patch) => void;
  /** Values on their way to the server: what is ticked next starts from them. */
  asked: () => { [name in keyof Patch]?: unknown };
  errors: Record<string, string>;
}

/**
 * One shot and its edits. Edits are sent one after another; those made meanwhile are sent together next, so that a dial being
 * turned shows its newest consequences and never an older answer.
 */
export function useShot(id: number) {
  const queries = useQueryClient();
  const query = useQuery(shotQuery(id));
  const [errors, setErrors] = useState<Record<string, string>>({});
  const [away, setAway] = useState<string>();
  const queue = useRef<{ busy: boolean; waiting: Waiting | null; asked: Values }>({ busy: false, waiting: null, asked: {} });

  const send = useCallback(async () => {
    const state = queue.current;
    if (state.busy) return;
    state.busy = true;
    while (state.waiting) {
      const { patch, settle }: Waiting = state.waiting;
      state.waiting = null;
      const began = performance.now();
      try {
        const answer = await take(client.PATCH("/api/shots/{shot_id}", { params: { path: { shot_id: id } }, body: patch }));
        queries.setQueryData(shotQuery(id).queryKey, answer);
        void queries.invalidateQueries({ queryKey: ["notebook"] });
        setAway(undefined);
        setErrors((old) => without(old, Object.keys(patch)));
        for (const one of settle) one.resolve();
        // A hand that moves the camera sees it at once; the verdicts may follow at their own pace.
        if (Object.keys(patch).every((name) => DRAWN_AT_ONCE.has(name)))
          await new Promise((resolve) => setTimeout(resolve, CALM_MS - (performance.now() - began)));
      } catch (failure) {
        if (failure instanceof ApiError && failure.status === 422)
          setErrors((old) => ({ ...without(old, Object.keys(patch)), ...byField(failure) }));
        else setAway(failure instanceof Error ? failure.message : String(failure));
        for (const one of settle) one.reject(failure);
      }
    }
    state.busy = false;
    state.asked = {};
  }, [id, queries]);

  const change = useCallback(
    (patch: Patch) =>
      new Promise<void>((resolve, reject) => {
        const state = queue.current;
        state.asked = { ...state.asked, ...patch };
        const settle = [...(state.waiting?.settle ?? []), { resolve, reject }];
        state.waiting = { patch: { ...state.waiting?.patch, ...patch }, settle };
        void send();
      }),
    [send],
  );
  const set = useCallback((patch: Patch) => void change(patch).catch(() => undefined), [change]);

  const scopes = useMemo(
    () => [`shot:${id}`, ...(query.data?.place ? [`location:${query.data.place.location_id}`] : [])],
    [id, query.data?.place],
  );
  const stepBack = useCallback(
    async (path: "/api/undo" | "/api/redo") => {
      try {
        await take(client.POST(path, { body: { scopes } }));
        setErrors({});
        setAway(undefined);
        refreshPlans(queries);
      } catch (failure) {
        if (!(failure instanceof ApiError && failure.status === 409)) setAway((failure as Error).message);
      }
    },
    [queries, scopes],
  );
  return {
    query,
    errors,
    away,
    change,
    set,
    /** What has been asked for and not been answered yet. */
    asked: useCallback((): Values => queue.current.asked, []),
    undo: useCallback(() => stepBack("/api/undo"), [stepBack]),
    redo: useCallback(() => stepBack("/api/redo"), [stepBack]),
  };
}

function without(errors: Record<string, string>, names: string[]): Record<string, string> {
  return Object.fromEntries(Object.entries(errors).filter(([name]) => !names.includes(name)));
}

function byField(error: ApiError): Record<string, string> {
  return Object.fromEntries(error.fields.map((item) => [item.field.split(".")[0] ?? "", item.message]));
}
