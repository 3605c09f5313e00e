import react from "@vitejs/plugin-react";
import { defineConfig } from "vitest/config";

export default defineConfig({
  plugins: [react()],
  build: {
    outDir: "../src/zealous_lark/web/static",
    emptyOutDir: true,
    // One screen application served from this machine: splitting would only add round trips.
    chunkSizeWarningLimit: 1200,
  },
  server: { proxy: { "/api": "http://127.0.0.1:5870" } },
  test: { environment: "node", include: ["tests/**/*.test.{ts,tsx}"] },
});
