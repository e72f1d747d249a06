import { type DBSchema, type IDBPDatabase, openDB } from "idb";
import type { Schemas } from "../api/client";
import { type FieldEvent, newId } from "./events";

/** An event as this device keeps it. sent: the server has said that it holds it. */
interface Kept {
  id: string;
  run_id: string;
  sent: 0 | 1;
  event: FieldEvent;
}

export interface KeptRun {
  run_id: string;
  card_id: number;
  begun: string;
  /** The plan as it was found, where the server planned it anew; the taken-along one otherwise. */
  sheet: Schemas["RunSheetOut"] | null;
  /** Until when what was found is in that plan. */
  sheetAt?: string;
  /** What was told since is not in it: the server was away. */
  behind?: boolean;
}

interface Schema extends DBSchema {
  events: { key: string; value: Kept; indexes: { run: string; sent: number } };
  runs: { key: string; value: KeptRun; indexes: { card: number } };
  sheets: { key: number; value: Schemas["CardRunOut"] };
}

let opened: Promise<IDBPDatabase<Schema>> | undefined;

function database(): Promise<IDBPDatabase<Schema>> {
  opened ??= openDB<Schema>("lucid-ridge-field", 1, {
    upgrade(made) {
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
  await transaction.store.put({ id: event.id, run_id: event.run_id, sent: 0, event });
  await transaction.done;
}

export async function eventsOf(runId: string): Promise<FieldEvent[]> {
  return (await (await database()).getAllFromIndex("events", "run", runId)).map((item) => item.event);
}

/** Events that the server has not yet acknowledged, the oldest first. */
export async function unsent(): Promise<FieldEvent[]> {
  const found = await (await database()).getAllFromIndex("events", "sent", 0);
  return found.map((item) => item.event).sort((a, b) => (a.at_utc < b.at_utc ? -1 : 1));
}

export async function markSent(ids: string[]): Promise<void> {
  const transaction = (await database()).transaction("events", "readwrite");
  for (const id of ids) {
    const found = await transaction.store.get(id);
    if (found) await transaction.store.put({ ...found, sent: 1 });
  }
  await transaction.done;
}

/** Take in what another device, or the server, knows of a time out. */
export async function takeIn(events: FieldEvent[], sent: boolean): Promise<void> {
  const transaction = (await database()).transaction("events", "readwrite");
  for (const event of events)
    if (!(await transaction.store.get(event.id)))
      await transaction.store.put({ id: event.id, run_id: event.run_id, sent: sent ? 1 : 0, event });
  await transaction.done;
}

const newest = (runs: KeptRun[]): KeptRun | undefined => runs.sort((a, b) => (a.begun < b.begun ? 1 : -1))[0];

/** The newest time out with a card on this device. */
export async function runFor(cardId: number): Promise<KeptRun | undefined> {
  return newest(await (await database()).getAllFromIndex("runs", "card", cardId));
}

/** The newest time out with a card, begun now where there is none: two that ask at once get the same. */
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

/** Throw away all that this device keeps of times out, sent or not. */
export async function forgetTimesOut(): Promise<void> {
  const transaction = (await database()).transaction(["events", "runs", "sheets"], "readwrite", { durability: "strict" });
  await Promise.all((["events", "runs", "sheets"] as const).map((name) => transaction.objectStore(name).clear()));
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
