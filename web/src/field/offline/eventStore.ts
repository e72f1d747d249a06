import { type DBSchema, type IDBPDatabase, openDB } from "idb";
import type { Schemas } from "../../api/client";
import type { Counting } from "./countdown";
import { type FieldEvent, newId } from "./events";

/** An event as this device keeps it. sent: the server has said that it holds it; in a file without a server, it was taken out. turn: its position in the order in which this device recorded events, independent of the clock; events of other devices have none. */
interface Kept {
  id: string;
  run_id: string;
  sent: 0 | 1;
  event: FieldEvent;
  turn?: number;
}

export interface KeptRun {
  run_id: string;
  card_id: number;
  begun: string;
  /** The plan as it was found, where the server planned it again; the taken-along one otherwise. */
  sheet: Schemas["RunSheetOut"] | null;
  /** Until when what was found is in that plan. */
  sheetAt?: string;
  /** Newer events are not in it: the server was unreachable. */
  behind?: boolean;
  /** When somebody chose to go on with it after a long time. */
  continued?: string;
}

interface Schema extends DBSchema {
  events: { key: string; value: Kept; indexes: { run: string; sent: number } };
  runs: { key: string; value: KeptRun; indexes: { card: number } };
  sheets: { key: number; value: Schemas["CardRunOut"] };
  /** The countdown under way, at most one. */
  counting: { key: string; value: Counting };
}

const COUNTING = "now";
const ALL = ["events", "runs", "sheets", "counting"] as const;

let opened: Promise<IDBPDatabase<Schema>> | undefined;

function database(): Promise<IDBPDatabase<Schema>> {
  opened ??= openDB<Schema>("lucid-ridge-field", 2, {
    upgrade(made, before) {
      made.createObjectStore("counting");
      if (before >= 1) return;
      const events = made.createObjectStore("events", { keyPath: "id" });
      events.createIndex("run", "run_id");
      events.createIndex("sent", "sent");
      made.createObjectStore("runs", { keyPath: "run_id" }).createIndex("card", "card_id");
      made.createObjectStore("sheets", { keyPath: "card_id" });
    },
  });
  return opened;
}

/** Keep an event on this device. It has happened once this resolves: the transaction is on the disk. */
export async function keep(event: FieldEvent): Promise<void> {
  const transaction = (await database()).transaction("events", "readwrite", { durability: "strict" });
  // Events are never thrown away one by one: their number grows.
  await transaction.store.put({
    id: event.id,
    run_id: event.run_id,
    sent: 0,
    event,
    turn: await transaction.store.count(),
  });
  await transaction.done;
}

/** Keep the countdown under way, or that there is none, together with the event that tells of it. */
export async function keepCounting(counting: Counting | null, event: FieldEvent | null): Promise<void> {
  const transaction = (await database()).transaction(["counting", "events"], "readwrite", { durability: "strict" });
  const kept = transaction.objectStore("counting");
  const events = transaction.objectStore("events");
  await (counting ? kept.put(counting, COUNTING) : kept.delete(COUNTING));
  if (event) await events.put({ id: event.id, run_id: event.run_id, sent: 0, event, turn: await events.count() });
  await transaction.done;
}

export async function keptCounting(): Promise<Counting | undefined> {
  return (await database()).get("counting", COUNTING);
}

/** Events that were kept by an older version name their kinds with spaces. */
function eventOf(kept: { event: FieldEvent }): FieldEvent {
  return { ...kept.event, kind: kept.event.kind.replaceAll(" ", "_") as FieldEvent["kind"] };
}

/** Everything that this device keeps, of all cards and sessions, each event once. */
export async function allEvents(): Promise<FieldEvent[]> {
  return (await (await database()).getAll("events")).map(eventOf);
}

/** Ids of a session's events in the order in which this device recorded them. */
export async function turnsOf(runId: string): Promise<string[]> {
  const kept = await (await database()).getAllFromIndex("events", "run", runId);
  return kept
    .filter((item) => item.turn !== undefined)
    .sort((a, b) => (a.turn ?? 0) - (b.turn ?? 0))
    .map((item) => item.id);
}

export async function eventsOf(runId: string): Promise<FieldEvent[]> {
  return (await (await database()).getAllFromIndex("events", "run", runId)).map(eventOf);
}

/** Events that the server has not yet acknowledged, the oldest first. */
export async function unsent(): Promise<FieldEvent[]> {
  const found = await (await database()).getAllFromIndex("events", "sent", 0);
  return found.map(eventOf).sort((a, b) => (a.at_utc < b.at_utc ? -1 : 1));
}

export async function markSent(ids: string[]): Promise<void> {
  const transaction = (await database()).transaction("events", "readwrite");
  for (const id of ids) {
    const found = await transaction.store.get(id);
    if (found) await transaction.store.put({ ...found, sent: 1 });
  }
  await transaction.done;
}

/** Take in what another device, or the server, knows of a field session. */
export async function takeIn(events: FieldEvent[], sent: boolean): Promise<void> {
  const transaction = (await database()).transaction("events", "readwrite");
  for (const event of events)
    if (!(await transaction.store.get(event.id)))
      await transaction.store.put({ id: event.id, run_id: event.run_id, sent: sent ? 1 : 0, event });
  await transaction.done;
}

const newest = (runs: KeptRun[]): KeptRun | undefined => runs.sort((a, b) => (a.begun < b.begun ? 1 : -1))[0];

/** The newest field session with a card on this device. */
export async function runFor(cardId: number): Promise<KeptRun | undefined> {
  return newest(await (await database()).getAllFromIndex("runs", "card", cardId));
}

/** The newest field session with a card, begun now where there is none: two that ask at once get the same. */
export async function runOrStart(cardId: number): Promise<KeptRun> {
  const transaction = (await database()).transaction("runs", "readwrite");
  const known = newest(await transaction.store.index("card").getAll(cardId));
  const run = known ?? { run_id: newId(), card_id: cardId, begun: new Date().toISOString(), sheet: null };
  if (!known) await transaction.store.put(run);
  await transaction.done;
  return run;
}

export async function startRun(cardId: number): Promise<KeptRun> {
  const run: KeptRun = { run_id: newId(), card_id: cardId, begun: new Date().toISOString(), sheet: null };
  await (await database()).put("runs", run);
  return run;
}

export async function keepRun(run: KeptRun): Promise<void> {
  await (await database()).put("runs", run);
}

export async function keepSheet(card: Schemas["CardRunOut"]): Promise<void> {
  await (await database()).put("sheets", card);
}

export async function keptSheet(cardId: number): Promise<Schemas["CardRunOut"] | undefined> {
  return (await database()).get("sheets", cardId);
}

/** Throw away all that this device keeps of field sessions, sent or not. */
export async function forgetTimesOut(): Promise<void> {
  const transaction = (await database()).transaction(ALL, "readwrite", { durability: "strict" });
  await Promise.all(ALL.map((name) => transaction.objectStore(name).clear()));
  await transaction.done;
}

/** What this device is called in its events: made once. */
export function deviceName(): string {
  try {
    const known = localStorage.getItem("device");
    if (known) return known;
    const made = `device ${newId().slice(0, 8)}`;
    localStorage.setItem("device", made);
    return made;
  } catch {
    return "device";
  }
}
