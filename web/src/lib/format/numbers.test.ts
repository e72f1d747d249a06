import { describe, expect, it } from "vitest";
import { coordinates, plain } from "./numbers";

describe("a number in a field", () => {
  it.each([
    [1 / 60, "0.0167"],
    [1.6764000000000001, "1.6764"],
    [0.1 + 0.2, "0.3"],
    [24, "24"],
    [-3.5, "-3.5"],
    [0, "0"],
    [-0, "0"],
    [1e-7, "1e-7"],
    [0.00012, "0.0001"],
    [Number.NaN, ""],
    [Number.POSITIVE_INFINITY, ""],
  ])("%f is written %s", (value, text) => {
    expect(plain(value)).toBe(text);
  });

  it("is empty for nothing", () => {
    expect(plain(null)).toBe("");
    expect(plain(undefined)).toBe("");
  });

  it("keeps the number of decimals asked for", () => {
    expect(plain(128.26, 1)).toBe("128.3");
    expect(plain(-3.2055555555555557, 6)).toBe("-3.205556");
  });
});

describe("a position", () => {
  it("is written to a tenth of a metre", () => {
    expect(coordinates(54.53111111111111, -3.2055555555555557)).toBe("54.531111, -3.205556");
    expect(coordinates(0, 180)).toBe("0, 180");
  });
});
