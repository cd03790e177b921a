import { create } from "zustand";
import { persist } from "zustand/middleware";

export type Theme = "system" | "light" | "dark";

/** Where somebody builds: asked as a design begins, kept for the next. */
export interface HomeRegion {
  ac_volts: number;
  ac_hz: 50 | 60;
  place: "vehicle" | "boat" | "building" | "box";
  sizes: "metric" | "AWG";
}

interface Settings {
  region: HomeRegion;
  theme: Theme;
  temperature: "C" | "F";
  lengths: "m" | "ft";
  /** What stands before a price; nothing in one's own money unsaid. */
  currency: string;
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
      region: { ac_volts: 230, ac_hz: 50, place: "vehicle", sizes: "metric" },
      theme: "system",
      temperature: "C",
      lengths: "m",
      currency: "",
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
