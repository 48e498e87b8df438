import type { Path } from "../../api/edits";
import type { components } from "../../api/schema";

export type RunFigures = components["schemas"]["RunFigures"];
export type BusRun = components["schemas"]["BusRun"];
export type LoadAtBus = components["schemas"]["LoadAtBus"];

/** The way to a run's row; the first thing typed of a run that is proposed puts its row in. */
export const runPath = (id: string): Path => ["bus", "runs", { id, orNew: { id } }];

export const BINDS: Record<string, string> = {
  drop: "drop",
  heat: "heat",
  strength: "strength",
  window: "the radio’s volts",
  nothing: "no size is enough",
};

export const GRADES: Record<string, { word: string; mark: "good" | "mind" | "fix" | "stop" }> = {
  full: { word: "full output", mark: "good" },
  less: { word: "reduced output", mark: "mind" },
  odd: { word: "distorts or resets", mark: "fix" },
  off: { word: "switches off", mark: "stop" },
};
