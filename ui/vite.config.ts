import { readdirSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { brotliCompressSync, gzipSync } from "node:zlib";
import vue from "@vitejs/plugin-vue";
import { createHash } from "node:crypto";
import { build, defineConfig, type Plugin } from "vite";
import vuetify from "vite-plugin-vuetify";
import en from "./src/words/en";
import refusals from "./src/words/refusals.json";
import { catalogue, wording } from "./words";

const out = "../web/site/app";

/** Builds the service worker, with the list of all that it keeps; what has a hash in its name needs no revision. */
function worker(): Plugin {
  return {
    name: "worker",
    apply: "build",
    async closeBundle() {
      const files = readdirSync(out, { recursive: true, encoding: "utf8" })
        .filter((name) => /\.(js|css|html|svg|png|woff2|webmanifest)$/.test(name) && name !== "worker.js")
        .sort()
        .map((name) => ({
          url: `/${name}`,
          revision: name.startsWith("assets/")
            ? null
            : createHash("sha256")
                .update(readFileSync(join(out, name)))
                .digest("hex")
                .slice(0, 16),
        }));
      await build({
        configFile: false,
        logLevel: "warn",
        publicDir: false,
        define: { FILES: JSON.stringify(files), "process.env.NODE_ENV": '"production"' },
        build: {
          outDir: out,
          emptyOutDir: false,
          copyPublicDir: false,
          lib: { entry: "src/worker.ts", formats: ["iife"], name: "worker", fileName: () => "worker.js" },
        },
      });
    },
  };
}

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
  plugins: [
    vue({ template: { compilerOptions: { nodeTransforms: [wording] } } }),
    vuetify({ autoImport: true, styles: true }),
    catalogue("words.json", en, refusals),
    worker(),
    packed(),
  ],
  build: { outDir: out, emptyOutDir: true, assetsInlineLimit: 0, chunkSizeWarningLimit: 700 },
  server: { proxy: { "/api": "http://127.0.0.1:8080" } },
});
