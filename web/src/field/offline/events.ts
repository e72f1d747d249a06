import type { Schemas } from "../../api/client";

export type FieldEvent = Schemas["FieldEventIn"];
export type Kind = FieldEvent["kind"];

/** What became of one planned frame; the same bookkeeping as core/field/run.py, which a shared file of cases holds to it. */
export interface FrameRun {
  taken: number;
  times: string[];
  skipped: boolean;
  notes: string[];
}

export interface Run {
  frames: Record<string, FrameRun>;
  began: string | null;
  ended: string | null;
  lateMin: number;
  missing: number[];
  /** The newest of a reading and a delay: what the tables are read by. */
  light: FieldEvent | null;
  notes: string[];
  checked: Set<string>;
  ratings: Record<string, number>;
  /** When one set out on foot, arrived and was set up, as first noted. */
  way: Partial<Record<WayKind, string>>;
  /** What the battery showed [%], the newest last. */
  battery: number[];
}

/** The way in, in order. */
export const WAY = ["set_out", "arrived", "ready"] as const satisfies Kind[];
export type WayKind = (typeof WAY)[number];
const isWay = (kind: Kind): kind is WayKind => (WAY as readonly Kind[]).includes(kind);

const NEW: FrameRun = { taken: 0, times: [], skipped: false, notes: [] };

/** Events in the order in which they happened, each once. */
export function merged(...logs: FieldEvent[][]): FieldEvent[] {
  // An event never changes: what was known first stays.
  const found = new Map([...logs.flat()].reverse().map((event) => [event.id, event]));
  const order = (event: FieldEvent) => `${new Date(event.at_utc).toISOString()} ${event.device} ${event.id}`;
  return [...found.values()].sort((a, b) => (order(a) < order(b) ? -1 : 1));
}

/** The effective events: neither undone nor undo events themselves. */
export function standing(events: FieldEvent[]): FieldEvent[] {
  const ordered = merged(events);
  const gone = new Set<string>();
  for (const event of [...ordered].reverse())
    if (event.kind === "undone" && event.refers && !gone.has(event.id)) gone.add(event.refers);
  return ordered.filter((event) => event.kind !== "undone" && !gone.has(event.id));
}

/** A field session, folded from its events. */
export function runOf(events: FieldEvent[]): Run {
  const told = standing(events);
  const run: Run = {
    frames: {},
    began: null,
    ended: null,
    lateMin: 0,
    missing: [],
    light: null,
    notes: [],
    checked: new Set(),
    ratings: {},
    way: {},
    battery: [],
  };
  for (const event of told) {
    if (event.frame) run.frames[event.frame] = next(run.frames[event.frame] ?? NEW, event);
    if (event.kind === "began") run.began ??= event.at_utc;
    if (event.kind === "ended") run.ended = event.at_utc;
    if (event.kind === "late") run.lateMin += event.value ?? 0;
    if (event.kind === "late" || event.kind === "reading") run.light = event;
    if (event.kind === "filter_missing" && event.value) run.missing.push(event.value);
    if (event.kind === "note" && !event.frame) run.notes.push(event.text ?? "");
    if (event.kind === "checked" || event.kind === "packed") run.checked.add(event.text ?? "");
    if (isWay(event.kind)) run.way[event.kind] ??= event.at_utc;
    if (event.kind === "battery" && event.value != null && event.value >= 0 && event.value <= 100)
      run.battery.push(event.value);
    if (event.kind === "rating" && event.value != null) run.ratings[event.text ?? ""] = event.value;
  }
  return run;
}

function next(frame: FrameRun, event: FieldEvent): FrameRun {
  if (event.kind === "taken")
    return { ...frame, taken: frame.taken + (event.count ?? 1), times: [...frame.times, event.at_utc], skipped: false };
  if (event.kind === "skipped") return { ...frame, skipped: true };
  // What was taken stays in the log of events; the frame itself is open once more.
  if (event.kind === "again") return { ...frame, taken: 0, times: [], skipped: false };
  if (event.kind === "note") return { ...frame, notes: [...frame.notes, event.text ?? ""] };
  return frame;
}

/** The first planned frame for which something is left to do. */
export function nextOf(run: Run, keys: string[]): string | null {
  return keys.find((key) => !isOver(run.frames[key])) ?? null;
}

export const isOver = (frame: FrameRun | undefined): boolean =>
  frame !== undefined && (frame.taken > 0 || frame.skipped);

/** A UUID, also on pages that are not served securely or lie in a file. */
export function newId(): string {
  if (typeof crypto.randomUUID === "function") return crypto.randomUUID();
  const bytes = crypto.getRandomValues(new Uint8Array(16));
  bytes[6] = ((bytes[6] ?? 0) & 0x0f) | 0x40;
  bytes[8] = ((bytes[8] ?? 0) & 0x3f) | 0x80;
  const hex = [...bytes].map((byte) => byte.toString(16).padStart(2, "0")).join("");
  return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-${hex.slice(12, 16)}-${hex.slice(16, 20)}-${hex.slice(20)}`;
}
