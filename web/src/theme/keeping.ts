import type { SystemContext } from "@chakra-ui/react";

type Recipe = ReturnType<SystemContext["cva"]>;
type Config = Parameters<SystemContext["cva"]>[0];

const MOST_STYLES = 5000;
const PLAIN = {};

/**
 * The same system, whose answers are kept. For every box that is drawn it is asked for a recipe, for what is a style, and for the
 * rules that follow; by itself it works all three out again each time, which takes longer than drawing.
 */
export function keeping(system: SystemContext): SystemContext {
  const recipes = new WeakMap<object, Recipe>();
  const known = new Map<string, boolean>();
  const rules = new Map<string, ReturnType<SystemContext["css"]>>();

  const cva = ((config: Config = PLAIN) => {
    const found = recipes.get(config);
    if (found) return found;
    const made = system.cva(config);
    const merged = new WeakMap<object, Recipe>();
    // It merges what it is called on.
    const merge = made.merge.bind(made);
    made.merge = ((other: Recipe) => {
      const both = merged.get(other) ?? merge(other);
      merged.set(other, both as Recipe);
      return both;
    }) as typeof made.merge;
    recipes.set(config, made);
    return made;
  }) as SystemContext["cva"];

  const isValidProperty = (name: string) => {
    const found = known.get(name);
    if (found !== undefined) return found;
    const is = system.isValidProperty(name);
    known.set(name, is);
    return is;
  };

  const css: SystemContext["css"] = (...styles) => {
    const key = JSON.stringify(styles);
    const found = rules.get(key);
    if (found) return found;
    if (rules.size >= MOST_STYLES) rules.clear();
    const made = system.css(...styles);
    rules.set(key, made);
    return made;
  };

  return { ...system, cva, isValidProperty, css };
}
