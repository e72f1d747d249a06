import { describe, expect, it } from "vitest";
import { correctionOf, type Graduated, graduatedStops, type Layer, type Response, toneOf } from "./sceneData";
import { floats, indices } from "./unpack";

const PLATE: Graduated = { at: 0.5, tiltDeg: 0, widthMm: 60, heightMm: 40, fromMm: -10, stepMm: 10, stops: [0, 1, 3] };
const RESPONSE = { toStops: 10, tones: [1, 0.5, 0] } as Partial<Response> as Response;

describe("what is looked up for the picture", () => {
  it("reads arrays as they come, little-endian in base64", () => {
    expect([...floats("AACAPwAAAMA=")]).toEqual([1, -2]);
    expect([...indices("AQAAAAACAAA=")]).toEqual([1, 512]);
  });

  it("takes a plate's stops by height, straight between them and the same beyond", () => {
    // In the middle of the frame one stands on the edge; 10 mm of 40 is a quarter of its height.
    expect(graduatedStops(PLATE, 0.5, 0.5)).toBeCloseTo(1);
    expect(graduatedStops(PLATE, 0.5, 0.25)).toBeCloseTo(3);
    expect(graduatedStops(PLATE, 0.5, 0.625)).toBeCloseTo(0.5);
    expect(graduatedStops(PLATE, 0.5, 0)).toBeCloseTo(3);
    expect(graduatedStops(PLATE, 0.5, 1)).toBeCloseTo(0);
  });

  it("turns the plate clockwise: at 90° it darkens the right", () => {
    const turned = { ...PLATE, tiltDeg: 90 };
    expect(graduatedStops(turned, 0.9, 0.5)).toBeCloseTo(3);
    expect(graduatedStops(turned, 0.1, 0.5)).toBeCloseTo(0);
  });

  it("looks a tone up, white above what is held and black far below", () => {
    expect(toneOf(RESPONSE, -2)).toBe(1);
    expect(toneOf(RESPONSE, 2.5)).toBeCloseTo(0.75);
    expect(toneOf(RESPONSE, 40)).toBe(0);
  });

  it("knows what spot readings say of a layer", () => {
    const said = { sky: 1, land: -1, elements: { 7: 0.5 } };
    const layer = (kind: string, elementId: number | null) => correctionOf({ kind, elementId } as Layer, said);
    expect([layer("sky", null), layer("ground", null), layer("thing", 7), layer("thing", 8)]).toEqual([1, -1, 0.5, 0]);
  });
});
