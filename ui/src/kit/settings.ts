import { useEffect } from "react";
import { create } from "zustand";
import { persist } from "zustand/middleware";
import type { UnitChoice } from "../kit/units";

export type Theme = "daylight" | "lamplight";
type Settings = {
  theme: Theme;
  units: UnitChoice;
  setTheme: (theme: Theme) => void;
  setUnits: (units: UnitChoice) => void;
};

/** What a person chooses once, kept in their browser. The version lets a later shape read this one. */
export const useSettings = create<Settings>()(
  persist(
    (set) => ({
      theme: window.matchMedia?.("(prefers-color-scheme: dark)").matches ? "lamplight" : "daylight",
      units: { length: "metric", temperature: "C" },
      setTheme: (theme) => set({ theme }),
      setUnits: (units) => set({ units }),
    }),
    { name: "yonderstat.settings", version: 1 },
  ),
);

export const useUnits = (): UnitChoice => useSettings((settings) => settings.units);

/** The person's units, as a paper is asked for in them. */
export function useInUnits(): string {
  const { length, temperature } = useUnits();
  return `length=${length}&degrees=${temperature}`;
}

/** Put the theme on the page. */
export function useTheme(): void {
  const theme = useSettings((settings) => settings.theme);
  useEffect(() => {
    document.documentElement.dataset.theme = theme;
  }, [theme]);
}
