import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";
import { markdownPages } from "./markdown-pages.ts";

// The application, two pages of docs/, and the API's description. The server puts a nonce into each.
export default defineConfig({
  plugins: [react(), tailwindcss(), markdownPages()],
  html: { cspNonce: "%NONCE%" },
  build: {
    assetsInlineLimit: 0,
    chunkSizeWarningLimit: 2000,
    rolldownOptions: {
      input: {
        index: "index.html",
        docs: "docs.html",
        method: "method.html",
        glossary: "glossary.html",
      },
    },
  },
  server: { proxy: { "/api": "http://127.0.0.1:8734" } },
});
