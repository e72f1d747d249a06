/** The seven steps in the order of the ridge line. */
export const STEPS = ["place", "light", "frame", "depth", "exposure", "sequence", "field"] as const;
export type StepName = (typeof STEPS)[number];

export const STEP_WORDS: Record<StepName, string> = {
  place: "Place",
  light: "Light",
  frame: "Frame",
  depth: "Depth",
  exposure: "Exposure",
  sequence: "Sequence",
  field: "Field",
};
