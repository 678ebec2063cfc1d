import vue from "@vitejs/plugin-vue";
import { defineConfig } from "vite";

export default defineConfig({
  plugins: [vue()],
  server: { proxy: { "/api": "http://127.0.0.1:4680" } },
  build: { chunkSizeWarningLimit: 1600, sourcemap: false },
});
