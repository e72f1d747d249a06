import { describe, expect, it } from "vitest";
import { labelOf } from "./facts";

describe("names of fields", () => {
  it.each([
    ["f_number", "aperture"],
    ["iso", "ISO"],
    ["camera_height_m", "camera height"],
    ["bearing_deg", "bearing"],
    ["lens_id", "lens"],
    ["wanted_shutter_s", "wanted shutter"],
    ["sharp_element_ids", "what must be sharp"],
  ])("%s is the %s", (name, words) => {
    expect(labelOf(name)).toBe(words);
  });
});
