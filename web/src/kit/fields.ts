import { ACCESSORY_FIGURES, ACCESSORY_LABELS, OPTIONS } from "../api/facts";

/** The fields of each kind of kit, with an example of what to type. */
export interface KitField {
  name: string;
  label: string;
  unit?: string;
  example?: string;
  initial?: string;
  whole?: boolean;
  yes?: boolean;
  optional?: boolean;
  /** The name under which the server gives the value as the trade writes it. */
  labelled?: string;
  options?: readonly { value: string; label: string }[];
  /** Behind “more figures”; a new piece takes the usual value. */
  more?: boolean;
}

export const BODY_FIELDS: KitField[] = [
  { name: "name", label: "Name", example: "Full-frame body, 45 MP" },
  { name: "sensor_width_mm", label: "Sensor width", unit: "mm", example: "36" },
  { name: "sensor_height_mm", label: "Sensor height", unit: "mm", example: "24" },
  { name: "pixels_wide", label: "Pixels wide", example: "8256", whole: true },
  { name: "pixels_high", label: "Pixels high", example: "5504", whole: true },
  { name: "base_iso", label: "Base ISO", initial: "100" },
  { name: "max_iso", label: "Highest ISO", initial: "25600" },
  { name: "fastest_shutter_s", label: "Fastest shutter", initial: "1/8000", labelled: "fastest_shutter_label" },
  { name: "slowest_shutter_s", label: "Slowest timed shutter", initial: "30 s", labelled: "slowest_shutter_label" },
  { name: "has_bulb", label: "Has bulb", yes: true },
  { name: "dynamic_range_stops", label: "Dynamic range", unit: "stops", initial: "11" },
  { name: "bracket_frames", label: "Bracket frames", initial: "3", whole: true },
  { name: "bracket_step_ev", label: "Largest step", unit: "EV", initial: "2" },
  {
    name: "flash_sync_s",
    label: "Flash from",
    example: "1/200",
    labelled: "flash_sync_label",
    optional: true,
    more: true,
  },
  { name: "stabiliser_stops", label: "Stabiliser (CIPA)", unit: "stops", example: "none", optional: true, more: true },
  { name: "extended_iso_min", label: "Lowest extended ISO", example: "none", optional: true, more: true },
  { name: "extended_iso_max", label: "Highest extended ISO", example: "none", optional: true, more: true },
  { name: "burst_per_s", label: "Burst", unit: "a second", example: "not known", optional: true, more: true },
  {
    name: "buffer_frames",
    label: "Buffer",
    unit: "frames",
    example: "not known",
    whole: true,
    optional: true,
    more: true,
  },
  { name: "write_s", label: "Writes a frame in", unit: "s", initial: "0.5", more: true },
  { name: "dark_frame", label: "Takes dark frames", yes: true, initial: "no", more: true },
  { name: "dark_frame_from_s", label: "Dark frames from", unit: "s", initial: "1", more: true },
  {
    name: "battery_frames",
    label: "A battery's frames (CIPA)",
    example: "not known",
    whole: true,
    optional: true,
    more: true,
  },
  { name: "batteries", label: "Batteries along", initial: "1", whole: true, more: true },
  { name: "file_mb", label: "A file takes", unit: "MB", example: "not known", optional: true, more: true },
  { name: "card_gb", label: "The card holds", unit: "GB", example: "not known", optional: true, more: true },
  {
    name: "film",
    label: "Film",
    options: [{ value: "", label: "none, a sensor" }, ...OPTIONS.FilmKind],
    optional: true,
    more: true,
  },
  {
    name: "film_exponent",
    label: "Film's exponent over 1 s",
    example: "a sensor: leave empty",
    optional: true,
    more: true,
  },
];

