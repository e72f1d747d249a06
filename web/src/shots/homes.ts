import type { StepName } from "./steps";

/** Where a field of the plan stands: the step, and the panel of the frame's bench where it is not the first. */
export interface Home {
  step: StepName;
  panel?: string;
}

const at = (step: StepName, panel?: string): Home => (panel === undefined ? { step } : { step, panel });

// The first is the usual one; the others serve where a reason belongs to their step.
const HOMES: Record<string, Home[]> = {
  viewpoint_id: [at("place")],
  elements: [at("place")],
  time_utc: [at("light")],
  water_low_m: [at("light")],
  wanted_light: [at("light")],
  plan_b_measure: [at("light")],
  body_id: [at("frame")],
  lens_id: [at("frame")],
  support_id: [at("frame")],
  focal_mm: [at("frame")],
  bearing_deg: [at("frame")],
  roll_deg: [at("frame")],
  camera_height_m: [at("frame")],
  camera_east_m: [at("frame")],
  crop_focal_mm: [at("frame", "crop")],
  pano_across_deg: [at("frame", "crop")],
  pano_pivot_mm: [at("frame", "crop")],
  sharp_element_ids: [at("depth")],
  near_m: [at("depth")],
  ground_sharp: [at("depth")],
  far_m: [at("depth")],
  depth_method: [at("depth")],
  focus_school: [at("depth")],
  subject_element_id: [at("depth"), at("light")],
  overlap: [at("depth")],
  hold: [at("depth")],
  accessory_ids: [at("depth")],
  frames_per_s: [at("depth")],
  hit_rate: [at("depth")],
  patience_s: [at("depth")],
  subject_depth_mm: [at("depth")],
  flash_distance_m: [at("exposure")],
  flash_shutter_s: [at("exposure")],
  timer_s: [at("sequence")],
  frame_groups: [at("sequence")],
  magnification: [at("depth"), at("frame", "close")],
  f_number: [at("depth"), at("exposure")],
  iso: [at("exposure")],
  filters: [at("exposure")],
  metered_shutter_s: [at("exposure")],
  wanted_shutter_s: [at("exposure")],
  wanted_look: [at("exposure")],
  follow_fading: [at("exposure")],
  highlight_ev: [at("exposure")],
  bracket: [at("exposure")],
  bracket_count: [at("exposure")],
  spots: [at("exposure")],
  motion_wishes: [at("exposure")],
  graduated_at: [at("exposure")],
  bracket_step_ev: [at("exposure")],
  compensation_ev: [at("exposure")],
  settle_s: [at("sequence")],
  card: [at("field")],
};

/** Where a reason of a step leads: to the field in that step if it stands there, else to where it does. */
export function homeOf(field: string, reasonStep: StepName): Home {
  const homes = HOMES[field] ?? [];
  return homes.find((home) => home.step === reasonStep) ?? homes[0] ?? at(reasonStep);
}
