import { describe, expect, it } from "vitest";
import type { Schemas } from "../../api/client";
import { arranged } from "./reasons";

type Reason = Schemas["ReasonOut"];
const reason = (step: Reason["step"], severity: Reason["severity"], text: string): Reason => ({
  step,
  code: `${step}.test`,
  severity,
  text,
  figures: {},
  dial: null,
});
const texts = (found: Reason[]) => found.map((item) => item.text);

const ALL = [
  reason("exposure", "fails", "too long"),
  reason("depth", "holds", "three frames"),
  reason("depth", "fails", "soft"),
  reason("place", "caution", "cut off"),
  reason("depth", "tight", "diffraction"),
  reason("light", "holds", "low light"),
  reason("depth", "caution", "mind the glass"),
  reason("sequence", "tight", "little time"),
  reason("depth", "unsaid", "no limit"),
];

describe("reasons", () => {
  it("of this step come first, worst first", () => {
    expect(texts(arranged(ALL, "depth").here)).toEqual(["soft", "diffraction", "no limit", "three frames"]);
  });

  it("of other steps are only what fails there", () => {
    expect(texts(arranged(ALL, "depth").elsewhere)).toEqual(["too long"]);
    expect(texts(arranged(ALL, "light").elsewhere)).toEqual(["too long", "soft"]);
  });

  it("of caution stand apart, this step's first", () => {
    expect(texts(arranged(ALL, "depth").care)).toEqual(["mind the glass", "cut off"]);
    expect(texts(arranged(ALL, "place").care)).toEqual(["cut off", "mind the glass"]);
  });

  it("are all there once, or left out for being no failure elsewhere", () => {
    const { here, elsewhere, care } = arranged(ALL, "depth");
    expect(new Set([...here, ...elsewhere, ...care]).size).toBe(here.length + elsewhere.length + care.length);
  });

  it("may be none", () => {
    expect(arranged([], "field")).toEqual({ here: [], elsewhere: [], care: [] });
  });
});
