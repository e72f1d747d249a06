/** Return whether a key press goes into a text field. */
export function isTyping(event: KeyboardEvent): boolean {
  const target = event.target;
  if (target instanceof HTMLInputElement) return target.type !== "checkbox" && target.type !== "radio";
  return target instanceof HTMLTextAreaElement || target instanceof HTMLSelectElement;
}
