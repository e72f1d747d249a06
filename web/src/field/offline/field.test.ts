import { readFileSync } from "node:fs";
import { join } from "node:path";
import { describe, expect, it } from "vitest";
import { dueInS, openInS, rhythmOf } from "../runner/rhythm";
import { at, clockText, Elapsed, exposedS } from "./countdown";
import { type FieldEvent, merged, newId, nextOf, runOf } from "./events";
import { codesOf, parcelOf, readCodes, readParcel } from "./parcel";

interface Case {
  what: string;
  events: {
    id: string;
    device: string;
    at: number;
    kind: string;
    frame?: string;
    count?: number;
    value?: number;
    refers?: string;
  }[];
  taken: Record<string, number>;
  skipped: string[];
  next: string | null;
  late: number;
  way?: Record<string, number>;
  battery?: number[];
}

const { cases } = JSON.parse(
  readFileSync(join(import.meta.dirname, "../../../../tests/reference/field_events.json"), "utf8"),
) as {
  cases: Case[];
};

const eventsOf = (item: Case) =>
  item.events.map(
    ({ at, ...event }) =>
      ({ ...event, run_id: "r", at_utc: new Date(Date.UTC(2026, 5, 1, 4, 0, at)).toISOString() }) as FieldEvent,
  );

describe("a field session is folded from its events", () => {
  it.each(cases.map((item) => [item.what, item] as const))("%s", (_, item) => {
    const run = runOf(eventsOf(item));
    const taken = Object.fromEntries(Object.entries(run.frames).map(([key, frame]) => [key, frame.taken]));
    expect(taken).toEqual(item.taken);
    expect(Object.keys(run.frames).filter((key) => run.frames[key]?.skipped)).toEqual(item.skipped);
    expect(nextOf(run, ["0.0.0.0", "0.0.1.0"])).toBe(item.next);
    expect(run.lateMin).toBe(item.late);
    const way = Object.entries(run.way).map(([kind, at]) => [kind, (Date.parse(at) - Date.UTC(2026, 5, 1, 4)) / 1000]);
    expect(Object.fromEntries(way)).toEqual(item.way ?? {});
    expect(run.battery).toEqual(item.battery ?? []);
  });
  it("merges by union, whatever the order", () => {
    const events = eventsOf(cases[2] as Case);
    const reversed = [...events].reverse();
    expect(merged(reversed, events)).toEqual(merged(events));
  });
  it("makes ids that are UUIDs", () => {
    expect(newId()).toMatch(/^[0-9a-f]{8}-[0-9a-f]{4}-4[0-9a-f]{3}-[89ab][0-9a-f]{3}-[0-9a-f]{12}$/);
  });
});

describe("a countdown", () => {
  const clocks = () => {
    const now = { wall: 0, steady: 0 };
    const pass = (wall: number, steady: number) => {
      now.wall += wall;
      now.steady += steady;
    };
    return { pass, clocks: { wall: () => now.wall, steady: () => now.steady } };
  };
  it("goes on while the device sleeps out of sight, and then is not certain", () => {
    const { pass, clocks: made } = clocks();
    const elapsed = new Elapsed(made);
    pass(1000, 1000);
    expect(elapsed.ms()).toBe(1000);
    expect(elapsed.doubt).toBe("");
    pass(90_000, 20);
    expect(elapsed.ms(true)).toBe(91_000);
    expect(elapsed.doubt).toContain("slept");
  });
  it("does not end by a clock that is set, forward or back", () => {
    const { pass, clocks: made } = clocks();
    const elapsed = new Elapsed(made);
    pass(-3_600_000, 500);
    expect(elapsed.ms()).toBe(500);
    expect(elapsed.doubt).toBe("");
    // A few milliseconds lie between the readings of two clocks.
    pass(3_600_503, 500);
    expect(elapsed.ms()).toBe(1000);
    expect(elapsed.doubt).toContain("jumped by 1:00:00");
  });
  it("goes by the wall clock alone after a reload, and says so", () => {
    const { pass, clocks: made } = clocks();
    pass(50_000, 100);
    const elapsed = new Elapsed(made, 10_000);
    expect(elapsed.ms()).toBe(40_000);
    expect(elapsed.doubt).toContain("reloaded");
    // A start that lies ahead of a clock that was set back has not begun.
    expect(new Elapsed(made, 60_000).ms()).toBe(0);
  });
  it("counts an exposure only once it is over", () => {
    const spans = [
      { kind: "settle", words: "", seconds: 5 },
      { kind: "exposure", words: "", seconds: 30 },
      { kind: "dark_frame", words: "", seconds: 30 },
    ];
    expect([4, 34, 35, 64, 65].map((after) => exposedS(spans, after))).toEqual([null, null, 30, 30, 30]);
    expect(exposedS(spans.slice(0, 1), 9)).toBeNull();
  });
  it("knows which span runs", () => {
    const spans = [
      { kind: "settle", words: "", seconds: 5 },
      { kind: "exposure", words: "", seconds: 128 },
    ];
    expect(at(spans, 4)).toEqual({ at: 0, left: 1, total: 5 });
    expect(at(spans, 5)).toEqual({ at: 1, left: 128, total: 128 });
    expect(at(spans, 133).at).toBe(-1);
  });
  it.each([
    [0, "0:00"],
    [8.2, "0:09"],
    [128, "2:08"],
    [3661, "1:01:01"],
  ])("writes %s s as %s", (seconds, text) => expect(clockText(seconds)).toBe(text));
});

describe("the rhythm of waves", () => {
  const taps = [0, 8000, 17_000, 25_000, 50_000, 59_000];
  it("is their mean, a lull left out", () => {
    const rhythm = rhythmOf(taps);
    // 8, 9, 8, 9 s; 25 s is a lull.
    expect(rhythm?.periodS).toBeCloseTo(8.5);
    expect(rhythm?.spreadS).toBeCloseTo(Math.sqrt(1 / 3));
    expect(rhythm?.count).toBe(4);
  });
  it("says when the next comes and when to open", () => {
    const rhythm = rhythmOf(taps);
    if (!rhythm) throw new Error("no rhythm");
    expect(dueInS(rhythm, 60_000)).toBeCloseTo(7.5);
    expect(openInS(rhythm, 2, 60_000)).toBeCloseTo(5.5);
    // Too late for this wave: after the next.
    expect(openInS(rhythm, 2, 66_500)).toBeCloseTo(1 - 2 + 8.5);
    expect(openInS(rhythm, 9, 60_000)).toBeNull();
  });
  it("needs two", () => expect(rhythmOf([1])).toBeNull());
});

describe("what is taken out", () => {
  const events = eventsOf(cases[0] as Case);
  it("comes in again as text", () => {
    expect(readParcel(JSON.stringify(parcelOf(7, events))).map((event) => event.id)).toEqual(["a1", "a2", "a3", "a4"]);
    expect(() => readParcel("{}")).toThrow(/another kind/);
    expect(() => readParcel("<html>")).toThrow(/begin with/);
  });
  it("comes in again as codes in any order", async () => {
    const many = Array.from(
      { length: 60 },
      (_, index) => ({ ...events[1], id: newId(), text: `note ${index * 7919}` }) as FieldEvent,
    );
    const codes = await codesOf(parcelOf(7, many));
    expect(codes.length).toBeGreaterThan(1);
    const read = await readCodes([...codes].reverse());
    expect("text" in read && readParcel(read.text)).toHaveLength(60);
    expect(await readCodes(codes.slice(1))).toEqual({ lacking: [1] });
    await expect(readCodes(["hello"])).rejects.toThrow(/None of these/);
  });
});
