// @vitest-environment jsdom
import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { beforeEach, expect, test } from "vitest";
import { furnish } from "../testing";
import { answer, drawPage, serve } from "../testing.pages";
import EntryPage from "./EntryPage";

const user = userEvent.setup();
const ENTRY = answer("entry");
beforeEach(() => {
  furnish();
  localStorage.clear();
});

function opened(answers: Record<string, unknown> = {}) {
  const asked = serve({ [`GET /api/log/${ENTRY.id}`]: ENTRY, ...answers });
  drawPage(<EntryPage />, `/logbook/${ENTRY.id}`, "/logbook/:entryId");
  return asked;
}

test("the findings stand in their order, each frame with its settings and what differs", async () => {
  opened();
  expect(await screen.findByRole("heading", { name: ENTRY.name })).toBeTruthy();
  const list = [...document.querySelectorAll("li")].map((item) => item.textContent);
  const places = ENTRY.findings.map((item: { text: string }) => list.indexOf(item.text));
  expect(Math.min(...places)).toBeGreaterThanOrEqual(0);
  expect(places).toEqual([...places].sort((one: number, other: number) => one - other));
  const frames = document.querySelectorAll<HTMLElement>("[data-frames] > li");
  expect(frames).toHaveLength(ENTRY.frames.length);
  expect(frames[0]?.textContent).toContain(ENTRY.frames[0].shutter);
  expect(frames[0]?.textContent).toContain(ENTRY.frames[0].file_name);
});

test("whether it is a keeper is sent when it is chosen", async () => {
  const asked = opened({ [`PATCH /api/log/${ENTRY.id}`]: ENTRY });
  const keeper = within(await screen.findByRole("radiogroup", { name: "Keeper" }));
  await user.click(keeper.getByLabelText("keep"));
  await waitFor(() =>
    expect(asked).toEqual([{ method: "PATCH", path: `/api/log/${ENTRY.id}`, body: { outcome: "keep" } }]),
  );
});

test("an entry without a plan asks which shot it was", async () => {
  const shots = [{ id: 7, name: "Posts at the ebb" }];
  const asked = opened({
    [`GET /api/log/${ENTRY.id}`]: { ...ENTRY, planned: [], shot_id: null },
    "GET /api/notebook": { shots },
  });
  const which = await screen.findByLabelText("Which shot it was");
  await within(which).findByRole("option", { name: "Posts at the ebb" });
  await user.selectOptions(which, "7");
  await waitFor(() =>
    expect(asked).toEqual([{ method: "POST", path: `/api/log/${ENTRY.id}/shot`, body: { shot_id: 7 } }]),
  );
});
