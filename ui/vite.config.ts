import { readdirSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { brotliCompressSync, gzipSync } from "node:zlib";
import vue from "@vitejs/plugin-vue";
import { defineConfig, type Plugin } from "vite";
import vuetify from "vite-plugin-vuetify";

const out = "../web/site/app";

/** Writes .br and .gz beside every text file, so that the program serves them as they are. */
function packed(): Plugin {
  return {
    name: "packed",
    apply: "build",
    closeBundle() {
      for (const entry of readdirSync(out, { recursive: true, encoding: "utf8" })) {
        if (!/\.(js|css|html|svg)$/.test(entry)) continue;
        const body = readFileSync(join(out, entry));
        writeFileSync(join(out, `${entry}.br`), brotliCompressSync(body));
        writeFileSync(join(out, `${entry}.gz`), gzipSync(body, { level: 9 }));
      }
    },
  };
}

export default defineConfig({
  plugins: [vue(), vuetify({ autoImport: true, styles: true }), packed()],
  build: { outDir: out, emptyOutDir: true, assetsInlineLimit: 0, chunkSizeWarningLimit: 700 },
  server: { proxy: { "/api": "http://127.0.0.1:8080" } },
});
