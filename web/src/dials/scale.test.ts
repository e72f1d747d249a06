import { describe, expect, it } from "vitest";
import { between, nearestDetent, stepped, steppedFromValue } from "./scale";

// Third-stop f-numbers, 2^(k/6), with the figures engraved for them (ISO 517).
const APERTURES = ["2.8", "3.2", "3.5", "4", "4.5", "5", "5.6", "6.3", "7.1", "8"].map((label, index) => ({
  value: 2 ** ((9 + index) / 6),
  label: `f/${label}`,
}));
const at = (label: string) => APERTURES.findIndex((mark) => mark.label === label);

describe("the nearest mark", () => {
  it("is the mark itself where one is hit", () => {
    APERTURES.forEach((mark, index) => {
      expect(nearestDetent(APERTURES, mark.value)).toBe(index);
    });
  });

  it("is the nearer one in stops", () => {
    expect(nearestDetent(APERTURES, 5.9)).toBe(at("f/5.6"));
    expect(nearestDetent(APERTURES, 6.1)).toBe(at("f/6.3"));
  });

  it("is the end for what lies beyond", () => {
    expect(nearestDetent(APERTURES, 1)).toBe(0);
    expect(nearestDetent(APERTURES, 64)).toBe(APERTURES.length - 1);
  });

  it("is the first of an empty scale", () => {
    expect(nearestDetent([], 8)).toBe(0);
  });
});

describe("where a value stands", () => {
  it("is at its mark for a marked value", () => {
    expect(between(APERTURES, 4, at("f/4"))).toBeCloseTo(at("f/4"), 9);
  });

  it("is half way for half a third of a stop", () => {
    const half = 4 * 2 ** (1 / 12);
    expect(between(APERTURES, half, nearestDetent(APERTURES, half))).toBeCloseTo(at("f/4") + 0.5, 6);
  });

  it("never leaves the scale", () => {
    expect(between(APERTURES, 64, APERTURES.length - 1)).toBe(APERTURES.length - 1);
    expect(between(APERTURES, 0, 3)).toBe(3);
  });

  it("works on a scale that falls", () => {
    const falling = [...APERTURES].reverse();
    const half = 4 * 2 ** (1 / 12);
    const nearest = nearestDetent(falling, half);
    const exact = between(falling, half, nearest);
    expect(exact).toBeCloseTo(falling.findIndex((mark) => mark.label === "f/4") - 0.5, 6);
  });
});

describe("a step", () => {
  it("goes one mark on and one back", () => {
    expect(stepped(APERTURES, 3, 1)).toEqual({ index: 4, end: undefined });
    expect(stepped(APERTURES, 3, -1)).toEqual({ index: 2, end: undefined });
  });

  it("stops at either end and says at which", () => {
    expect(stepped(APERTURES, 0, -1)).toEqual({ index: 0, end: "start" });
    expect(stepped(APERTURES, APERTURES.length - 1, 1)).toEqual({ index: APERTURES.length - 1, end: "end" });
  });

  it("of three goes as far as there is scale", () => {
    expect(stepped(APERTURES, 1, -3)).toEqual({ index: 0, end: "start" });
  });

  it("from between two marks goes to the next mark, not past it", () => {
    const half = 4 * 2 ** (1 / 14);
    expect(nearestDetent(APERTURES, half)).toBe(at("f/4"));
    expect(steppedFromValue(APERTURES, half, 1).index).toBe(at("f/4.5"));
    expect(steppedFromValue(APERTURES, half, -1).index).toBe(at("f/4"));
  });

  it("from a mark goes to its neighbour", () => {
    expect(steppedFromValue(APERTURES, 4, 1).index).toBe(at("f/4.5"));
    expect(steppedFromValue(APERTURES, 4, -1).index).toBe(at("f/3.5"));
  });

  it("beyond the end comes back into the scale", () => {
    expect(steppedFromValue(APERTURES, 64, -1).index).toBe(APERTURES.length - 2);
    expect(steppedFromValue(APERTURES, 64, 1).end).toBe("end");
  });
});
