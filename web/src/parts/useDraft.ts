import { useCallback, useEffect, useState } from "react";

/** Text that has been typed but not accepted yet; it survives a reload. undefined where there is none. */
export function useDraft(key: string): [string | undefined, (text: string | undefined) => void] {
  const name = `draft:${key}`;
  const [draft, setDraft] = useState<string | undefined>(() => read(name));
  useEffect(() => setDraft(read(name)), [name]);
  const keep = useCallback(
    (text: string | undefined) => {
      setDraft(text);
      try {
        if (text === undefined) localStorage.removeItem(name);
        else localStorage.setItem(name, text);
      } catch {
        // Storage may be full or closed; the draft then lives as long as the page.
      }
    },
    [name],
  );
  return [draft, keep];
}

function read(name: string): string | undefined {
  try {
    return localStorage.getItem(name) ?? undefined;
  } catch {
    return undefined;
  }
}
