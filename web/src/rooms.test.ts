import { readdirSync, readFileSync, statSync } from "node:fs";
import { dirname, join, normalize, relative } from "node:path";
import { expect, test } from "vitest";

const SOURCE = import.meta.dirname;
/** Rooms that know nothing of the job; each may import only those before it. */
const GENERAL = ["api", "theme", "lib", "ui", "drawing", "dials"];

function sources(folder: string): string[] {
  return readdirSync(folder).flatMap((name) => {
    const path = join(folder, name);
    if (statSync(path).isDirectory()) return sources(path);
    return /\.tsx?$/.test(name) && !/\.test\.tsx?$|\.d\.ts$/.test(name) ? [path] : [];
  });
}

const files = new Set(sources(SOURCE));

function imports(path: string): string[] {
  const found = [...readFileSync(path, "utf8").matchAll(/(?:from|import|import\(|URL\()\s*"(\.{1,2}\/[^"]+)"/g)];
  return found.flatMap(([, name = ""]) => {
    const target = normalize(join(dirname(path), name));
    return [target, `${target}.ts`, `${target}.tsx`].filter((each) => files.has(each));
  });
}

const graph = new Map([...files].map((path) => [path, imports(path)]));

test("no file imports itself by a detour", () => {
  const left = new Map(graph);
  expect([...graph.values()].flat().length).toBeGreaterThan(500);
  for (;;) {
    const free = [...left].filter(([, targets]) => !targets.some((target) => left.has(target)));
    if (free.length === 0) break;
    for (const [path] of free) left.delete(path);
  }
  expect([...left.keys()].map((path) => relative(SOURCE, path))).toEqual([]);
});

test("general rooms import only those before them", () => {
  const room = (path: string) => relative(SOURCE, path).split("/")[0] ?? "";
  const wrong = [...graph].flatMap(([path, targets]) => {
    const at = GENERAL.indexOf(room(path));
    return at < 0
      ? []
      : targets
          .filter((target) => !GENERAL.slice(0, at + 1).includes(room(target)))
          .map((target) => `${relative(SOURCE, path)} → ${relative(SOURCE, target)}`);
  });
  expect(wrong).toEqual([]);
});
