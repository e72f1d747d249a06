import type { Schemas } from "../api/client";
import { OPTIONS } from "../api/facts";
import { labelOf } from "../lib/format/labels";

/** A log entry with its frames, as the server sends it. */
export type Entry = Schemas["LogEntryOut"];

/** The name of the light of an entry: a band of the day or a kind of light, "" where it is not known. */
export function lightLabel(light: string): string {
  if (!light) return "";
  return labelOf(OPTIONS.Band.some((band) => band.value === light) ? "Band" : "LightKind", light);
}
