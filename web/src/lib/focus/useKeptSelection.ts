import { useLayoutEffect, useRef } from "react";

/**
 * A text that was wholly selected, to be typed over, stays so when the value in force changes under it; else what is typed
 * next would be appended to a value that came a moment before. text: what stands in the box; typing: the person has begun to type.
 */
export function useKeptSelection(text: string, typing: boolean) {
  const ref = useRef<HTMLInputElement>(null);
  const whole = useRef(false);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another text is what collapses the selection
  useLayoutEffect(() => {
    if (typing) whole.current = false;
    const box = ref.current;
    if (box && whole.current && document.activeElement === box) box.select();
  }, [text, typing]);
  const look = () => {
    const box = ref.current;
    whole.current =
      box !== null && box.value !== "" && box.selectionStart === 0 && box.selectionEnd === box.value.length;
  };
  return { ref, onSelect: look };
}
