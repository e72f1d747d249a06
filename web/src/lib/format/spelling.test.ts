// @vitest-environment jsdom
import { readFileSync } from "node:fs";
import { join } from "node:path";
import { beforeEach, describe, expect, it } from "vitest";
import { percent } from "./numbers";
import {
  clockIn,
  dayLater,
  dayText,
  heightText,
  hourText,
  lengthText,
  metresField,
  plural,
  readDay,
  roundLength,
  spell,
} from "./spelling";

const METRIC = { lengths: "metres", hours: "24", day_order: "day_first", dial_steps: "thirds" } as const;
const AMERICAN = { lengths: "feet", hours: "12", day_order: "month_first", dial_steps: "halves" } as const;
beforeEach(() => spell(METRIC));

type Case<Value> = [Value, string, string];
interface Cases {
  scale_lengths_m: Case<number>[];
  heights_m: Case<number>[];
  hours: Case<number>[];
  clocks_utc: Case<string>[];
  days: Case<string>[];
  weekdays: Case<string>[];
  plurals: [number, string, string][];
  percentages: [number, number, string][];
}
// The core is held to the same cases (tests/core/test_spelling.py).
const cases = JSON.parse(
  readFileSync(join(import.meta.dirname, "../../../../tests/reference/spellings.json"), "utf8"),
) as Cases;

describe("the same texts as the core writes", () => {
  const written: [string, Case<number>[] | Case<string>[], (value: never) => string][] = [
    ["scale lengths", cases.scale_lengths_m, lengthText],
    ["heights", cases.heights_m, heightText],
    ["hours", cases.hours, hourText],
    ["clock times", cases.clocks_utc, (instant: string) => clockIn("UTC")(new Date(instant))],
    ["days", cases.days, dayText],
    ["days of the week", cases.weekdays, (day: string) => dayText(day, true)],
  ];
  it.each(written)("writes %s", (_, some, write) => {
    expect(some.length).toBeGreaterThan(1);
    for (const [value, metric, american] of some) {
      spell(METRIC);
      expect(write(value as never)).toBe(metric);
      spell(AMERICAN);
      expect(write(value as never)).toBe(american);
    }
  });

  it("writes percentages", () => {
    expect(cases.percentages.length).toBeGreaterThan(1);
    for (const [share, decimals, text] of cases.percentages) expect(percent(share, decimals)).toBe(text);
  });

  it("writes counts", () => {
    for (const [count, word, text] of cases.plurals) expect(plural(count, word)).toBe(text);
  });
});

describe("lengths", () => {
  it("has round marks in either", () => {
    expect([0.1, 1, 300, 1000].map(roundLength)).toEqual([0.1, 1, 300, 1000]);
    spell(AMERICAN);
    expect([0.1, 1, 300, 1000].map((metres) => lengthText(roundLength(metres)))).toEqual([
      "1″",
      "12″",
      "300 ft",
      "1 mi",
    ]);
    const marks = [0.1, 0.5, 0.8, 1, 3, 300, 1000, 3000].map(roundLength);
    expect([...marks].sort((a, b) => a - b)).toEqual(marks);
  });
});

describe("a field of metres", () => {
  it("stays as it is in metres, and where its unit is another", () => {
    expect(metresField("x:base_m", "m")).toBeUndefined();
    spell(AMERICAN);
    expect(metresField("x:focal_mm", "mm")).toBeUndefined();
    expect(metresField("x:name", undefined)).toBeUndefined();
  });

  it("shows feet and sends them as such", () => {
    spell(AMERICAN);
    const field = metresField("x:base_m", "m");
    expect(field?.shown("1.5")).toBe("4.921");
    expect(field?.shown("")).toBe("");
    expect(["4.921", "−1,5", "2 m", "6′ 2″", ""].map((text) => field?.sent(text))).toEqual([
      "4.921 ft",
      "−1,5 ft",
      "2 m",
      "6′ 2″",
      "",
    ]);
  });
});

describe("a field of a length as the trade writes it", () => {
  it("shows it as it came, and takes a bare figure for feet", () => {
    spell(AMERICAN);
    const field = metresField("shot:1:near_m", undefined);
    expect([field?.unit, field?.shown("7′ 10.5″"), field?.shown("2")]).toEqual([undefined, "7′ 10.5″", "2"]);
    expect(["2", "2 m", "∞", "6′"].map((text) => field?.sent(text))).toEqual(["2 ft", "2 m", "∞", "6′"]);
  });
});

describe("times and days", () => {
  it("writes a clock time where the zone is", () => {
    const noon = new Date("2026-11-24T12:05:00Z");
    expect(clockIn("Europe/London")(noon)).toBe("12:05");
    spell(AMERICAN);
    expect(clockIn("Europe/London")(noon)).toBe("12:05 pm");
    expect(clockIn("America/New_York")(noon)).toBe("7:05 am");
    expect(clockIn("Asia/Tokyo")(new Date("2026-11-24T15:05:00Z"))).toBe("12:05 am");
  });

  it("writes a day and reads it again", () => {
    expect(dayText("2026-11-24")).toBe("24 Nov 2026");
    expect(dayText("2026-11-24", true)).toBe("Tue 24 Nov 2026");
    expect(readDay(dayText("2026-11-24"))).toBe("2026-11-24");
    spell(AMERICAN);
    expect(dayText("2026-11-04", true)).toBe("Wed, Nov 4, 2026");
    expect(readDay(dayText("2026-11-04"))).toBe("2026-11-04");
    expect([readDay("3/4/2026"), readDay("soon"), readDay("2026-02-03")]).toEqual([undefined, undefined, "2026-02-03"]);
  });

  it("goes from day to day over the ends of months and years", () => {
    expect(dayLater("2026-12-31", 1)).toBe("2027-01-01");
    expect(dayLater("2028-03-01", -1)).toBe("2028-02-29");
  });
});

it("writes full hours of a scale that runs over midnight", () => {
  expect([-1, 0, 9, 12, 24, 37].map(hourText)).toEqual(["23", "00", "09", "12", "00", "13"]);
  spell(AMERICAN);
  expect([-1, 0, 9, 12, 24, 37].map(hourText)).toEqual(["11 pm", "12 am", "9 am", "12 pm", "12 am", "1 pm"]);
});
