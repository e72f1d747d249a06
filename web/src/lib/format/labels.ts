import { OPTIONS } from "../../api/facts";

/** Return what a named value of the core is called on a screen; OPTIONS has every label. */
export function labelOf(kind: keyof typeof OPTIONS, value: string): string {
  const options: readonly { value: string; label: string }[] = OPTIONS[kind];
  return options.find((option) => option.value === value)?.label ?? value.replaceAll("_", " ");
}
