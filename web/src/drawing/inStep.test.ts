import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { catchUp, forget, inStep, keepsUp } from "./inStep";

const [painter, other, hand] = [{}, {}, {}];
let seen: number[] = [];
const to = (place: number) => inStep(hand, () => seen.push(place));

beforeEach(() => {
  seen = [];
  vi.useFakeTimers();
});
afterEach(() => {
  keepsUp(painter, true);
  keepsUp(other, true);
  vi.useRealTimers();
});

describe("a hand and its pictures", () => {
  it("is followed at once where no picture is behind", () => {
    to(1);
    keepsUp(painter, false);
    keepsUp(painter, true);
    to(2);
    expect(seen).toEqual([1, 2]);
  });

  it("is followed to its last place alone once all pictures have come", () => {
    keepsUp(painter, false);
    keepsUp(other, false);
    to(1);
    to(2);
    keepsUp(other, true);
    expect(seen).toEqual([]);
    to(3);
    keepsUp(painter, true);
    expect(seen).toEqual([3]);
    keepsUp(painter, true);
    expect(seen).toEqual([3]);
  });

  it("does not end before its last place when it lets go", () => {
    keepsUp(painter, false);
    to(1);
    to(2);
    catchUp(hand);
    expect(seen).toEqual([2]);
    keepsUp(painter, true);
    expect(seen).toEqual([2]);
  });

  it("is not left behind by a picture that never comes", () => {
    keepsUp(painter, false);
    to(1);
    vi.advanceTimersByTime(249);
    expect(seen).toEqual([]);
    vi.advanceTimersByTime(1);
    expect(seen).toEqual([1]);
    to(2);
    vi.advanceTimersByTime(250);
    expect(seen).toEqual([1, 2]);
  });

  it("is forgotten with what it held, and two are two", () => {
    keepsUp(painter, false);
    to(1);
    inStep(other, () => seen.push(7));
    forget(hand);
    keepsUp(painter, true);
    expect(seen).toEqual([7]);
  });
});
