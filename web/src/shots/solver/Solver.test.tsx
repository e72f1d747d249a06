// @vitest-environment jsdom
import { screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { beforeEach, expect, test, vi } from "vitest";
import { furnish } from "../../testing";
import { answer, drawPage, serve } from "../../testing.pages";
import type { ShotWork } from "../useShot";
import { ShotContext } from "../work";
import Solver from "./Solver";

const user = userEvent.setup();
const SHOT = answer("shot");
const SOLUTION = answer("solution");
beforeEach(() => {
  furnish();
  localStorage.clear();
});

function opened(solution: unknown) {
  serve({ [`GET /api/shots/${SHOT.id}/solution`]: solution });
  const work = { shot: SHOT, set: vi.fn(), change: vi.fn(), forgive: vi.fn(), errors: {} } as unknown as ShotWork;
  const close = vi.fn();
  drawPage(
    <ShotContext.Provider value={work}>
      <Solver {...work} close={close} />
    </ShotContext.Provider>,
    "/",
  );
  return { set: work.set, close };
}

const plan = (kind: string) => within(document.querySelector(`[data-plan="${kind}"]`) as HTMLElement);

test("the plans stand beside the shot as it is, each with what it sets and costs", async () => {
  opened(SOLUTION);
  expect(await screen.findByText(/49 400 plans were judged/)).toBeTruthy();
  for (const { kind, f_number_label, shutter_label } of SOLUTION.plans)
    expect(plan(kind).getByText(`${f_number_label}, ${shutter_label}`)).toBeTruthy();
  // The best is what is set already: there is nothing to take.
  expect((plan("best").getByRole("button") as HTMLButtonElement).disabled).toBe(true);
});

test("a plan that is taken sets all of it at once, and closes", async () => {
  const { set, close } = opened(SOLUTION);
  await screen.findByText(/plans were judged/);
  await user.click(plan("quickest").getByRole("button"));
  const { time_utc, ...takes } = SOLUTION.plans.find((item: { kind: string }) => item.kind === "quickest").takes;
  expect(set).toHaveBeenCalledTimes(1);
  expect(set).toHaveBeenCalledWith(expect.objectContaining(takes));
  expect(close).toHaveBeenCalled();
});

test("what is lacking is said instead of plans", async () => {
  opened({ ...SOLUTION, plans: [], now: null, lacking: "Enter a body first." });
  expect(await screen.findByText("Enter a body first.")).toBeTruthy();
  expect(screen.queryByText(/plans were judged/)).toBeNull();
});
