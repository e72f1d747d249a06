import { readFileSync, renameSync, rmdirSync } from "node:fs";
import { join } from "node:path";
import react from "@vitejs/plugin-react";
import { defineConfig, type Plugin } from "vite";
import { viteSingleFile } from "vite-plugin-singlefile";

/** The letters that are read here; a file that is taken along has no room for those of other scripts. */
function fewerFonts(): Plugin {
  return {
    name: "fewer-fonts",
    enforce: "pre",
    transform(code, id) {
      if (!/fontsource.*\.css/.test(id)) return null;
      return code.replace(/@font-face\s*\{[^}]*\}/g, (face) => (/(cyrillic|greek|vietnamese|latin-ext)[\w-]*\.woff2/.test(face) ? "" : face));
    },
  };
}

/** Beside the application's own files, under a name of its own; the page must hold everything. */
function alone(): Plugin {
  const dist = join(import.meta.dirname, "dist");
  return {
    name: "alone",
    apply: "build",
    writeBundle() {
      const made = join(dist, "alone", "index.html");
      const page = readFileSync(made, "utf8");
      if (/<(script|link)[^>]+(src|href)="(?!data:)/.test(page)) throw new Error("The file that is taken along names another file.");
      renameSync(made, join(dist, "takealong.html"));
      rmdirSync(join(dist, "alone"));
    },
  };
}

/** The runner with its code, fonts and drawings in one file, into which the server writes the cards. */
export default defineConfig({
  root: join(import.meta.dirname, "takealong"),
  publicDir: false,
  plugins: [fewerFonts(), react(), viteSingleFile({ removeViteModuleLoader: true }), alone()],
  build: {
    target: "es2022",
    outDir: join(import.meta.dirname, "dist", "alone"),
    emptyOutDir: true,
    assetsInlineLimit: 10_000_000,
    chunkSizeWarningLimit: 3000,
  },
});
