import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { ApiError, type Schemas } from "../../api/client";
import * as store from "./eventStore";
import { type FieldEvent, isOver, type Kind, merged, newId, nextOf, type Run, runOf } from "./events";
import { changesPlan, type Found, readTables } from "./tables";

type Sheet = Schemas["RunSheetOut"];

/** Where events go, and where the plan is made again; absent in a file that was taken along. */
export interface Server {
  send: (events: FieldEvent[]) => Promise<string[]>;
  known: (runId: string) => Promise<FieldEvent[]>;
  found: (shotId: number, differences: FieldEvent[]) => Promise<Sheet>;
}

export interface RunWork {
  sheet: Sheet;
  run: Run;
  runId: string;
  cardId: number;
  events: FieldEvent[];
  /** The frame to take now; null when all are over. */
  now: Schemas["RunFrameOut"] | null;
  found: Found;
  /** How many events only this device holds: the server has them not yet, or, where there is none, they were not taken out. */
  waiting: number;
  served: boolean;
  /** The last session with this card, where it is so old that the runner asks whether to continue it. */
  resumed: { at_utc: string; taken: number } | null;
  /** Whether something was found that is to be planned with once the server is back. */
  behind: boolean;
  trouble: string;
  tell: (kind: Kind, said?: Partial<FieldEvent>) => Promise<void>;
  undo: () => Promise<void>;
  begin: () => Promise<void>;
  goOn: () => Promise<void>;
  takenOut: (ids: string[]) => Promise<void>;
  takeInEvents: (events: FieldEvent[]) => Promise<void>;
}

const countsForPlan = (event: FieldEvent) => changesPlan(event) || event.kind === "undone";
const NOT_UNDONE: ReadonlySet<Kind> = new Set<Kind>(["undone", "began", "countdown_started", "countdown_stopped"]);
const RETRY_MS = 8000;
const NONE: readonly string[] = [];
// What another device began so lately is the same field session [h].
const SAME_OUTING_H = 18;

/** The field session that another device has under way with this card; undefined where there is none. */
async function underWay(
  cardId: number,
  server: Server | null,
  runIds: readonly string[],
): Promise<store.KeptRun | undefined> {
  const [newest] = runIds;
  if (!server || !newest) return undefined;
  const events = await server.known(newest).catch(() => []);
  const last = merged(events).at(-1);
  const late = !last || Date.now() - Date.parse(last.at_utc) > SAME_OUTING_H * 3_600_000;
  if (late || runOf(events).ended !== null) return undefined;
  await store.takeIn(events, true);
  const run = { run_id: newest, card_id: cardId, begun: last.at_utc, sheet: null };
  await store.keepRun(run);
  return run;
}

/** A session whose last frame was ticked more than 18 hours ago; null for a newer one, or after somebody chose to continue it. */
function longAgo(kept: store.KeptRun, events: FieldEvent[], run: Run): RunWork["resumed"] {
  const last = events.findLast((event) => event.kind === "taken" || event.kind === "skipped");
  const over = Object.values(run.frames).filter(isOver).length;
  if (!last || !over) return null;
  const since = Math.max(Date.parse(last.at_utc), Date.parse(kept.continued ?? last.at_utc));
  const old = Math.abs(Date.now() - since) > SAME_OUTING_H * 3_600_000;
  return old
    ? { at_utc: last.at_utc, taken: Object.values(run.frames).filter((frame) => frame.taken > 0).length }
    : null;
}

