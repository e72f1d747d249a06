// @vitest-environment jsdom
import "fake-indexeddb/auto";
import { act, renderHook, waitFor } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";
import type { Schemas } from "../../api/client";
import { countedExposureS, dismissCountdown, startCountdown, useCountdown } from "./countdowns";
import { allEvents, eventsOf, keep, keepCounting, keptCounting, runOrStart, unsent } from "./eventStore";
import { type FieldEvent, newId } from "./events";
import { type Server, useRun } from "./useRun";

const frame = (number: number): Schemas["RunFrameOut"] => ({
  key: `0.${number}.0.0`,
  number: number + 1,
  group: 0,
  aim: "",
  focus_at: "focus",
  focus: "1 m",
  aperture: "f/8",
  shutter: "1/60",
  shutter_s: 1 / 60,
  iso: "100",
  on_lens: [],
  actions: [],
  settings: [],
  phases: [],
  start_s: number,
  bulb: false,
});

const sheet = (): Schemas["RunSheetOut"] => ({
  version: 1,
  shot_id: 1,
  name: "Weir",
  place: "",
  date: null,
  start_utc: null,
  start_clock: null,
  light_ends_utc: null,
  light_ends_clock: null,
  light_name: "",
  lasts_s: 10,
  aim: "",
  predicted: false,
  frames: [0, 1, 2, 3].map(frame),
  last_actions: [],
  groups: [],
  tide: null,
  before: [],
  checks: [],
  cautions: [],
  warnings: [],
  filters: [],
  elements: [],
  meter: { apertures: [], shutters: [], isos: [] },
  tables: { planned_ev100: null, readings: [], delays: [], ends: "Here they end." },
});

/** A server that keeps events, and may be away. */
class Kept implements Server {
  away = false;
  events: FieldEvent[] = [];
  send = async (events: FieldEvent[]) => {
    if (this.away) throw new Error("away");
    for (const event of events) if (!this.events.some((item) => item.id === event.id)) this.events.push(event);
    return events.map((event) => event.id);
  };
  known = async (runId: string) => this.events.filter((event) => event.run_id === runId);
  asked: FieldEvent["kind"][][] = [];
  found = async (_: number, differences: FieldEvent[]) => {
    if (this.away) throw new Error("away");
    this.asked.push(differences.map((event) => event.kind));
    return { ...sheet(), name: "as found" };
  };
}

