import react from "@vitejs/plugin-react";
import { compression } from "vite-plugin-compression2";
import { VitePWA } from "vite-plugin-pwa";
import { defineConfig } from "vitest/config";

export default defineConfig({
  plugins: [
    react(),
    // Packed when they are built, so that no server has to each time.
    compression({ algorithms: ["brotliCompress", "gzip"], exclude: [/\.html$/] }),
    // The screens are kept on the device, so that the flight clock opens while no server is in reach.
    VitePWA({
      registerType: "autoUpdate",
      manifest: {
        name: "Zealous Lark",
        short_name: "Lark",
        description: "Launch decisions for camera-drone pilots",
        theme_color: "#f8f2e6",
        background_color: "#f8f2e6",
        display: "standalone",
        id: "/",
        icons: [
          { src: "lark.svg", sizes: "any", type: "image/svg+xml" },
          { src: "icon-192.png", sizes: "192x192", type: "image/png" },
          { src: "icon-512.png", sizes: "512x512", type: "image/png" },
          {
            src: "icon-maskable-512.png",
            sizes: "512x512",
            type: "image/png",
            purpose: "maskable",
          },
        ],
        shortcuts: [
          { name: "Today’s session", url: "/next" },
          { name: "Emergency", url: "/next#emergency" },
          { name: "Sessions", url: "/sessions" },
          { name: "Logbook", url: "/logbook" },
        ],
      },
      workbox: {
        globPatterns: ["**/*.{html,js,css,svg,woff2}"],
        maximumFileSizeToCacheInBytes: 6_000_000,
        navigateFallback: "/index.html",
        navigateFallbackDenylist: [/^\/api\//],
        // Pictures are named by what they show: one that is here is never asked for again.
        runtimeCaching: [
          {
            urlPattern: /\/api\/(pictures\/\w+\.jpg|terrains\/\w+\/hillshade\.png)$/,
            handler: "CacheFirst",
            options: { cacheName: "lark-pictures", expiration: { maxEntries: 60 } },
          },
        ],
      },
    }),
  ],
  build: {
    outDir: "../src/zealous_lark/web/static",
    emptyOutDir: true,
    rolldownOptions: {
      output: {
        // What many pages share comes in one piece: a phone waits longer for many small ones than for their bytes.
        // What only drawings need comes with the first drawing, after the verdict.
        codeSplitting: {
          groups: [
            { name: "drawing", test: /node_modules\/d3-/ },
            { name: "shared", minShareCount: 5 },
          ],
        },
      },
    },
  },
  // The guide stands beside the front end.
  server: { proxy: { "/api": "http://127.0.0.1:5870" }, fs: { allow: [".."] } },
  test: { environment: "node", include: ["tests/**/*.test.{ts,tsx}"] },
});
