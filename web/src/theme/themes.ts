/** The three themes as values of the same roles. Surfaces are neutral greys without a tint; Ember has no green or blue at all. */

export const THEMES = ["graphite", "paper", "ember"] as const;
export type Theme = (typeof THEMES)[number];

type Roles = Record<string, string>;

const graphite: Roles = {
  bg: "#1c1c1c",
  panel: "#232323",
  raised: "#2e2e2e",
  line: "#3d3d3d",
  edge: "#787878",
  fg: "#f0f0f0",
  muted: "#b4b4b4",
  accent: "#c6d957",
  onAccent: "#171717",
  rust: "#f58f6c",
  haze: "#a3bfdb",
  sky: "#3a3a3a",
  far: "#565656",
  middle: "#6f6f6f",
  near: "#8c8c8c",
  water: "#474747",
  night: "#141414",
  low: "#353535",
  day: "#4a4a4a",
  lit: "#ffffff",
  shade: "#000000",
  // White of a picture in tones.
  tonal: "#ffffff",
};

const paper: Roles = {
  bg: "#ffffff",
  panel: "#f4f4f4",
  raised: "#e7e7e7",
  line: "#c4c4c4",
  edge: "#6e6e6e",
  fg: "#0b0b0b",
  muted: "#464646",
  accent: "#56650a",
  onAccent: "#ffffff",
  rust: "#a5320c",
  haze: "#2c5278",
  sky: "#eeeeee",
  far: "#cfcfcf",
  middle: "#a8a8a8",
  near: "#7d7d7d",
  water: "#cdcdcd",
  night: "#bdbdbd",
  low: "#e2e2e2",
  day: "#f8f8f8",
  lit: "#ffffff",
  shade: "#1c1c1c",
  tonal: "#ffffff",
};

const ember: Roles = {
  bg: "#000000",
  panel: "#0b0000",
  raised: "#1d0000",
  line: "#4a0000",
  edge: "#c40000",
  fg: "#ff0000",
  muted: "#f00000",
  accent: "#ff0000",
  onAccent: "#000000",
  rust: "#ff0000",
  haze: "#f00000",
  sky: "#120000",
  far: "#340000",
  middle: "#560000",
  near: "#7c0000",
  water: "#220000",
  night: "#000000",
  low: "#1e0000",
  day: "#330000",
  lit: "#ff0000",
  shade: "#000000",
  tonal: "#cc0000",
};

export const ROLES: Record<Theme, Roles> = { graphite, paper, ember };

/** Semantic tokens for the theme module: each role under its three conditions. */
export function semanticColors(): Record<string, { value: Record<string, string> }> {
  return Object.fromEntries(
    Object.keys(graphite).map((role) => [
      role,
      { value: { base: graphite[role] ?? "", _paper: paper[role] ?? "", _ember: ember[role] ?? "" } },
    ]),
  );
}

/** Show a theme at once; the server remembers it, this device's storage bridges the first paint. unsaved: chosen where no server was asked; it goes there with the next page that asks one. */
export function applyTheme(theme: Theme, unsaved = false): void {
  document.documentElement.dataset.theme = theme;
  try {
    localStorage.setItem("theme", theme);
    if (unsaved) localStorage.setItem("theme unsaved", theme);
    else localStorage.removeItem("theme unsaved");
  } catch {
    // Storage may be closed; the theme then holds for this page only.
  }
}

/** Show this device's theme for the first paint; nothing is stored by it. */
export function showStoredTheme(): void {
  document.documentElement.dataset.theme = storedTheme();
}

export function storedTheme(): Theme {
  try {
    const stored = localStorage.getItem("theme");
    return THEMES.find((theme) => theme === stored) ?? "graphite";
  } catch {
    return "graphite";
  }
}

/** The theme chosen on this device that the server does not know yet. */
export function unsavedTheme(): Theme | undefined {
  try {
    const chosen = localStorage.getItem("theme unsaved");
    return THEMES.find((theme) => theme === chosen);
  } catch {
    return undefined;
  }
}
