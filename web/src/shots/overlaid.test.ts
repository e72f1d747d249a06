import { describe, expect, it } from "vitest";
import { overlaid } from "./queue";

describe("facts as they will be", () => {
  const facts = {
    hood_on: false,
    iso: 100 as number | null,
    guide: "thirds",
    wanted_look: "veiled" as string | null,
    sharp_element_ids: [1],
    lens_id: 1 as number | null,
    clock_local: "16:04",
    pitch_deg: 0,
  };

  it("show ticks, choices, lists and references before the answer", () => {
    const asked = { hood_on: true, guide: "golden", sharp_element_ids: [1, 2], lens_id: 2, wanted_look: null };
    expect(overlaid(facts, asked)).toEqual({ ...facts, ...asked });
    expect(overlaid(facts, { lens_id: null })).toEqual({ ...facts, lens_id: null });
  });

  it("leave figures as they were answered, so that a drawing and its figures fit together", () => {
    expect(overlaid(facts, { pitch_deg: 5, iso: null })).toBe(facts);
  });

  it("leave alone what only the server can read", () => {
    expect(overlaid(facts, { iso: "ISO 400", clock_local: "16.30", pitch_deg: "5°" })).toBe(facts);
  });

  it("leave alone what is no fact at all", () => {
    expect(overlaid(facts, { crop_share: 0.5 })).toBe(facts);
  });

  it("are the same object while nothing is asked", () => {
    expect(overlaid(facts, {})).toBe(facts);
  });
});
