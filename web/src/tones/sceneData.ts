import type { Schemas } from "../api/client";
import { floats, indices } from "./unpack";

export type Tones = Schemas["TonesOut"];
export type LitScene = Schemas["LitSceneOut"];

/** A layer of the scene with its arrays unpacked. */
export interface Layer {
  kind: string;
  elementId: number | null;
  points: Float32Array;
  triangles: Uint32Array;
  ev: Float32Array;
  shadeEv: Float32Array | null;
  mirrorEv: Float32Array | null;
  polariser: Float32Array | null;
  mirrorPolariser: Float32Array | null;
  grainM: number;
  grainStops: number;
}

/** All that does not change while one turns the exposure. */
export interface SceneData {
  layers: Layer[];
  shadows: number[][][];
  anchor: readonly number[];
  mirrorLevel: number | null;
  mirrors: ReadonlySet<number>;
  sun: { altitude: number; azimuth: number } | null;
  referenceEv: number;
}

export interface Shift {
  east: number;
  north: number;
}

/** How the scene is seen just now. `matrix` takes metres to (x·w, y·w, w), `fit` shrinks the picture about its middle. */
export interface View {
  matrix: readonly (readonly number[])[];
  fit: number;
  /** Where elements stand now against where the scene has them, by their id [metres]. */
  shifts: ReadonlyMap<number, Shift>;
  /** Blur of an element as a share of the frame's width. */
  blurs: ReadonlyMap<number, number>;
  /** Blur of sky, land and ground behind a close-up. */
  behind: number;
}

/** What the sensor makes of it: between which EV it holds detail, how a screen shows it, and what filters take. */
export interface Response {
  brightestEv: number;
  darkestEv: number;
  toStops: number;
  tones: readonly number[];
  polariser: boolean;
  /** What spot readings say of a layer's light [stops]. */
  corrections: Corrections;
  graduated: Graduated | null;
}

export interface Corrections {
  sky: number;
  land: number;
  elements: Readonly<Record<string, number>>;
}

/** What is to be added to a layer's EV. */
export function correctionOf({ kind, elementId }: Layer, { sky, land, elements }: Corrections): number {
  return kind === "sky" ? sky : elementId === null ? land : (elements[String(elementId)] ?? 0);
}

export interface Graduated {
  at: number;
  tiltDeg: number;
  widthMm: number;
  heightMm: number;
  fromMm: number;
  stepMm: number;
  stops: readonly number[];
}

/** The few colours that a picture in tones has. */
export interface Inks {
  clipped: [number, number, number];
  blocked: [number, number, number];
  /** White of the picture: red alone at night. */
  white: [number, number, number];
}

/** What a picture is drawn for: width and height in CSS pixels, scale: the screen's own to one of them. */
export interface Sight {
  view: View;
  response: Response;
  inks: Inks;
  width: number;
  height: number;
  scale: number;
}

/** Something that draws the scene into a canvas. */
export interface Painter {
  scene(data: SceneData): void;
  draw(sight: Sight): void;
  end(): void;
}

export function sceneData(lit: LitScene): SceneData {
  const some = (text: string | null) => (text === null ? null : floats(text));
  return {
    layers: lit.layers.map((layer) => ({
      kind: layer.kind,
      elementId: layer.element_id,
      points: floats(layer.points),
      triangles: indices(layer.triangles),
      ev: floats(layer.ev),
      shadeEv: some(layer.shade_ev),
      mirrorEv: some(layer.mirror_ev),
      polariser: some(layer.polariser_stops),
      mirrorPolariser: some(layer.mirror_polariser_stops),
      grainM: layer.grain_m,
      grainStops: layer.grain_stops,
    })),
    shadows: lit.shadows,
    anchor: lit.anchor,
    mirrorLevel: lit.mirror_level_m,
    mirrors: new Set(lit.mirrors),
    sun:
      lit.disc_altitude_deg === null || lit.disc_azimuth_deg === null
        ? null
        : { altitude: lit.disc_altitude_deg, azimuth: lit.disc_azimuth_deg },
    referenceEv: lit.reference_ev,
  };
}

/** What the graduated filters take at a place of the frame (shares from its upper left). */
export function graduatedStops(of: Graduated, x: number, y: number): number {
  const tilt = (of.tiltDeg * Math.PI) / 180;
  const along = (x - 0.5) * of.widthMm * Math.sin(tilt) + (of.at - y) * of.heightMm * Math.cos(tilt);
  const at = Math.max(0, Math.min(of.stops.length - 1, (along - of.fromMm) / of.stepMm));
  const [low, share] = [Math.floor(at), at - Math.floor(at)];
  return (of.stops[low] ?? 0) * (1 - share) + (of.stops[Math.min(of.stops.length - 1, low + 1)] ?? 0) * share;
}

/** The tone of a brightness a number of stops under the brightest that is held, looked up. */
export function toneOf(response: Response, below: number): number {
  const at = (Math.max(0, Math.min(response.toStops, below)) / response.toStops) * (response.tones.length - 1);
  const low = Math.floor(at);
  return (
    (response.tones[low] ?? 0) * (1 - at + low) +
    (response.tones[Math.min(response.tones.length - 1, low + 1)] ?? 0) * (at - low)
  );
}
