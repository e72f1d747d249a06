import { describe, expect, it } from "vitest";
import { homeOf } from "./homes";

describe("where a reason leads", () => {
  it("is the field of its own step where there is one", () => {
    expect(homeOf("f_number", "depth")).toEqual({ step: "depth" });
    expect(homeOf("f_number", "exposure")).toEqual({ step: "exposure" });
  });

  it("is another step where the field stands there only", () => {
    expect(homeOf("f_number", "frame")).toEqual({ step: "depth" });
    expect(homeOf("filters", "frame")).toEqual({ step: "exposure" });
    expect(homeOf("elements", "exposure")).toEqual({ step: "place" });
    expect(homeOf("settle_s", "frame")).toEqual({ step: "sequence" });
  });

  it("is the panel of the bench in which the field stands", () => {
    expect(homeOf("pano_pivot_mm", "frame")).toEqual({ step: "frame", panel: "crop" });
    expect(homeOf("magnification", "frame")).toEqual({ step: "frame", panel: "close" });
  });

  it("is the step itself for anything else", () => {
    expect(homeOf("something_new", "light")).toEqual({ step: "light" });
  });
});
