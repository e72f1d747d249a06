// @vitest-environment jsdom
import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { beforeEach, expect, test } from "vitest";
import { furnish } from "../testing";
import { answer, drawPage, Refusal, serve } from "../testing.pages";
import Locations from "./Locations";

const user = userEvent.setup();
const ALL = answer("locations");
const ESTUARY = ALL.locations.find((item: { name: string }) => item.name === "Sallow Estuary");
beforeEach(() => {
  furnish();
  localStorage.clear();
});

function opened(answers: Record<string, unknown> = {}) {
  const asked = serve({ "GET /api/locations": ALL, "GET /api/photographer": answer("photographer"), ...answers });
  drawPage(<Locations />, `/locations/${ESTUARY.id}`, "/locations/:locationId");
  return asked;
}

test("all locations are listed with their coordinates, and the one at hand is open", async () => {
  opened();
  const link = await screen.findByRole("link", { name: "Sallow Estuary" });
  expect((link.closest("li") as HTMLElement).textContent).toContain(`${ESTUARY.latitude_deg.toFixed(2)}° N`);
  for (const point of ESTUARY.viewpoints) expect(screen.getAllByText(point.name).length).toBeGreaterThan(0);
});

test("a location that is refused keeps what was typed", async () => {
  opened({
    "POST /api/locations": new Refusal("coordinates", "Latitude 95 is outside -90 to 90."),
    "GET /api/coordinates": { latitude_deg: 58.1, longitude_deg: -6.3 },
    "GET /api/zone": { zone: "Europe/London" },
  });
  await user.click(await screen.findByRole("button", { name: "New location" }));
  const form = within(screen.getByRole("button", { name: "Add the location" }).closest("form") as HTMLElement);
  await user.type(form.getByLabelText("Coordinates"), "95, 2");
  await user.type(form.getByLabelText("Name"), "Nowhere");
  expect(await form.findByText("left empty: Europe/London")).toBeTruthy();
  await user.click(form.getByRole("button", { name: "Add the location" }));
  expect((await form.findByRole("alert")).textContent).toContain("outside -90 to 90");
  expect((form.getByLabelText("Name") as HTMLInputElement).value).toBe("Nowhere");
});

test("deleting asks first", async () => {
  const asked = opened();
  await user.click(await screen.findByRole("button", { name: "delete Sallow Estuary …" }));
  await user.click(screen.getByRole("button", { name: "Keep" }));
  expect(asked).toEqual([]);
  await user.click(screen.getByRole("button", { name: "delete Sallow Estuary …" }));
  await user.click(screen.getByRole("button", { name: "Delete" }));
  await waitFor(() =>
    expect(asked.map(({ method, path }) => `${method} ${path}`)).toEqual([`DELETE /api/locations/${ESTUARY.id}`]),
  );
});
