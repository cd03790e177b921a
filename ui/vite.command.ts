import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";

// What the command line draws with: one file for Node, with all that it needs.
export default defineConfig({
  plugins: [react()],
  define: { "process.env.NODE_ENV": '"production"' },
  ssr: { noExternal: true },
  build: {
    ssr: "src/command/drawing.ts",
    outDir: "dist-command",
    emptyOutDir: true,
    rolldownOptions: { output: { entryFileNames: "drawing.mjs" } },
  },
});
