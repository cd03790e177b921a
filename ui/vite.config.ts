import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";

// Two pages: the application, and the API's description. The server puts a nonce into both.
export default defineConfig({
  plugins: [react(), tailwindcss()],
  html: { cspNonce: "%NONCE%" },
  build: {
    assetsInlineLimit: 0,
    chunkSizeWarningLimit: 2000,
    rolldownOptions: { input: { index: "index.html", docs: "docs.html" } },
  },
  server: { proxy: { "/api": "http://127.0.0.1:8734" } },
});
