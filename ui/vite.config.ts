import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vitest/config";

export default defineConfig({
  plugins: [react(), tailwindcss()],
  server: { proxy: { "/api": { target: "http://127.0.0.1:8470", changeOrigin: true } } },
  build: { target: "es2023", assetsInlineLimit: 0, chunkSizeWarningLimit: 900 },
  test: {
    testTimeout: 30_000,
    environment: "jsdom",
    setupFiles: ["src/test-setup.ts"],
    globals: false,
  },
});
