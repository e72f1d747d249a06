import { describe, expect, it } from "vitest";
import { lightLabel } from "./entry";

describe("the light of an entry", () => {
  it.each([
    ["golden_hour", "golden hour"],
    ["low_side_light", "low side light"],
    ["", ""],
  ])("%s is shown as “%s”", (value, label) => {
    expect(lightLabel(value)).toBe(label);
  });
});
