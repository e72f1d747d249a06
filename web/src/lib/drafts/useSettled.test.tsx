// @vitest-environment jsdom
import { act, renderHook } from "@testing-library/react";
import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { useRested, useSettled } from "./useSettled";

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());
const after = (ms: number) => act(() => vi.advanceTimersByTime(ms));

it("follows at once after a rest, and waits while changes keep coming", () => {
  const { result, rerender } = renderHook(({ value }) => useRested(value, 300), { initialProps: { value: 1 } });
  after(1000);
  rerender({ value: 2 });
  expect(result.current).toBe(2);
  for (const value of [3, 4, 5]) {
    after(100);
    rerender({ value });
    expect(result.current).toBe(2);
  }
  after(299);
  expect(result.current).toBe(2);
  after(1);
  expect(result.current).toBe(5);
});

it("settles only after a rest", () => {
  const { result, rerender } = renderHook(({ value }) => useSettled(value, 300), { initialProps: { value: 1 } });
  after(1000);
  rerender({ value: 2 });
  expect(result.current).toBe(1);
  after(300);
  expect(result.current).toBe(2);
});
