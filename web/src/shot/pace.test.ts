import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { calmFor, untilDrawn } from "./pace";

describe("how far apart the edits under a hand are sent", () => {
  it.each([
    // Eight times 20 ms are less than a quarter of a second.
    [0, 240],
    [20, 240],
    [50, 400],
    [75, 600],
    [900, 600],
  ])("where an answer takes %i ms to show: %i ms", (shown, apart) => {
    expect(calmFor(shown)).toBe(apart);
  });
});

describe("how long an answer takes to show", () => {
  beforeEach(() => {
    vi.useFakeTimers({ toFake: ["setTimeout", "performance"] });
    vi.stubGlobal("requestAnimationFrame", (draw: () => void) => setTimeout(draw, 16));
  });
  afterEach(() => {
    vi.useRealTimers();
    vi.unstubAllGlobals();
  });

  it("is told after the picture of the screen in which it is", () => {
    const told = vi.fn();
    untilDrawn(told);
    expect(told).not.toHaveBeenCalled();
    vi.advanceTimersByTime(40);
    expect(told).toHaveBeenCalledTimes(1);
    // A timer of 0 ms takes 1.
    expect(told.mock.calls[0]?.[0]).toBe(17);
  });
});
