import babel from "@rolldown/plugin-babel";
import react, { reactCompilerPreset } from "@vitejs/plugin-react";
import { defineConfig } from "vitest/config";

export default defineConfig({
  // what a component works out and draws is kept until what it reads has changed
  plugins: [react(), babel({ presets: [reactCompilerPreset()] })],
  base: "/static/",
  build: { manifest: true, sourcemap: false, chunkSizeWarningLimit: 2500, assetsInlineLimit: 0 },
  // test files share what they import: half the time
  test: { isolate: false },
  server: { proxy: { "/api": "http://127.0.0.1:8460" } },
});
