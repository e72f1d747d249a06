import { OPTIONS } from "../../api/facts";

/** Return the display name of a named value of the core; OPTIONS has every label. */
export function labelOf(kind: keyof typeof OPTIONS, value: string): string {
  const options: readonly { value: string; label: string }[] = OPTIONS[kind];
  return options.find((option) => option.value === value)?.label ?? value.replaceAll("_", " ");
}
