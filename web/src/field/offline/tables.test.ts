import { describe, expect, it } from "vitest";
import type { Schemas } from "../../api/client";
import { runOf } from "./events";
import { readTables } from "./tables";

// One frame of 1 s as planned; each five minutes the light asks for a fifth of a stop more, to 60 min, then in steps of ten to 120.
const MINUTES = [5, 10, 15, 20, 25, 30, 35, 40, 45, 50, 55, 60, 70, 80, 90, 100, 110, 120];
const shutterS = (minutes: number) => 2 ** (minutes / 25);
const change = (seconds: number) => ({
  sets: [{ shutter: `${seconds.toFixed(2)} s`, shutter_s: seconds, iso: "100", dark_s: 0 }],
  frames: { "0.0.0.0": 0 },
  more: 0,
  mark: "holds",
  words: "",
});
const sheet = {
  frames: [{ key: "0.0.0.0", shutter_s: 1 }],
  tables: {
    planned_ev100: 10,
    readings: [{ missing: [], rows: [9, 10, 11].map((ev) => ({ ev100: ev, ...change(2 ** (10 - ev)) })) }],
    delays: MINUTES.map((minutes, at) => ({
      minutes,
      ends: `12:${minutes}`,
      apart_stops: (minutes - (MINUTES[at - 1] ?? 0)) / 25,
      ...change(shutterS(minutes)),
    })),
    ends: "Beyond that the server is needed.",
  },
} as unknown as Schemas["RunSheetOut"];

const late = (minutes: number) =>
  readTables(
    sheet,
    runOf([
      {
        id: "a",
        run_id: "r",
        device: "d",
        at_utc: "2026-06-01T04:00:00Z",
        kind: "late",
        count: 1,
        text: "",
        value: minutes,
      },
    ]),
  );
const read = (ev: number) =>
  readTables(
    sheet,
    runOf([
      {
        id: "a",
        run_id: "r",
        device: "d",
        at_utc: "2026-06-01T04:00:00Z",
        kind: "reading",
        count: 1,
        text: "",
        value: ev,
      },
    ]),
  );

describe("tables that were taken along", () => {
  it("answer differently for 40 and for 50 minutes", () => {
    expect(late(40).settings["0.0.0.0"]?.shutter_s).toBeCloseTo(shutterS(40));
    expect(late(50).settings["0.0.0.0"]?.shutter_s).toBeCloseTo(shutterS(50));
    expect(late(40).words).toBe("Late by 40 min, done at 12:40.");
  });
  it("say between two rows how far these lie apart", () => {
    // Ten minutes are two fifths of a stop.
    expect(late(63).settings["0.0.0.0"]?.shutter_s).toBeCloseTo(shutterS(60));
    expect(late(65).settings["0.0.0.0"]?.shutter_s).toBeCloseTo(shutterS(70));
    expect(late(65).words).toContain("settings for 70 min; from 60 to 70 min they change by 0.4 stops");
    expect(late(2).words).toContain("from 0 to 5 min they change by 0.2 stops");
  });
  it("reach to their real end, and no farther", () => {
    expect(late(120).ended).toBe(false);
    expect(late(121).ended).toBe(true);
    expect(late(121).words).toContain("the server is needed");
    expect(read(11).ended).toBe(false);
    expect(read(11.3).ended).toBe(true);
    expect(read(8.9).ended).toBe(true);
  });
});