export const LENS_FIELDS: KitField[] = [
  { name: "name", label: "Name", example: "24–70 mm zoom" },
  { name: "focal_min_mm", label: "Focal length from", unit: "mm", example: "24" },
  { name: "focal_max_mm", label: "to (a prime: leave empty)", unit: "mm", example: "70" },
  { name: "f_number_min", label: "Widest aperture", example: "f/2.8 or f/3.5-5.6", labelled: "f_number_min_label" },
  {
    name: "f_number_max",
    label: "Smallest aperture",
    example: "f/22",
    initial: "f/22",
    labelled: "f_number_max_label",
  },
  { name: "sharpest_f_number", label: "Sharpest aperture", initial: "f/8", labelled: "sharpest_label" },
  { name: "closest_focus_mm", label: "Closest focus", unit: "mm", example: "380" },
  {
    name: "max_magnification",
    label: "Largest magnification",
    unit: ":1",
    example: "not a close-up lens",
    optional: true,
  },
  { name: "pupil_ratio", label: "Pupil ratio", initial: "1" },
  { name: "filter_thread_mm", label: "Filter thread", unit: "mm", example: "77", optional: true },
  { name: "pupil_depth_mm", label: "Rim to entrance pupil", unit: "mm", example: "not known", optional: true },
  { name: "front_mm", label: "Principal plane to front rim", unit: "mm", example: "not known", optional: true },
  { name: "hood_mm", label: "Hood stands out", unit: "mm", example: "no hood", optional: true },
  { name: "hood_clear_mm", label: "Hood opens to", unit: "mm", example: "96", optional: true },
];

export const FILTER_FIELDS: KitField[] = [
  { name: "name", label: "Name", example: "10-stop ND" },
  {
    name: "kind",
    label: "Kind",
    options: OPTIONS.FilterKind,
  },
  { name: "stops", label: "Costs", unit: "stops", example: "10 or ND1000" },
  {
    name: "mount",
    label: "Goes on as",
    options: OPTIONS.Mount,
  },
  { name: "thickness_mm", label: "Stands out", unit: "mm", initial: "5" },
  { name: "stops_max", label: "Turned up, at most", unit: "stops", example: "fixed", optional: true },
  { name: "gradation", label: "If graduated, its edge", options: OPTIONS.Gradation },
];

export const SUPPORT_FIELDS: KitField[] = [
  { name: "name", label: "Name", example: "Tripod, three sections" },
  { name: "height_min_m", label: "Camera from", unit: "m", example: "0.38" },
  { name: "height_max_m", label: "to", unit: "m", example: "1.65" },
  { name: "inverted_min_m", label: "Column inverted from", unit: "m", example: "cannot", optional: true },
];

const FIGURE_UNITS: Record<string, { unit?: string; example: string }> = {
  length_mm: { unit: "mm", example: "20" },
  dioptres: { unit: "dioptres", example: "5" },
  factor: { unit: "×", example: "1.4" },
  shortest_mm: { unit: "mm", example: "40" },
  longest_mm: { unit: "mm", example: "150" },
  travel_mm: { unit: "mm", example: "100" },
  finest_mm: { unit: "mm", example: "0.05" },
  guide_number_m: { unit: "m", example: "24" },
  recycle_s: { unit: "s", example: "3" },
  lux_at_1m: { unit: "lux", example: "300" },
  loss_stops: { unit: "stops", example: "1.5" },
  width_mm: { unit: "mm", example: "297" },
  reflectance: { example: "0.18" },
};

export type AccessoryKind = keyof typeof ACCESSORY_FIGURES;

/** Name and figures of an accessory of a kind. */
export function accessoryFields(kind: AccessoryKind): KitField[] {
  return [
    { name: "name", label: "Name", example: kind },
    ...ACCESSORY_FIGURES[kind].map((name) => {
      const label: string = ACCESSORY_LABELS[name];
      return { name, label: label[0]?.toUpperCase() + label.slice(1), example: "", ...FIGURE_UNITS[name] };
    }),
  ];
}

/** Whole numbers and switches go as such; everything else as typed. */
export function typed(field: KitField | undefined, text: string): unknown {
  if (field?.yes) return text === "yes";
  return field?.whole && /^\d+$/.test(text.trim()) ? Number(text) : text;
}
