import { readdirSync, readFileSync, statSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { gzipSync } from "node:zlib";
import react from "@vitejs/plugin-react";
import { defineConfig, type Plugin } from "vite";

/** The server sends files as they lie: compress them once, here. */
function precompress(): Plugin {
  const walk = (folder: string): string[] =>
    readdirSync(folder).flatMap((name) => {
      const path = join(folder, name);
      return statSync(path).isDirectory() ? walk(path) : [path];
    });
  return {
    name: "precompress",
    apply: "build",
    closeBundle() {
      for (const path of walk(join(import.meta.dirname, "dist"))) {
        if (/\.(js|css|html|svg)$/.test(path)) writeFileSync(`${path}.gz`, gzipSync(readFileSync(path), { level: 9 }));
      }
    },
  };
}

export default defineConfig({
  plugins: [react(), precompress()],
  build: { target: "es2022", chunkSizeWarningLimit: 900, assetsInlineLimit: 0 },
  server: { host: "127.0.0.1", proxy: { "/api": "http://127.0.0.1:8710" } },
});
