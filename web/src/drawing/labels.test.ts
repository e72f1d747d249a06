import { describe, expect, it } from "vitest";
import { handleBox, type LabelWish, overlap, placeLabels, textWidth } from "./labels";

const BOUNDS = { x: 0, y: 0, width: 400, height: 300 };
const wish = (text: string, x: number, y: number, more: Partial<LabelWish> = {}): LabelWish => ({
  text,
  size: 12,
  x,
  y,
  ...more,
});
const inside = (box: { x: number; y: number; width: number; height: number }, bounds = BOUNDS) =>
  box.x >= bounds.x - 1e-9 &&
  box.y >= bounds.y - 1e-9 &&
  box.x + box.width <= bounds.x + bounds.width + 1e-9 &&
  box.y + box.height <= bounds.y + bounds.height + 1e-9;

/** The same row of numbers in every run (a linear congruential generator, Numerical Recipes). */
function numbers(seed: number) {
  let state = seed;
  return () => {
    state = (state * 1664525 + 1013904223) % 2 ** 32;
    return state / 2 ** 32;
  };
}

describe("one label", () => {
  it("stands above the point it names", () => {
    const [place] = placeLabels([wish("Boulder", 200, 150)], BOUNDS);
    expect(place?.x).toBeCloseTo(200, 6);
    expect((place?.box.y ?? 0) + (place?.box.height ?? 0)).toBeLessThanOrEqual(150);
    expect(place?.free).toBe(true);
  });

  it.each(["above", "below", "left", "right", "on"] as const)("stands %s when asked to", (side) => {
    const [place] = placeLabels([wish("Boulder", 200, 150, { side })], BOUNDS);
    const box = place?.box ?? { x: 0, y: 0, width: 0, height: 0 };
    const stands = {
      above: box.y + box.height <= 150,
      below: box.y >= 150,
      left: box.x + box.width <= 200,
      right: box.x >= 200,
      on: box.x < 200 && box.x + box.width > 200 && box.y < 150 && box.y + box.height > 150,
    };
    expect(stands[side]).toBe(true);
  });

  it("keeps the gap it is given", () => {
    const [place] = placeLabels([wish("B", 200, 150, { side: "right", gap: 20 })], BOUNDS);
    expect(place?.box.x).toBeCloseTo(220, 6);
  });

  it.each([
    [-50, 150],
    [450, 150],
    [200, -50],
    [200, 500],
    [-50, -50],
  ])("stays inside though its point lies at %i, %i", (x, y) => {
    const [place] = placeLabels([wish("Far shore", x, y)], BOUNDS);
    expect(place && inside(place.box)).toBe(true);
  });

  it("that is longer than the drawing is given what room there is", () => {
    const [place] = placeLabels([wish("x".repeat(200), 200, 150)], BOUNDS);
    expect(place && inside(place.box)).toBe(true);
  });

  it("has its baseline within its box", () => {
    const [place] = placeLabels([wish("Boulder", 200, 150)], BOUNDS);
    expect(place?.y).toBeGreaterThan(place?.box.y ?? 0);
    expect(place?.y).toBeLessThan((place?.box.y ?? 0) + (place?.box.height ?? 0));
  });
});

describe("several labels", () => {
  it("at one point keep out of each other", () => {
    const places = placeLabels(
      ["Weed stone", "Ebb channel", "Mooring posts", "Far shore", "Seamark"].map((text) => wish(text, 200, 150)),
      BOUNDS,
    );
    for (const one of places) {
      expect(inside(one.box)).toBe(true);
      for (const other of places) if (one !== other) expect(overlap(one.box, other.box)).toBe(0);
    }
  });

  it("in a corner keep out of each other and inside", () => {
    const places = placeLabels(
      ["24 m across", "Seamark →", "Far shore →"].map((text) => wish(text, 5, 295)),
      BOUNDS,
    );
    for (const one of places) {
      expect(inside(one.box)).toBe(true);
      for (const other of places) if (one !== other) expect(overlap(one.box, other.box)).toBe(0);
    }
  });

  it("the first of them has the first choice", () => {
    const alone = placeLabels([wish("Boulder", 200, 150)], BOUNDS);
    const [first] = placeLabels([wish("Boulder", 200, 150), wish("Other", 200, 150)], BOUNDS);
    expect(first).toEqual(alone[0]);
  });

  it("leave handles free", () => {
    const taken = [handleBox(200, 140), handleBox(200, 160), handleBox(160, 150)];
    const [place] = placeLabels([wish("Boulder", 200, 150)], BOUNDS, taken);
    for (const box of taken) expect(overlap(place?.box ?? box, box)).toBe(0);
  });

  it("do not change what they are given", () => {
    const taken = [handleBox(10, 10)];
    placeLabels([wish("a", 1, 1)], BOUNDS, taken);
    expect(taken).toHaveLength(1);
  });

  it("in a drawing too small for them cover as little as can be, and say so", () => {
    const small = { x: 0, y: 0, width: 60, height: 16 };
    const places = placeLabels([wish("Boulder", 30, 8), wish("Boulder", 30, 8)], small);
    expect(places.every((place) => inside(place.box, small))).toBe(true);
    expect(places.map((place) => place.free)).toEqual([true, false]);
  });

  it("are none for no wishes", () => {
    expect(placeLabels([], BOUNDS)).toEqual([]);
  });

  it("strewn at random stand apart wherever there is room", () => {
    for (let seed = 1; seed <= 60; seed++) {
      const next = numbers(seed);
      const wishes = Array.from({ length: 9 }, (_, at) => wish(`Element ${at}`, next() * 400, next() * 300));
      const places = placeLabels(wishes, BOUNDS);
      places.forEach((one, index) => {
        expect(inside(one.box)).toBe(true);
        for (const other of places.slice(index + 1)) expect(overlap(one.box, other.box), `seed ${seed}`).toBe(0);
      });
    }
  });

  it("stay near what they name", () => {
    for (let seed = 1; seed <= 30; seed++) {
      const next = numbers(seed);
      const wishes = Array.from({ length: 6 }, (_, at) => wish(`Element ${at}`, 60 + next() * 280, 30 + next() * 240));
      placeLabels(wishes, BOUNDS).forEach((place, at) => {
        expect(Math.hypot(place.x - (wishes[at]?.x ?? 0), place.y - (wishes[at]?.y ?? 0))).toBeLessThan(120);
      });
    }
  });
});

describe("boxes", () => {
  it("side by side with a hair between them do not overlap", () => {
    expect(overlap({ x: 0, y: 0, width: 10, height: 10 }, { x: 11, y: 0, width: 10, height: 10 })).toBe(0);
  });

  it("that touch count as overlapping", () => {
    expect(overlap({ x: 0, y: 0, width: 10, height: 10 }, { x: 10, y: 0, width: 10, height: 10 })).toBeGreaterThan(0);
  });

  it("of a longer text are wider", () => {
    expect(textWidth("Mooring posts", 12)).toBeGreaterThan(textWidth("Posts", 12));
    expect(textWidth("0.30", 12, true)).toBeGreaterThan(textWidth("0.30", 12));
  });
});
