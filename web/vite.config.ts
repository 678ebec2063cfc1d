import vue from "@vitejs/plugin-vue";
import { defineConfig } from "vitest/config";

export default defineConfig({
  plugins: [vue()],
  server: { proxy: { "/api": "http://127.0.0.1:4680" } },
  test: { include: ["spec/**/*.spec.ts"] },
  build: {
    chunkSizeWarningLimit: 800,
    sourcemap: false,
    // What changes seldom keeps its name, and the view comes when the desk stands.
    rollupOptions: { output: { manualChunks: { three: ["three"], vue: ["vue", "vue-router", "pinia"] } } },
  },
});