/** A field session with a card: its events as this device keeps them, sent to the server whenever it is there. */
export function useRun(
  cardId: number,
  planned: Sheet,
  server: Server | null,
  runIds: readonly string[] = NONE,
): RunWork | null {
  const [kept, setKept] = useState<store.KeptRun | null>(null);
  const [events, setShown] = useState<FieldEvent[]>([]);
  // Two ticks may follow each other faster than the page is drawn.
  const held = useRef<FieldEvent[]>([]);
  const setEvents = useCallback((change: (before: FieldEvent[]) => FieldEvent[]) => {
    held.current = change(held.current);
    setShown(held.current);
    return held.current;
  }, []);
  const [waiting, setWaiting] = useState(0);
  const [trouble, setTrouble] = useState("");
  const sending = useRef(false);
  const asked = useRef(0);
  const toldMs = useRef(0);
  // Ids of events in the order in which they were recorded here; the clock may be set in between.
  const turns = useRef<string[]>([]);

  const send = useCallback(async () => {
    if (!server) return setWaiting((await store.unsent().catch(() => [])).length);
    if (sending.current) return;
    sending.current = true;
    try {
      for (let left = await store.unsent(); left.length; left = await store.unsent()) {
        setWaiting(left.length);
        await store.markSent(await server.send(left.slice(0, 100)));
      }
      setWaiting(0);
    } catch {
      setWaiting((await store.unsent().catch(() => [])).length);
    } finally {
      sending.current = false;
    }
  }, [server]);

  useEffect(() => {
    let here = true;
    void (async () => {
      try {
        const run =
          (await store.runFor(cardId)) ?? (await underWay(cardId, server, runIds)) ?? (await store.runOrStart(cardId));
        const own = await store.eventsOf(run.run_id);
        const order = await store.turnsOf(run.run_id);
        if (!here) return;
        turns.current = order;
        setKept(run);
        setEvents(() => merged(own));
        await send();
        if (server) {
          const theirs = await server.known(run.run_id).catch(() => []);
          await store.takeIn(theirs, true);
          if (here) setEvents((before) => merged(before, theirs));
        }
      } catch {
        if (here) setTrouble("This browser keeps nothing between visits: take what happened out before you close it.");
        if (here) setKept({ run_id: newId(), card_id: cardId, begun: new Date().toISOString(), sheet: null });
      }
    })();
    return () => {
      here = false;
    };
  }, [cardId, server, send, runIds, setEvents]);

  const onlyHere = !server && waiting > 0;
  useEffect(() => {
    if (!onlyHere) return;
    const ask = (event: BeforeUnloadEvent) => {
      // Before anything was touched a browser does not ask, and complains of it.
      if (navigator.userActivation?.hasBeenActive !== false) event.preventDefault();
    };
    window.addEventListener("beforeunload", ask);
    return () => window.removeEventListener("beforeunload", ask);
  }, [onlyHere]);

  const runId = kept?.run_id ?? "";
  const planAnew = useCallback(
    async (all: FieldEvent[]) => {
      if (!server || !kept) return;
      asked.current += 1;
      const turn = asked.current;
      let next = kept;
      try {
        const sheet = await server.found(planned.shot_id, all.filter(countsForPlan));
        next = { ...kept, sheet, sheetAt: all.at(-1)?.at_utc, behind: false };
        if (turn === asked.current) setTrouble("");
      } catch (failure) {
        // Without the server the tables answer; a refusal is shown.
        const away = !(failure instanceof ApiError) || failure.away;
        next = { ...kept, behind: away };
        setTrouble(away ? "" : failure.message);
      }
      // Events sent meanwhile are in the plan already.
      if (turn !== asked.current) return;
      setKept(next);
      await store.keepRun(next).catch(() => undefined);
    },
    [server, kept, planned.shot_id],
  );

  const behind = kept?.behind ?? false;
  useEffect(() => {
    const again = async () => {
      await send();
      if (behind) await planAnew(held.current);
    };
    const timer = window.setInterval(() => void again(), RETRY_MS);
    window.addEventListener("online", again);
    return () => {
      window.clearInterval(timer);
      window.removeEventListener("online", again);
    };
  }, [send, planAnew, behind]);

  const tell = useCallback(
    async (kind: Kind, said: Partial<FieldEvent> = {}) => {
      // Events of one millisecond would have no order.
      toldMs.current = Math.max(Date.now(), toldMs.current + 1);
      const event: FieldEvent = {
        count: 1,
        text: "",
        ...said,
        id: newId(),
        run_id: runId,
        device: store.deviceName(),
        at_utc: new Date(toldMs.current).toISOString(),
        kind,
        card_id: cardId,
      };
      await store
        .keep(event)
        .catch(() => setTrouble("This browser could not keep that: take it out before you close the page."));
      turns.current.push(event.id);
      const all = setEvents((before) => merged(before, [event]));
      void send();
      const undone = kind === "undone" && all.some((item) => item.id === said.refers && changesPlan(item));
      if (changesPlan(event) || undone) await planAnew(all);
    },
    [runId, cardId, send, planAnew, setEvents],
  );

  const run = useMemo(() => runOf(events), [events]);
  const undo = useCallback(async () => {
    const all = held.current;
    const gone = new Set(all.filter((event) => event.kind === "undone").map((event) => event.refers));
    const order = new Map(turns.current.map((id, turn) => [id, turn]));
    const done = [...all].sort((a, b) => (order.get(a.id) ?? -1) - (order.get(b.id) ?? -1));
    const last = done.findLast((event) => !NOT_UNDONE.has(event.kind) && !gone.has(event.id));
    if (last) await tell("undone", { refers: last.id });
  }, [tell]);

  const begin = useCallback(async () => {
    const fresh = await store.startRun(cardId).catch(() => ({
      run_id: newId(),
      card_id: cardId,
      begun: new Date().toISOString(),
      sheet: null,
    }));
    turns.current = [];
    setKept(fresh);
    setEvents(() => []);
    setTrouble("");
  }, [cardId, setEvents]);

  const goOn = useCallback(async () => {
    if (!kept) return;
    const next = { ...kept, continued: new Date().toISOString() };
    setKept(next);
    await store.keepRun(next).catch(() => undefined);
  }, [kept]);

  const takenOut = useCallback(
    async (ids: string[]) => {
      if (server) return;
      await store.markSent(ids).catch(() => undefined);
      await send();
    },
    [server, send],
  );

  const takeInEvents = useCallback(
    async (more: FieldEvent[]) => {
      await store.takeIn(more, false);
      setEvents((before) => merged(before, more));
    },
    [setEvents],
  );

  if (!kept) return null;
  const sheet = kept.sheet ?? planned;
  const sheetAt = kept.sheetAt;
  const since = sheetAt ? runOf(events.filter((event) => new Date(event.at_utc) > new Date(sheetAt))) : run;
  const key = nextOf(
    run,
    sheet.frames.map((frame) => frame.key),
  );
  return {
    sheet,
    run,
    runId,
    cardId,
    events,
    now: sheet.frames.find((frame) => frame.key === key) ?? null,
    found: readTables(sheet, since),
    waiting,
    served: server !== null,
    resumed: longAgo(kept, events, run),
    behind,
    trouble,
    tell,
    undo,
    begin,
    goOn,
    takenOut,
    takeInEvents,
  };
}
