import { type QueryClient, useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useSyncExternalStore } from "react";
import { ApiError, client, type Schemas, take } from "../api/client";
import { refreshPlans, shotQuery } from "../api/queries";
import { readsFrom } from "../api/session";
import { readRecord, writeRecord } from "../lib/drafts/drafts";
import { complain, tell } from "../ui/overlay/toaster";
import { type Facts, flat, grouped, type Patch } from "./facts";
import { EditQueue, overlaid, type QueueState, type Values } from "./queue";

export type Shot = Omit<Schemas["ShotOut"], "facts"> & { facts: Facts };
export type { Patch };

// Edits whose effect is drawn before the server answers.
const DRAWN_AT_ONCE = new Set(["camera_east_m", "camera_north_m", "camera_height_m", "bearing_deg", "pitch_deg"]);
// How far apart they are sent while they keep coming: where a server takes long, pictures mostly wait for the same processors [ms].
const [CALM_MS, LONGEST_CALM_MS, ANSWERS] = [240, 600, 4];

/** What a step's page needs of the shot: its data, changing it, and the refusals by field. */
export interface ShotWork {
  /** The shot as answered, with ticks and choices as they have been asked for. */
  shot: Shot;
  change: (patch: Patch) => Promise<void>;
  /** Like change, for dials and handles: a refusal is shown at the field and not thrown. */
  set: (patch: Patch) => void;
  /** Values on their way to the server: what is ticked next starts from them. */
  asked: () => { [name in keyof Patch]?: unknown };
  errors: Record<string, string>;
  /** Forget a refusal whose text was thrown away. */
  forgive: (field: string) => void;
}

const queues = new Map<number, EditQueue<Schemas["ShotOut"]>>();

const LETTING_GO = ["pointerup", "pointercancel", "keyup"];

/** Look from now on for the hand to let go, until told to stop. */
function watchHand(): { letGo: Promise<void>; stop: () => void } {
  const watch = new AbortController();
  const letGo = new Promise<void>((resolve) => {
    for (const kind of LETTING_GO) window.addEventListener(kind, () => resolve(), { signal: watch.signal });
  });
  return { letGo, stop: () => watch.abort() };
}

/** The queue of a shot outlives its page: what is under way when one goes to another shot still lands where it belongs. */
export function queueOf(id: number, queries: QueryClient): EditQueue<Schemas["ShotOut"]> {
  const found = queues.get(id);
  if (found) return found;
  const key = shotQuery(id).queryKey;
  const kept = `unsent:shot:${id}`;
  let began = 0;
  let hand: ReturnType<typeof watchHand> | undefined;
  const wait = (ms: number) => new Promise<void>((resolve) => setTimeout(resolve, ms));
  const made = new EditQueue<Schemas["ShotOut"]>({
    send: async (patch) => {
      began = performance.now();
      hand?.stop();
      hand = watchHand();
      // An older answer must not land on top of a newer one.
      void queries.cancelQueries({ queryKey: key });
      return take(client.PATCH("/api/shots/{shot_id}", { params: { path: { shot_id: id } }, body: grouped(patch) }));
    },
    answered: async (answer) => {
      // Nor must one that was asked for while the edit was under way: it may have been read before the edit was written.
      await queries.cancelQueries({ queryKey: key });
      queries.setQueryData(shotQuery(answer.id).queryKey, answer);
      void queries.invalidateQueries({ queryKey: ["notebook"] });
    },
    calm: async (patch) => {
      // A hand that moves the camera sees it at once; the verdicts may follow at their own pace, but where it let go is said without delay.
      if (!Object.keys(patch).every((name) => DRAWN_AT_ONCE.has(name))) return;
      const took = performance.now() - began;
      await Promise.race([hand?.letGo, wait(Math.min(LONGEST_CALM_MS, Math.max(CALM_MS, ANSWERS * took)) - took)]);
    },
    refresh: () => queries.refetchQueries({ queryKey: key }),
    wait,
    keep: (values) => writeRecord(kept, values),
    kept: () => readRecord(kept),
  });
  queues.set(id, made);
  return made;
}

/** One shot and its edits. */
export function useShot(id: number) {
  const queries = useQueryClient();
  const query = useQuery(shotQuery(id));
  const queue = useMemo(() => queueOf(id, queries), [id, queries]);
  const state: QueueState = useSyncExternalStore(queue.subscribe, queue.snapshot);
  useEffect(() => readsFrom(`/api/shots/${id}`), [id]);
  useEffect(() => {
    const back = () => queue.retry();
    const leaving = (event: BeforeUnloadEvent) => {
      if (queue.snapshot().away !== undefined) event.preventDefault();
    };
    window.addEventListener("online", back);
    window.addEventListener("beforeunload", leaving);
    return () => {
      window.removeEventListener("online", back);
      window.removeEventListener("beforeunload", leaving);
    };
  }, [queue]);

  const change = useCallback((patch: Patch) => queue.add(patch as Values), [queue]);
  const set = useCallback((patch: Patch) => void queue.add(patch as Values).catch(() => undefined), [queue]);
  const locationId = query.data?.place?.location_id;
  const stepBack = useCallback(
    async (path: "/api/undo" | "/api/redo") => {
      // What is under way lands first: undo means the newest edit, not the one before it.
      await queue.idle();
      const key = shotQuery(id).queryKey;
      const state = queries.getQueryState(key);
      if (state?.isInvalidated || state?.fetchStatus === "fetching")
        await queries.refetchQueries({ queryKey: key }, { cancelRefetch: false });
      const undo = queries.getQueryData(key)?.undo;
      const entry_id = path === "/api/undo" ? undo?.undo_id : undo?.redo_id;
      if (!entry_id)
        return void tell(path === "/api/undo" ? "There is nothing to undo." : "There is nothing to redo.", "shot");
      const scopes = [`shot:${id}`, ...(locationId ? [`location:${locationId}`] : [])];
      try {
        const turned = await take(client.POST(path, { body: { scopes, entry_id } }));
        queue.forgetErrors();
        (turned.done ? tell : complain)(turned.words, "shot");
      } catch (failure) {
        complain(failure instanceof ApiError ? failure.message : String(failure), "shot");
      }
      refreshPlans(queries);
    },
    [queries, queue, id, locationId],
  );
  const data = query.data;
  // Under a hand that moves the camera the shot stays the same object until it is answered: what is drawn from it is left alone.
  const stored = useMemo(() => data && flat(data.facts), [data]);
  const facts = useMemo(() => stored && overlaid(stored, state.asked), [stored, state.asked]);
  const shot = useMemo(() => data && facts && { ...data, facts }, [data, facts]);
  return {
    query,
    shot,
    queue,
    state,
    change,
    set,
    /** What has been asked for and not been answered yet. */
    asked: useCallback(() => queue.snapshot().asked as { [name in keyof Patch]?: unknown }, [queue]),
    undo: useCallback(() => stepBack("/api/undo"), [stepBack]),
    redo: useCallback(() => stepBack("/api/redo"), [stepBack]),
  };
}
