import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { ApiError, type Schemas } from "../api/client";
import * as store from "./eventStore";
import { type FieldEvent, type Kind, merged, newId, nextOf, type Run, runOf } from "./events";
import { changesPlan, type Found, readTables } from "./tables";

type Sheet = Schemas["RunSheetOut"];

/** Where events go, and where the plan is made anew; absent in a file that was taken along. */
export interface Server {
  send: (events: FieldEvent[]) => Promise<string[]>;
  known: (runId: string) => Promise<FieldEvent[]>;
  found: (shotId: number, differences: FieldEvent[]) => Promise<Sheet>;
}

export interface RunWork {
  sheet: Sheet;
  run: Run;
  runId: string;
  events: FieldEvent[];
  /** The frame to take now; null when all are over. */
  now: Schemas["RunFrameOut"] | null;
  found: Found;
  /** How many events the server does not hold yet; null where there is no server. */
  waiting: number | null;
  /** Whether something was found that is to be planned with once the server is back. */
  behind: boolean;
  trouble: string;
  tell: (kind: Kind, said?: Partial<FieldEvent>) => Promise<void>;
  undo: () => Promise<void>;
  begin: () => Promise<void>;
  takeInEvents: (events: FieldEvent[]) => Promise<void>;
}

const countsForPlan = (event: FieldEvent) => changesPlan(event) || event.kind === "undone";
const RETRY_MS = 8000;
const NONE: readonly string[] = [];
// What another device began so lately is the same time out [h].
const SAME_OUTING_H = 18;

/** The time out that another device has under way with this card; undefined where there is none. */
async function underWay(cardId: number, server: Server | null, runIds: readonly string[]): Promise<store.KeptRun | undefined> {
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

/** A time out with a card: its events as this device keeps them, sent to the server whenever it is there. */
export function useRun(cardId: number, planned: Sheet, server: Server | null, runIds: readonly string[] = NONE): RunWork | null {
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

  const send = useCallback(async () => {
    if (!server || sending.current) return;
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
        const run = (await store.runFor(cardId)) ?? (await underWay(cardId, server, runIds)) ?? (await store.runOrStart(cardId));
        const own = await store.eventsOf(run.run_id);
        if (!here) return;
        setKept(run);
        setEvents(() => merged(own));
        if (server) {
          await send();
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
        // Out of reach the tables say what they know; a refusal is told.
        const away = !(failure instanceof ApiError) || failure.away;
        next = { ...kept, behind: away };
        setTrouble(away ? "" : failure.message);
      }
      // What was told meanwhile is planned with already.
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
      await store.keep(event).catch(() => setTrouble("This browser could not keep that: take it out before you close the page."));
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
    const last = [...all].reverse().find((event) => event.kind !== "undone" && event.kind !== "began" && !gone.has(event.id));
    if (last) await tell("undone", { refers: last.id });
  }, [tell]);

  const begin = useCallback(async () => {
    const fresh = await store.startRun(cardId).catch(() => ({
      run_id: newId(),
      card_id: cardId,
      begun: new Date().toISOString(),
      sheet: null,
    }));
    setKept(fresh);
    setEvents(() => []);
    setTrouble("");
  }, [cardId, setEvents]);

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
    events,
    now: sheet.frames.find((frame) => frame.key === key) ?? null,
    found: readTables(sheet, since),
    waiting: server ? waiting : null,
    behind,
    trouble,
    tell,
    undo,
    begin,
    takeInEvents,
  };
}
