import { readdirSync, readFileSync, statSync, writeFileSync } from "node:fs";
import { join, relative } from "node:path";
import { createHash } from "node:crypto";
import { gzipSync } from "node:zlib";
import react from "@vitejs/plugin-react";
import { defineConfig, type Plugin } from "vite";

const dist = join(import.meta.dirname, "dist");

function walk(folder: string): string[] {
  return readdirSync(folder).flatMap((name) => {
    const path = join(folder, name);
    return statSync(path).isDirectory() ? walk(path) : [path];
  });
}

/** The service worker knows which files there are, and is another one when they are. */
function offline(): Plugin {
  return {
    name: "offline",
    apply: "build",
    closeBundle() {
      const files = ["/index.html", ...walk(join(dist, "assets")).map((path) => `/${relative(dist, path)}`).filter((path) => /\.(js|css|woff2)$/.test(path))];
      const mark = createHash("sha256").update(files.sort().join()).digest("hex").slice(0, 12);
      const code = readFileSync(join(import.meta.dirname, "src/offline.js"), "utf8");
      writeFileSync(join(dist, "offline.js"), code.replace("__FILES__", JSON.stringify(files)).replace("__MARK__", mark));
    },
  };
}

/** The server sends files as they lie: compress them once, here. */
function precompress(): Plugin {
  return {
    name: "precompress",
    apply: "build",
    closeBundle() {
      for (const path of walk(dist)) {
        if (/\.(js|css|html|svg)$/.test(path)) writeFileSync(`${path}.gz`, gzipSync(readFileSync(path), { level: 9 }));
      }
    },
  };
}

export default defineConfig({
  plugins: [react(), offline(), precompress()],
  worker: { format: "es" },
  build: { target: "es2022", chunkSizeWarningLimit: 900, assetsInlineLimit: 0 },
  server: { host: "127.0.0.1", proxy: { "/api": "http://127.0.0.1:8710" } },
});
