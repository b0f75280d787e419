import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";

export default defineConfig({
  plugins: [react()],
  base: "/static/",
  build: { manifest: true, sourcemap: false, chunkSizeWarningLimit: 2500, assetsInlineLimit: 0 },
  server: { proxy: { "/api": "http://127.0.0.1:8460" } },
});
