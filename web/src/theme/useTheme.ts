import { useEffect, useState } from "react";

/** The name of the theme in force, kept up to date. */
export function useTheme(): string {
  const [theme, setTheme] = useState(() => document.documentElement.dataset.theme ?? "");
  useEffect(() => {
    const watch = new MutationObserver(() => setTheme(document.documentElement.dataset.theme ?? ""));
    watch.observe(document.documentElement, { attributes: true, attributeFilter: ["data-theme"] });
    return () => watch.disconnect();
  }, []);
  return theme;
}

/** The parts of a role's colour, 0 to 1, as it stands in the theme in force. */
export function inkParts(role: string): [number, number, number] {
  const context = document.createElement("canvas").getContext("2d");
  if (!context) return [1, 1, 1];
  context.fillStyle =
    getComputedStyle(document.documentElement).getPropertyValue(`--lr-colors-${role}`).trim() || "#fff";
  context.fillRect(0, 0, 1, 1);
  const [red = 0, green = 0, blue = 0] = context.getImageData(0, 0, 1, 1).data;
  return [red / 255, green / 255, blue / 255];
}
