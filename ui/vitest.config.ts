import react from "@vitejs/plugin-react";
import { defineConfig } from "vitest/config";

// The interface without a browser: its pure parts, and its seams to the server and to this browser.
export default defineConfig({
  plugins: [react()],
  test: {
    environment: "happy-dom",
    environmentOptions: { happyDOM: { url: "http://127.0.0.1:8734/" } },
    include: ["src/**/*.test.{ts,tsx}"],
    setupFiles: ["./test-setup.ts"],
    restoreMocks: true,
    testTimeout: 60_000,
    // Files share a process: to make a page's surroundings anew for each took most of the time.
    isolate: false,
    onConsoleLog: (log) => {
      throw new Error(`said to the console: ${log}`);
    },
  },
});