describe("a field session on a device", () => {
  it("keeps two ticks that follow at once, and sends them when the server is back", async () => {
    const server = new Kept();
    server.away = true;
    const planned = sheet();
    const { result } = renderHook(() => useRun(1, planned, server));
    await waitFor(() => expect(result.current).not.toBeNull());
    await act(async () => {
      const tell = result.current?.tell;
      await Promise.all([tell?.("taken", { frame: "0.0.0.0" }), tell?.("taken", { frame: "0.1.0.0" })]);
    });
    await waitFor(() => expect(result.current?.now?.key).toBe("0.2.0.0"));
    expect(server.events).toHaveLength(0);
    expect(await eventsOf(result.current?.runId ?? "")).toHaveLength(2);
    server.away = false;
    await act(async () => {
      window.dispatchEvent(new Event("online"));
    });
    await waitFor(() => expect(server.events).toHaveLength(2));
    await waitFor(async () => expect(await unsent()).toHaveLength(0));
    await act(async () => result.current?.undo());
    await waitFor(() => expect(result.current?.now?.key).toBe("0.1.0.0"));
  });

  it("plans with what differs once the server is back, also after a reload", async () => {
    const server = new Kept();
    server.away = true;
    const planned = sheet();
    const first = renderHook(() => useRun(4, planned, server));
    await waitFor(() => expect(first.result.current).not.toBeNull());
    await act(async () => first.result.current?.tell("taken", { frame: "0.0.0.0" }));
    await act(async () => first.result.current?.tell("wind", { value: 9 }));
    await waitFor(() => expect(first.result.current?.behind).toBe(true));
    expect(first.result.current?.sheet.name).toBe("Weir");
    first.unmount();
    const { result } = renderHook(() => useRun(4, planned, server));
    await waitFor(() => expect(result.current?.behind).toBe(true));
    expect(server.asked).toEqual([]);
    server.away = false;
    await act(async () => {
      window.dispatchEvent(new Event("online"));
    });
    await waitFor(() => expect(result.current?.sheet.name).toBe("as found"));
    expect(result.current?.behind).toBe(false);
    expect(server.asked.at(-1)).toEqual(["wind"]);
  });

  it("goes on where another device is under way", async () => {
    const server = new Kept();
    const runId = newId();
    const told = (kind: FieldEvent["kind"], frame: string): FieldEvent => ({
      id: newId(),
      run_id: runId,
      device: "other",
      at_utc: new Date().toISOString(),
      kind,
      frame,
      count: 1,
      text: "",
    });
    server.events = [told("taken", "0.0.0.0"), told("skipped", "0.1.0.0")];
    const planned = sheet();
    const runs = [runId];
    const { result } = renderHook(() => useRun(2, planned, server, runs));
    await waitFor(() => expect(result.current?.runId).toBe(runId));
    await waitFor(() => expect(result.current?.now?.key).toBe("0.2.0.0"));
  });

  it("without a server says where the tables end", async () => {
    const planned = sheet();
    const { result } = renderHook(() => useRun(3, planned, null));
    await waitFor(() => expect(result.current).not.toBeNull());
    await act(async () => result.current?.tell("late", { value: 20 }));
    await waitFor(() => expect(result.current?.found.ended).toBe(true));
    expect(result.current?.found.words).toContain("Here they end.");
    // What only this device holds is counted until it was taken out.
    expect(result.current?.waiting).toBe(1);
    await act(async () => result.current?.takenOut((await allEvents()).map((event) => event.id)));
    await waitFor(() => expect(result.current?.waiting).toBe(0));
  });

  it("undoes what was done last, although the clock was set back in between", async () => {
    const planned = sheet();
    const { result } = renderHook(() => useRun(5, planned, null));
    await waitFor(() => expect(result.current).not.toBeNull());
    await act(async () => result.current?.tell("taken", { frame: "0.0.0.0" }));
    const now = Date.now();
    const set = vi.spyOn(Date, "now").mockReturnValue(now - 3_600_000);
    // Another page, an hour earlier by its clock.
    const again = renderHook(() => useRun(5, planned, null));
    await waitFor(() => expect(again.result.current?.now?.key).toBe("0.1.0.0"));
    await act(async () => again.result.current?.tell("taken", { frame: "0.1.0.0" }));
    await act(async () => again.result.current?.undo());
    set.mockRestore();
    await waitFor(() => expect(again.result.current?.now?.key).toBe("0.1.0.0"));
    expect(again.result.current?.run.frames["0.0.0.0"]?.taken).toBe(1);
  });

  it("asks before it continues a session of weeks ago, and exports that session too after a new one has begun", async () => {
    const planned = sheet();
    const run = await runOrStart(6);
    const old: FieldEvent = {
      id: newId(),
      run_id: run.run_id,
      card_id: 6,
      device: "this",
      at_utc: new Date(Date.now() - 20 * 86_400_000).toISOString(),
      kind: "taken",
      frame: "0.0.0.0",
      count: 1,
      text: "",
    };
    await keep(old);
    const { result } = renderHook(() => useRun(6, planned, null));
    await waitFor(() => expect(result.current?.resumed).toEqual({ at_utc: old.at_utc, taken: 1 }));
    await act(async () => result.current?.goOn());
    expect(result.current?.resumed).toBeNull();
    await act(async () => result.current?.begin());
    expect(result.current?.events).toEqual([]);
    expect((await allEvents()).map((event) => event.id)).toContain(old.id);
  });
});

describe("a countdown", () => {
  const of = { run_id: newId(), card_id: 9, name: "Weir", frame: "0.0.0.0", number: 1 };
  const spans = [
    { kind: "settle", words: "let it settle", seconds: 5 },
    { kind: "exposure", words: "exposing", seconds: 30 },
  ];
  it("is on the disk as it starts, runs whatever is shown, and goes on after a reload", async () => {
    const clock = vi.spyOn(performance, "now");
    const start = performance.now();
    startCountdown({ ...of, spans });
    await waitFor(async () =>
      expect((await eventsOf(of.run_id)).map((event) => event.kind)).toEqual(["countdown_started"]),
    );
    expect((await keptCounting())?.spans).toEqual(spans);
    // Nothing shows it for 36 s: it is over all the same, and the exposure is known.
    clock.mockReturnValue(start + 36_500);
    const wall = vi.spyOn(Date, "now").mockReturnValue(Date.now() + 36_500);
    const seen = renderHook(() => useCountdown());
    await waitFor(() => expect(seen.result.current?.at).toBe(-1));
    expect(countedExposureS(of.run_id, of.frame)).toBe(30);
    expect(countedExposureS(of.run_id, "0.1.0.0")).toBeNull();
    seen.unmount();
    clock.mockRestore();
    wall.mockRestore();
    // The same device, its page reloaded 8 s after the end.
    const kept = await keptCounting();
    if (!kept) throw new Error("nothing kept");
    await keepCounting({ ...kept, started_ms: Date.now() - 43_000 }, null);
    vi.resetModules();
    const again = await import("./countdowns");
    const later = renderHook(() => again.useCountdown());
    await waitFor(() => expect(later.result.current?.at).toBe(-1));
    expect(later.result.current?.overS).toBeCloseTo(8, 0);
    expect(later.result.current?.doubt).toContain("reloaded");
    expect(again.countedExposureS(of.run_id, of.frame)).toBeNull();
    await act(async () => again.dismissCountdown());
    await waitFor(async () => expect(await keptCounting()).toBeUndefined());
    dismissCountdown();
  });
});
