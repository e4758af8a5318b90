import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { VitePWA } from "vite-plugin-pwa";
import { defineConfig } from "vitest/config";

export default defineConfig({
  html: { cspNonce: "NONCE-OF-THIS-PAGE" }, // the server puts another in with every page
  plugins: [
    react(),
    tailwindcss(),
    // a child's tablet keeps its page, and opens it without a network; the teacher's pages are never kept
    VitePWA({
      injectRegister: null,
      strategies: "generateSW",
      filename: "sw.js",
      manifestFilename: "tablet.webmanifest",
      manifest: {
        name: "First Loop, a child’s tablet",
        short_name: "First Loop",
        start_url: "/tablet",
        scope: "/tablet",
        display: "standalone",
        background_color: "#fcf9f2",
        theme_color: "#fcf9f2",
        icons: [{ src: "/icon.svg", sizes: "any", type: "image/svg+xml" }],
      },
      workbox: {
        globPatterns: ["index.html", "assets/*.{js,css,woff2}", "icon.svg"],
        navigateFallback: "/index.html",
        navigateFallbackAllowlist: [/^\/tablet/],
        cleanupOutdatedCaches: true,
        clientsClaim: true,
        skipWaiting: true,
        inlineWorkboxRuntime: true,
        sourcemap: false,
      },
    }),
  ],
  resolve: { alias: { "@": new URL("./src", import.meta.url).pathname } },
  build: { outDir: "../src/firstloop/web", emptyOutDir: true, assetsInlineLimit: 0 },
  test: { include: ["tests/**/*.test.ts"] },
  server: { proxy: { "/api": "http://127.0.0.1:8000" } },
});
