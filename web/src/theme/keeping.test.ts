import { describe, expect, it } from "vitest";
import { keeping } from "./keeping";
import { buttonRecipe, inputRecipe, made } from "./system";

const kept = keeping(made);
const larger = { base: { minH: "56px", px: "10px" }, variants: { wide: { yes: { width: "100%" } } } };

/** Recipes, their variants, and recipes upon recipes, as both systems work them out: once, and asked again. */
function styles(system: typeof made) {
  const button = system.cva(buttonRecipe);
  const thumb = button.merge(system.cva(larger));
  return [
    button({}),
    button({ look: "main" }),
    system.cva(inputRecipe)({}),
    thumb({}),
    thumb({ look: "quiet", wide: "yes" }),
    button.merge(system.cva(inputRecipe))({}),
    system.cva({})({}),
    system.css({ color: "fg", px: { base: "4px", lg: "8px" }, _hover: { bg: "accent" } }),
    system.css({ color: "fg" }, { color: "muted" }),
    ["color", "px", "_hover", "href", "onClick", "css"].map((name) => system.isValidProperty(name)),
  ];
}

describe("what is kept", () => {
  it("is what the library works out, the first time and after", () => {
    const plain = JSON.stringify(styles(made));
    expect(JSON.stringify(styles(kept))).toBe(plain);
    expect(JSON.stringify(styles(kept))).toBe(plain);
    // A button that was made larger is still a button.
    const thumb = kept.cva(buttonRecipe).merge(kept.cva(larger));
    expect(JSON.stringify(thumb({}))).toContain("cursor");
    expect(JSON.stringify(thumb({}))).toContain("56px");
  });

  it("is the same recipe each time, so that nothing is worked out for it again", () => {
    expect(kept.cva(buttonRecipe)).toBe(kept.cva(buttonRecipe));
    const over = kept.cva(larger);
    expect(kept.cva(buttonRecipe).merge(over)).toBe(kept.cva(buttonRecipe).merge(over));
  });
});
