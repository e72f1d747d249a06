import type { Schemas } from "../api/client";
import { SHOT_FACTS } from "../api/facts";

type Groups = "light" | "frame" | "depth" | "exposure" | "sequence" | "wishes";
type Said = Schemas["ShotFactsOut"];
type Sent = Schemas["ShotPatch"];
type Part<Whole, Name extends keyof Whole> = NonNullable<Whole[Name]>;

/** What is said of a shot, each value by its own name: on the wire they stand in the groups of the steps. */
export type Facts = Omit<Said, Groups> &
  Said["light"] &
  Said["frame"] &
  Said["depth"] &
  Said["exposure"] &
  Said["sequence"] &
  Said["wishes"];

/** What is to be changed of a shot, by name. */
export type Patch = Omit<Sent, Groups> &
  Part<Sent, "light"> &
  Part<Sent, "frame"> &
  Part<Sent, "depth"> &
  Part<Sent, "exposure"> &
  Part<Sent, "sequence"> &
  Part<Sent, "wishes">;

export type FactName = keyof typeof SHOT_FACTS;

export function flat(facts: Said): Facts {
  const { light, frame, depth, exposure, sequence, wishes, ...head } = facts;
  return { ...head, ...light, ...frame, ...depth, ...exposure, ...sequence, ...wishes };
}

function isFact(name: string): name is FactName {
  return name in SHOT_FACTS;
}

/** Values by name as they are sent: each in its group. */
export function grouped(values: Record<string, unknown>): Sent {
  const sent: Record<string, unknown> & { [group in Groups]?: Record<string, unknown> } = {};
  for (const [name, value] of Object.entries(values)) {
    const group = isFact(name) ? SHOT_FACTS[name].group : "";
    if (group) sent[group] = { ...sent[group], [name]: value };
    else sent[name] = value;
  }
  return sent;
}

/** The name of the value that a refusal is about: exposure.filters.0 is about filters. */
export function nameOf(path: string): string {
  const [first = "", second = ""] = path.split(".");
  return isFact(second) && SHOT_FACTS[second].group === first ? second : first;
}

/** What a value is called in a sentence. */
export function labelOf(name: string): string {
  return isFact(name) ? SHOT_FACTS[name].label : name.replaceAll("_", " ");
}

/** The least and the most that a number may be. */
export function boundsOf(name: FactName): readonly [number, number] {
  const fact = SHOT_FACTS[name];
  return "low" in fact ? [fact.low, fact.high] : [-Infinity, Infinity];
}
