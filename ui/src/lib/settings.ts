import { create } from "zustand";
import { persist } from "zustand/middleware";

export type Theme = "system" | "light" | "dark";

interface Settings {
  theme: Theme;
  temperature: "C" | "F";
  set: (part: Partial<Pick<Settings, "theme" | "temperature">>) => void;
}

/** How a person likes to see things; kept in this browser, never in a design. */
export const useSettings = create<Settings>()(
  persist((set) => ({ theme: "system", temperature: "C", set: (part) => set(part) }), {
    name: "gravel-jar-settings",
  }),
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
