import { client, type Schemas, take } from "../api/client";
import { OPTIONS } from "../api/facts";
import type { paths } from "../api/schema";
import type { StepName } from "../shots/steps";

export type Begin = Schemas["BeginNowOut"];
export type Answer = Schemas["AnswerNowOut"] &
  Partial<Schemas["DensityNowOut"] & Schemas["DepthNowOut"] & Schemas["WaterNowOut"]>;
export type Values = Record<string, string>;

/** A field of a question: a text as typed, or one of a few. */
export interface Asked {
  name: string;
  label: string;
  options?: readonly { value: string; label: string }[];
  /** Texts that are offered while typing. */
  offered?: readonly string[];
  wide?: boolean;
}

/** A question that is answered as one types. */
export interface Question {
  key: "density" | "depth" | "water" | "close-up" | "bracket" | "stars";
  title: string;
  /** Where a shot made of it is gone on with. */
  step: StepName;
  fields: (begin: Begin, here: boolean) => Asked[];
  initial: (begin: Begin) => Values;
  ask: (values: Values, about: About, signal: AbortSignal) => Promise<Answer>;
}

/** What all questions share: the bag's body, and where one is. */
export interface About {
  body_id: number | undefined;
  close_up_id: number | undefined;
  film_exponent: number | undefined;
  /** The shot that an answer is to go into. */
  shot_id?: number;
  here: { viewpoint_id?: number; coordinates?: string };
}

// What is typed goes to the server as it is: it reads "1/15" and "f/11", and names the field that it cannot read.
type Query<Key extends Question["key"]> = NonNullable<paths[`/api/now/${Key}`]["get"]["parameters"]["query"]>;
const query = <Key extends Question["key"]>(_key: Key, values: Record<string, unknown>) =>
  values as unknown as Query<Key>;
const mm = (value: number) => `${value} mm`;
const wide = (begin: Begin) => mm(begin.wide?.focal_mm ?? 24);
const body = ({ body_id }: About) => (body_id === undefined ? {} : { body_id });

export const QUESTIONS: Question[] = [
  {
    key: "density",
    title: "Neutral density",
    step: "exposure",
    fields: (begin, here) => [
      { name: "shutter", label: "Reading without" },
      { name: "filters", label: "Filters", offered: begin.filters.map((item) => `${item.stops}`) },
      {
        name: "light",
        label: "Light",
        options: [{ value: "steady", label: "steady" }, ...(here ? [{ value: "changing", label: "as here now" }] : [])],
      },
    ],
    initial: (begin) => ({
      shutter: "1/15",
      filters: `${Math.max(0, ...begin.filters.map((item) => item.stops)) || 10}`,
      light: "steady",
    }),
    ask: ({ light, ...values }, { here, film_exponent, shot_id }, signal) =>
      take(
        client.GET("/api/now/density", {
          params: {
            query: query("density", {
              ...values,
              ...(light === "changing" ? here : {}),
              ...(film_exponent === undefined ? {} : { film_exponent }),
              ...(shot_id === undefined ? {} : { shot_id }),
            }),
          },
          signal,
        }),
      ),
  },
  {
    key: "depth",
    title: "Depth",
    step: "depth",
    fields: () => [
      { name: "focal_mm", label: "Focal length" },
      { name: "f_number", label: "Aperture" },
      { name: "near_m", label: "Near" },
      { name: "far", label: "Far" },
    ],
    initial: (begin) => ({ focal_mm: wide(begin), f_number: "f/11", near_m: "0.8 m", far: "∞" }),
    ask: (values, about, signal) =>
      take(client.GET("/api/now/depth", { params: { query: query("depth", { ...values, ...body(about) }) }, signal })),
  },
  {
    key: "water",
    title: "Water",
    step: "exposure",
    fields: () => [
      { name: "seen", label: "Water", options: OPTIONS.WaterSeen },
      { name: "distance_m", label: "Distance" },
      { name: "focal_mm", label: "Focal length" },
    ],
    initial: (begin) => ({ seen: "brisk_stream", look: "textured", distance_m: "4 m", focal_mm: wide(begin) }),
    ask: (values, about, signal) =>
      take(client.GET("/api/now/water", { params: { query: query("water", { ...values, ...body(about) }) }, signal })),
  },
  {
    key: "close-up",
    title: "Close-up",
    step: "depth",
    fields: () => [
      { name: "scale", label: "1:1, or width" },
      { name: "depth_mm", label: "Subject's depth" },
      { name: "f_number", label: "Aperture" },
    ],
    initial: () => ({ scale: "1:1", depth_mm: "4 mm", f_number: "f/8" }),
    ask: (values, about, signal) =>
      take(
        client.GET("/api/now/close-up", {
          params: {
            query: query("close-up", {
              ...values,
              ...body(about),
              ...(about.close_up_id === undefined ? {} : { lens_id: about.close_up_id }),
            }),
          },
          signal,
        }),
      ),
  },
  {
    key: "bracket",
    title: "Bracket",
    step: "exposure",
    fields: () => [
      { name: "darkest", label: "Darkest" },
      { name: "brightest", label: "Brightest" },
      { name: "holds", label: "One frame holds" },
    ],
    initial: (begin) => ({ darkest: "1/2", brightest: "1/4000", holds: `${begin.holds_stops}` }),
    ask: (values, _about, signal) =>
      take(client.GET("/api/now/bracket", { params: { query: query("bracket", values) }, signal })),
  },
  {
    key: "stars",
    title: "Stars",
    step: "exposure",
    fields: () => [
      { name: "focal_mm", label: "Focal length" },
      { name: "f_number", label: "Aperture" },
    ],
    initial: (begin) => ({ focal_mm: wide(begin), f_number: "f/2.8" }),
    ask: (values, about, signal) =>
      take(client.GET("/api/now/stars", { params: { query: query("stars", { ...values, ...body(about) }) }, signal })),
  },
];
