import { useEffect } from "react";

/** Name the page in the browser's title: what it shows first. */
export function useTitle(...parts: (string | undefined)[]): void {
  const title = [...parts.filter(Boolean), "Lucid Ridge"].join(" · ");
  useEffect(() => {
    document.title = title;
  }, [title]);
}
