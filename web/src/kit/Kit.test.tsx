// @vitest-environment jsdom
import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { beforeEach, expect, test } from "vitest";
import { furnish } from "../testing";
import { type Asked, answer, drawPage, Refusal, serve } from "../testing.pages";
import Kit from "./Kit";

const user = userEvent.setup();
const KIT = { "GET /api/kit": answer("kit"), "GET /api/kit/presets": { presets: [] } };
beforeEach(() => {
  furnish();
  localStorage.clear();
});

async function opened(answers: Record<string, unknown>): Promise<Asked[]> {
  const asked = serve({ ...KIT, ...answers });
  drawPage(<Kit />, "/kit");
  await user.click(await screen.findByRole("button", { name: /^10-stop ND/ }));
  return asked;
}

test("every piece stands under its kind, with the figures one chooses it by", async () => {
  serve(KIT);
  drawPage(<Kit />, "/kit");
  const lenses = (await screen.findByRole("heading", { name: "Lenses" })).closest("section") as HTMLElement;
  expect(
    within(lenses)
      .getAllByRole("button", { expanded: false })
      .map((line) => line.textContent),
  ).toEqual(expect.arrayContaining([expect.stringMatching(/^24–70 mm zoom.*f\/2.8 to f\/22, sharpest at f\/8/)]));
  expect(screen.getByRole("button", { name: /^10-stop ND/ }).textContent).toContain("neutral density, 10 stops");
});

test("what is typed is sent as it was typed", async () => {
  const asked = await opened({ "PATCH /api/filters/3": {} });
  const costs = screen.getByLabelText("Costs");
  await user.clear(costs);
  await user.type(costs, "ND1000{Enter}");
  await waitFor(() => expect(asked).toEqual([{ method: "PATCH", path: "/api/filters/3", body: { stops: "ND1000" } }]));
});

test("what is refused stays, with the reason at its field", async () => {
  await opened({ "PATCH /api/filters/3": new Refusal("stops", "A filter costs 0 to 24 stops.") });
  const costs = screen.getByLabelText("Costs") as HTMLInputElement;
  await user.clear(costs);
  await user.type(costs, "99{Enter}");
  expect((await screen.findByRole("alert")).textContent).toContain("0 to 24 stops");
  expect(costs.value).toBe("99");
});

test("a piece that shots use says by which before it is deleted", async () => {
  const asked = await opened({});
  await user.click(screen.getByRole("button", { name: "delete 10-stop ND …" }));
  expect(screen.getByText(/It is used by/).textContent).toContain("Posts at the ebb");
  expect(asked).toEqual([]);
  await user.click(screen.getByRole("button", { name: "Delete" }));
  await waitFor(() => expect(asked).toEqual([{ method: "DELETE", path: "/api/filters/3", body: undefined }]));
});

test("a new body asks for what a plan needs, and keeps the rest behind more figures", async () => {
  serve(KIT);
  drawPage(<Kit />, "/kit");
  await user.click(await screen.findByRole("button", { name: "add a body" }));
  const form = screen.getByRole("button", { name: "Add the body" }).closest("form") as HTMLElement;
  expect(within(form).getByLabelText("Sensor width")).toBeTruthy();
  expect(within(form).queryByLabelText("Stabiliser (CIPA)")).toBeNull();
  await user.click(screen.getByRole("button", { name: /^Full-frame body, 45 MP/ }));
  await user.click(screen.getByText("more figures"));
  expect((screen.getByLabelText("Flash from") as HTMLInputElement).value).toBe("1/200");
});
