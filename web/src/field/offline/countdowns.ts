import { useSyncExternalStore } from "react";
import { readySound, signal, signalsNow } from "../runner/signals";
import { countWords, say } from "../runner/speech";
import { at, type Counting, DEVICE, Elapsed, exposedS, type Span, wholeS } from "./countdown";
import * as store from "./eventStore";
import { newId } from "./events";

/**
 * The countdown of this device: one camera exposes one frame at a time. It runs whatever the page shows, its start is on the disk
 * before the first second is over, and a page that is reloaded goes on with it.
 */
export interface Countdown extends Counting {
  /** Since the start. */
  seconds: number;
  /** Which span runs; -1 once all are over. */
  at: number;
  /** What is left of it. */
  left: number;
  /** Since when all are over [s]; 0 before. */
  overS: number;
  /** Why the time may be wrong. */
  doubt: string;
}

const TICK_MS = 100;
// What has been over for so long is no news [s].
const FORGOTTEN_S = 6 * 3600;

let counting: Counting | null = null;
let elapsed: Elapsed | null = null;
let shown: Countdown | null = null;
let told = -2;
let hidden = false;
let timer: number | undefined;
let restored = false;
const listeners = new Set<() => void>();

function show(next: Countdown | null): void {
  shown = next;
  for (const listener of listeners) listener();
}

function tick(): void {
  if (!counting || !elapsed) return;
  const seconds = elapsed.ms(hidden) / 1000;
  hidden = document.visibilityState === "hidden";
  const now = at(counting.spans, seconds);
  if (now.at !== told) {
    if (told !== -2 || now.at === -1) signal(signalsNow(), now.at !== -1);
    say(now.at === -1 ? "over" : (counting.spans[now.at]?.words ?? ""));
    told = now.at;
  } else if (now.at !== -1) {
    const words = countWords(shown?.at === now.at ? shown.left : now.total, now.left);
    if (words) say(words);
  }
  show({
    ...counting,
    seconds,
    at: now.at,
    left: now.left,
    overS: now.at === -1 ? seconds - wholeS(counting.spans) : 0,
    doubt: elapsed.doubt,
  });
}

function run(next: Counting, since: Elapsed): void {
  counting = next;
  elapsed = since;
  told = -2;
  hidden = document.visibilityState === "hidden";
  timer ??= window.setInterval(tick, TICK_MS);
  tick();
}

function halt(): void {
  window.clearInterval(timer);
  timer = undefined;
  counting = null;
  elapsed = null;
  show(null);
}

const event = (kind: "countdown_started" | "countdown_stopped", of: Counting, value: number) => ({
  id: newId(),
  run_id: of.run_id,
  card_id: of.card_id,
  device: store.deviceName(),
  at_utc: new Date().toISOString(),
  kind,
  frame: of.frame,
  value,
  count: 1,
  text: "",
});

/** Start counting a frame: from a touch, since only then a page may sound. */
export function startCountdown(of: Omit<Counting, "started_ms">): void {
  readySound();
  const next = { ...of, started_ms: DEVICE.wall() };
  run(next, new Elapsed());
  // A browser that keeps nothing has said so already; it counts as long as the page lives.
  void store.keepCounting(next, event("countdown_started", next, wholeS(next.spans))).catch(() => undefined);
}

/** Stop counting before its end: the event says how long it ran. */
export function stopCountdown(): void {
  if (!counting || !shown) return;
  const [of, after] = [counting, shown.seconds];
  halt();
  void store.keepCounting(null, event("countdown_stopped", of, after)).catch(() => undefined);
}

/** An exposure grows by a third of a stop, a wait by five seconds. */
export function lengthenCountdown(): void {
  if (!counting || !shown || !elapsed || shown.at < 0) return;
  const here = shown.at;
  const longer = (span: Span) =>
    span.seconds * (span.kind === "exposure" ? 2 ** (1 / 3) : 1) + (span.kind === "exposure" ? 0 : 5);
  counting = {
    ...counting,
    spans: counting.spans.map((span, index) => (index === here ? { ...span, seconds: longer(span) } : span)),
  };
  void store.keepCounting(counting, null).catch(() => undefined);
  tick();
}

/** What is done with: its frame was ticked, or it is over and was read. */
export function dismissCountdown(): void {
  if (!counting) return;
  halt();
  void store.keepCounting(null, null).catch(() => undefined);
}

/**
 * The exposure of a frame as it was counted [s]: null where none was counted to its end, or where the time is in doubt. A countdown
 * in doubt never counts as a full exposure.
 */
export function countedExposureS(runId: string, frame: string): number | null {
  if (!shown || shown.run_id !== runId || shown.frame !== frame || shown.doubt) return null;
  return exposedS(shown.spans, shown.seconds);
}

/** Go on with what was under way before the page was loaded. */
async function restore(): Promise<void> {
  if (restored) return;
  restored = true;
  const kept = await store.keptCounting().catch(() => undefined);
  if (!kept || counting) return;
  const since = new Elapsed(DEVICE, kept.started_ms);
  if (since.ms() / 1000 - wholeS(kept.spans) < FORGOTTEN_S) run(kept, since);
}

function onVisible(): void {
  hidden = hidden || document.visibilityState === "hidden";
  tick();
}

function subscribe(listener: () => void): () => void {
  if (!listeners.size) {
    document.addEventListener("visibilitychange", onVisible);
    void restore();
  }
  listeners.add(listener);
  return () => {
    listeners.delete(listener);
    if (!listeners.size) document.removeEventListener("visibilitychange", onVisible);
  };
}

/** The countdown under way on this device, or over and not yet ticked. */
export const useCountdown = (): Countdown | null => useSyncExternalStore(subscribe, () => shown);
