import { useLayoutEffect } from "react";

/** Have the page follow rules of style for as long as a part stands in it: set by script, since no style may stand in a page. */
export function useSheet(rules: string): void {
  useLayoutEffect(() => {
    const sheet = new CSSStyleSheet();
    sheet.replaceSync(rules);
    document.adoptedStyleSheets = [...document.adoptedStyleSheets, sheet];
    return () => {
      document.adoptedStyleSheets = document.adoptedStyleSheets.filter((one) => one !== sheet);
    };
  }, [rules]);
}
