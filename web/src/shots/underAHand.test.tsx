// @vitest-environment jsdom
import { QueryClient, QueryClientProvider, useQuery } from "@tanstack/react-query";
import { act, renderHook, waitFor } from "@testing-library/react";
import type { ReactNode } from "react";
import { afterEach, expect, it, vi } from "vitest";
import { client } from "../api/client";
import { shotQuery } from "../api/queries";
import { useAnswered } from "./useAnswered";
import { queueOf } from "./useShot";

let shots = 0;

/** A shot of its own with a server whose answers come when they are let. */
function shotWith() {
  const id = ++shots;
  const queries = new QueryClient();
  const sent: unknown[] = [];
  const answers: (() => void)[] = [];
  Object.assign(client, {
    PATCH: async (_: string, asked: { body: unknown }) => {
      sent.push(asked.body);
      await new Promise<void>((resolve) => answers.push(resolve));
      return { data: { id }, response: new Response() };
    },
  });
  const wrapper = ({ children }: { children: ReactNode }) => (
    <QueryClientProvider client={queries}>{children}</QueryClientProvider>
  );
  const queue = queueOf(id, queries);
  // A page draws the shot again with every answer.
  const page = () => {
    const { data } = useQuery({ ...shotQuery(id), enabled: false });
    return { rested: useAnswered(id), drawn: data !== undefined };
  };
  const { result } = renderHook(page, { wrapper });
  return {
    sent,
    rested: () => result.current.rested,
    drawn: () => waitFor(() => expect(result.current.drawn).toBe(true)),
    move: (camera_east_m: number) => act(() => void queue.add({ camera_east_m })),
    answer: () => act(async () => answers.shift()?.()),
  };
}

const { PATCH } = client;
afterEach(() => void Object.assign(client, { PATCH }));

it("asks for what is computed from a shot once nothing more is being changed", async () => {
  const shot = shotWith();
  expect(shot.rested()).toBe(0);
  shot.move(1);
  shot.move(2);
  await waitFor(() => expect(shot.sent).toHaveLength(1));
  await shot.answer();
  await shot.drawn();
  expect(shot.rested()).toBe(0);
  await waitFor(() => expect(shot.sent).toHaveLength(2));
  await shot.answer();
  await waitFor(() => expect(shot.rested()).toBeGreaterThan(0));
});

it("says at once where a hand has let go, and not before the others have had their time", async () => {
  vi.useFakeTimers({ toFake: ["setTimeout", "clearTimeout"] });
  try {
    const shot = shotWith();
    shot.move(1);
    shot.move(2);
    await act(async () => undefined);
    await shot.answer();
    await act(() => vi.advanceTimersByTimeAsync(100));
    expect(shot.sent).toHaveLength(1);
    await act(async () => void window.dispatchEvent(new Event("pointerup")));
    expect(shot.sent).toHaveLength(2);
    shot.move(3);
    await shot.answer();
    await act(() => vi.advanceTimersByTimeAsync(700));
    expect(shot.sent.at(-1)).toEqual({ frame: { camera_east_m: 3 } });
  } finally {
    vi.useRealTimers();
  }
});

it("does not wait where the hand has let go while the answer was on its way", async () => {
  vi.useFakeTimers({ toFake: ["setTimeout", "clearTimeout"] });
  try {
    const shot = shotWith();
    shot.move(1);
    shot.move(2);
    await act(async () => void window.dispatchEvent(new Event("pointerup")));
    expect(shot.sent).toHaveLength(1);
    await shot.answer();
    await act(async () => undefined);
    expect(shot.sent).toHaveLength(2);
    await shot.answer();
  } finally {
    vi.useRealTimers();
  }
});
