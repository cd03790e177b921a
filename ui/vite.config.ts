import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";
import { methodPage } from "./method-page.ts";

// Three pages: the application, the method, and the API's description. The server puts a nonce into both.
export default defineConfig({
  plugins: [react(), tailwindcss(), methodPage()],
  html: { cspNonce: "%NONCE%" },
  build: {
    assetsInlineLimit: 0,
    chunkSizeWarningLimit: 2000,
    rolldownOptions: { input: { index: "index.html", docs: "docs.html", method: "method.html" } },
  },
  server: { proxy: { "/api": "http://127.0.0.1:8734" } },
});
