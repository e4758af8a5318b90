import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vitest/config";

export default defineConfig({
  html: { cspNonce: "NONCE-OF-THIS-PAGE" }, // the server puts another in with every page
  plugins: [react(), tailwindcss()],
  resolve: { alias: { "@": new URL("./src", import.meta.url).pathname } },
  build: { outDir: "../src/firstloop/web", emptyOutDir: true, assetsInlineLimit: 0 },
  test: { include: ["tests/**/*.test.ts"] },
  server: { proxy: { "/api": "http://127.0.0.1:8000" } },
});
