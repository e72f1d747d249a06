import { applyTheme, storedTheme, THEMES } from "../../theme/themes";
import { Thumb } from "./Thumb";

/** One press from theme to theme: Ember is one touch away when it grows dark. */
export function ThemeTurn() {
  const turn = () => {
    const next = THEMES[(THEMES.indexOf(storedTheme()) + 1) % THEMES.length] ?? "graphite";
    applyTheme(next, true);
  };
  return (
    <Thumb fontSize="body" onClick={turn}>
      Theme
    </Thumb>
  );
}
