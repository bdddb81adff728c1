import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";

export default defineConfig({
  plugins: [react(), tailwindcss()],
  build: {
    outDir: "../src/finebatch/web/static",
    emptyOutDir: true,
    // What a tablet's service worker has at hand.
    manifest: "shell.json",
    // The content security policy allows no inline script.
    modulePreload: { polyfill: false },
    assetsInlineLimit: 0,
  },
});
