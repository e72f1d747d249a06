import { useCallback, useState } from "react";
import { readDraft, writeDraft } from "./drafts";

/** What a form holds before anything is asked of the server; it survives a reload, and is read with suspicion. */
export function useStored(name: string): [string | undefined, (text: string | undefined) => void] {
  const [text, setText] = useState(() => readDraft(name)?.text);
  const keep = useCallback(
    (next: string | undefined) => {
      setText(next);
      writeDraft(name, next);
    },
    [name],
  );
  return [text, keep];
}

/** The same for several values: what is stored counts only where its kind is that of the initial value. */
export function useStoredValues<T extends object>(
  name: string,
  initial: T,
): [T, (part: Partial<T>) => void, () => void] {
  const [text, setText] = useStored(name);
  const values = { ...initial, ...fitting(text, initial) };
  return [values, (part) => setText(JSON.stringify({ ...values, ...part })), () => setText(undefined)];
}

/** The stored values that are of the same kind as the initial ones. */
export function fitting<T extends object>(text: string | undefined, initial: T): Partial<T> {
  if (!text) return {};
  try {
    const found: unknown = JSON.parse(text);
    if (typeof found !== "object" || found === null || Array.isArray(found)) return {};
    const known = initial as Record<string, unknown>;
    const fits = Object.entries(found).filter(
      ([key, value]) =>
        key in known &&
        (known[key] === null ||
          value === null ||
          (typeof value === typeof known[key] && Array.isArray(value) === Array.isArray(known[key]))),
    );
    return Object.fromEntries(fits) as Partial<T>;
  } catch {
    return {};
  }
}
