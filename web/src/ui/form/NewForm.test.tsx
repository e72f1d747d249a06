// @vitest-environment jsdom
import { screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { ApiError } from "../../api/client";
import { readDraft, writeDraft } from "../../lib/drafts/drafts";
import { draw, furnish } from "../../testing";
import { NewForm } from "./NewForm";

const FIELDS = [
  { name: "coordinates", label: "Coordinates" },
  { name: "elevation_m", label: "Elevation" },
  { name: "zone", label: "Time zone", hint: "found from the coordinates" },
];
const box = (label: string) => screen.getByLabelText(label) as HTMLInputElement;
const user = userEvent.setup();
beforeEach(() => {
  furnish();
  localStorage.clear();
});

describe("a form", () => {
  it("begins in its first field", () => {
    draw(<NewForm name="location" label="Add" fields={FIELDS} submit={async () => undefined} />);
    expect(document.activeElement).toBe(box("Coordinates"));
  });

  it("loses nothing that is typed while something is looked up", async () => {
    let answer: (hints: Record<string, string>) => void = () => undefined;
    const hint = () =>
      new Promise<Record<string, string>>((resolve) => {
        answer = resolve;
      });
    const submit = vi.fn(async () => undefined);
    draw(<NewForm name="location" label="Add" fields={FIELDS} submit={submit} hint={hint} />);
    await user.type(box("Coordinates"), "54.5, -3.1");
    await user.tab();
    await user.keyboard("12");
    answer({ zone: "left empty: Europe/London" });
    await user.keyboard("0");
    expect(await screen.findByText("left empty: Europe/London")).toBeTruthy();
    expect(box("Elevation").value).toBe("120");
    expect(box("Time zone").value).toBe("");
    await user.click(screen.getByRole("button", { name: "Add" }));
    expect(submit).toHaveBeenCalledWith({ coordinates: "54.5, -3.1", elevation_m: "120" });
  });

  it("keeps everything when it is refused, and says why at the field", async () => {
    const submit = () =>
      Promise.reject(new ApiError(422, "no", [{ field: "coordinates", message: "outside -90 to 90°" }]));
    draw(<NewForm name="location" label="Add" fields={FIELDS} submit={submit} />);
    await user.type(box("Coordinates"), "95, 2");
    await user.click(screen.getByRole("button", { name: "Add" }));
    expect((await screen.findByRole("alert")).textContent).toContain("outside");
    expect(box("Coordinates").value).toBe("95, 2");
  });

  it("marks what was kept from before, and can start empty", async () => {
    writeDraft("new:location", JSON.stringify({ coordinates: "1, 2" }));
    draw(<NewForm name="location" label="Add" fields={FIELDS} submit={async () => undefined} />);
    expect(screen.getByText(/Kept from before, not sent yet/)).toBeTruthy();
    expect(box("Coordinates").value).toBe("1, 2");
    await user.click(screen.getByRole("button", { name: "start empty" }));
    expect(box("Coordinates").value).toBe("");
    expect(readDraft("new:location")).toBeUndefined();
  });

  it("takes a stored record that is none for nothing", () => {
    writeDraft("new:location", "{not json");
    draw(<NewForm name="location" label="Add" fields={FIELDS} submit={async () => undefined} />);
    expect(box("Coordinates").value).toBe("");
    expect(screen.queryByText(/Kept from before/)).toBeNull();
  });

  it("forgets its draft once it is sent", async () => {
    draw(<NewForm name="location" label="Add" fields={FIELDS} submit={async () => undefined} />);
    await user.type(box("Coordinates"), "1, 2");
    expect(readDraft("new:location")?.text).toContain("1, 2");
    await user.click(screen.getByRole("button", { name: "Add" }));
    await waitFor(() => expect(readDraft("new:location")).toBeUndefined());
  });
});
