import { describe, expect, it } from "vitest";
import { aimed, rounded, stillHeld, turned } from "./pose";

describe("the shortest turn", () => {
  it.each([
    [0, 90, 90],
    [350, 10, 20],
    [10, 350, -20],
    [90, 90, 0],
    [0, 180, -180],
    [720, 5, 5],
    [5, -5, -10],
  ])("from %i to %i is %i", (from, to, turn) => {
    expect(turned(from, to)).toBeCloseTo(turn, 9);
  });

  it("never goes the long way round", () => {
    for (let from = 0; from < 360; from += 17)
      for (let to = 0; to < 360; to += 13) {
        expect(Math.abs(turned(from, to))).toBeLessThanOrEqual(180);
        expect((((from + turned(from, to) - to) % 360) + 360) % 360).toBeCloseTo(0, 6);
      }
  });
});

describe("a pose under the hand", () => {
  it("is as fine as a hand sets it", () => {
    expect(rounded({ east: 1.23456, height: 1.4962, pitch: -3.0999, bearing: 128.26 }, false)).toEqual({
      east: 1.23,
      height: 1.495,
      pitch: -3.1,
      bearing: 128.3,
    });
  });

  it("is finer close up, where lengths are small", () => {
    expect(rounded({ east: 0.123456 }, true).east).toBeCloseTo(0.1235, 9);
    expect(rounded({ bearing: 12.345 }, true).bearing).toBeCloseTo(12.3, 9);
  });

  it("wraps its bearing", () => {
    expect(rounded({ bearing: -10 }, false).bearing).toBe(350);
    expect(rounded({ bearing: 370 }, false).bearing).toBe(10);
    expect(rounded({ bearing: 360 }, false).bearing).toBe(0);
  });

  it("keeps pitch and height where they can be", () => {
    expect(rounded({ pitch: 120, height: -3 }, false)).toEqual({ pitch: 90, height: 0 });
    expect(rounded({ pitch: -120, height: 300 }, false)).toEqual({ pitch: -90, height: 100 });
  });

  it("says nothing of what was not moved", () => {
    expect(Object.keys(rounded({ north: 1 }, false))).toEqual(["north"]);
  });
});

describe("aiming", () => {
  const perPixel = { across: 0.1, upwards: 0.08 };

  it("to the right turns the camera right, as the arrow key does", () => {
    expect(aimed({ bearing: 100, pitch: 0 }, 50, 0, perPixel).bearing).toBeCloseTo(105, 9);
    expect(aimed({ bearing: 100, pitch: 0 }, -50, 0, perPixel).bearing).toBeCloseTo(95, 9);
  });

  it("upwards on the screen tilts it up", () => {
    expect(aimed({ bearing: 0, pitch: -10 }, 0, -25, perPixel).pitch).toBeCloseTo(-8, 9);
  });

  it("nowhere stays where it is", () => {
    expect(aimed({ bearing: 42, pitch: 7 }, 0, 0, perPixel)).toEqual({ bearing: 42, pitch: 7 });
  });
});

describe("what stays under the hand", () => {
  const answered = { east: 1, north: 0, height: 1.5, bearing: 90, pitch: 0 };

  it("is what the answer does not say yet", () => {
    expect(stillHeld({ east: 1, pitch: 5 }, answered, false)).toEqual({ pitch: 5 });
  });

  it("is nothing once the answer has caught up", () => {
    expect(stillHeld({ east: 1 }, answered, false)).toEqual({});
  });

  it("is nothing once it was refused", () => {
    expect(stillHeld({ pitch: 5 }, answered, true)).toEqual({});
  });
});
