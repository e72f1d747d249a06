// @vitest-environment jsdom
import { screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { beforeEach, expect, test } from "vitest";
import { furnish } from "../testing";
import { answer, drawPage, Refusal, serve } from "../testing.pages";
import OutingPage from "./OutingPage";

const user = userEvent.setup();
const OUTING = answer("outing");
const PATCH = `PATCH /api/outings/${OUTING.id}`;
beforeEach(() => {
  furnish();
  localStorage.clear();
});

function opened(answers: Record<string, unknown> = {}) {
  const asked = serve({ [`GET /api/outings/${OUTING.id}`]: OUTING, ...answers });
  drawPage(<OutingPage />, `/outings/${OUTING.id}`, "/outings/:outingId");
  return asked;
}

test("the day says its verdict, why, and each stop by name", async () => {
  opened();
  expect(await screen.findByRole("heading", { name: OUTING.facts.name })).toBeTruthy();
  expect(document.querySelector("[data-verdict]")?.getAttribute("data-verdict")).toBe(OUTING.mark);
  for (const reason of OUTING.because) expect(screen.getAllByText(reason.text).length).toBeGreaterThan(0);
  expect(document.querySelectorAll("[data-stop-row]")).toHaveLength(OUTING.stops.length);
});

test("forty minutes more are sent, and the answer is the whole day planned again", async () => {
  const late = { ...OUTING, facts: { ...OUTING.facts, late_min: 40 }, verdict: "4 of 5 stops" };
  const asked = opened({ [PATCH]: late });
  await user.click(await screen.findByRole("button", { name: "40 min more" }));
  expect(await screen.findByText("4 of 5 stops")).toBeTruthy();
  expect(asked).toEqual([{ method: "PATCH", path: `/api/outings/${OUTING.id}`, body: { late_min: 40 } }]);
  expect((screen.getByLabelText("Late by") as HTMLInputElement).value).toBe("40");
});

test("a limit that is refused stays as typed, with the reason at its field", async () => {
  opened({ [PATCH]: new Refusal("back_clock", "“tea time” is not a time of day.") });
  const back = (await screen.findByLabelText("Back by")) as HTMLInputElement;
  await user.type(back, "tea time{Enter}");
  expect((await screen.findByRole("alert")).textContent).toContain("not a time of day");
  expect(back.value).toBe("tea time");
});

test("what is packed is ticked", async () => {
  const [first] = OUTING.packing.filter((item: { packed: boolean }) => !item.packed);
  const asked = opened();
  await user.click(await screen.findByLabelText(new RegExp(`^${first.name.replace(/[.*+?^${}()|[\]\\]/g, "\\$&")}`)));
  await waitFor(() => expect(asked).toHaveLength(1));
  expect(JSON.stringify(asked[0])).toContain(first.key);
});
