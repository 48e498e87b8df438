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
  window: "the set’s volts",
  "nothing fits": "nothing fits",
};

/** What stops a thinner conductor, in a few words more. */
export const BINDS_WHY: Record<string, string> = {
  drop: "a thinner one would lose more than the aim",
  heat: "a thinner one would not carry what its fuse lets through",
  strength: "a thinner one would not be strong enough",
  window: "over a thinner one the set would get too few volts while it transmits",
  "nothing fits": "no size on the list is enough",
};

export const GRADES: Record<string, { word: string; mark: "good" | "mind" | "fix" | "stop" }> = {
  full: { word: "full output", mark: "good" },
  less: { word: "less output", mark: "mind" },
  odd: { word: "odd behaviour", mark: "fix" },
  off: { word: "cuts off", mark: "stop" },
};
