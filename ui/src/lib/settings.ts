import { create } from "zustand";
import { persist } from "zustand/middleware";

export type Theme = "system" | "light" | "dark";

interface Settings {
  theme: Theme;
  temperature: "C" | "F";
  /** Whether keys without Ctrl do something. */
  letterKeys: boolean;
  /** Height of the drawing on the Plan at most, as a share of the window's. */
  drawingShare: number;
  drawingFolded: boolean;
  set: (part: Partial<Omit<Settings, "set">>) => void;
}

/** How a person likes to see things; kept in this browser, never in a design. */
export const useSettings = create<Settings>()(
  persist(
    (set) => ({
      theme: "system",
      temperature: "C",
      letterKeys: true,
      drawingShare: 0.55,
      drawingFolded: false,
      set: (part) => set(part),
    }),
    { name: "gravel-jar-settings" },
  ),
);

/** Put the theme on the page, and follow the system's while it is to be followed. */
export function followTheme(): void {
  const dark = window.matchMedia("(prefers-color-scheme: dark)");
  const put = () => {
    const { theme } = useSettings.getState();
    const name = theme === "system" ? (dark.matches ? "dark" : "light") : theme;
    document.documentElement.dataset.theme = name;
  };
  put();
  dark.addEventListener("change", put);
  useSettings.subscribe(put);
}
