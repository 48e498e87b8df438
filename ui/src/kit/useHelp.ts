import type { Path } from "../api/edits";
import lines from "./fieldHelp.json";
import { useUnits } from "./settings";
import { type Dimension, fieldText, fieldUnit } from "./units";

type Line = [words: string, low?: number, high?: number];

/** The way to a field, with a star in place of each row. */
export const wayOf = (path: Path) =>
  path.map((step) => (typeof step === "string" && !/^\d+$/.test(step) ? step : "*")).join("/");

/** What a field wants in a line, with the usual range in the person's units; attributes to spread on the control. */
export function useHelp(path: Path, dimension?: Dimension) {
  const units = useUnits();
  const way = wayOf(path);
  // A figure of twelve has the help of the twelve.
  const known = lines as unknown as Record<string, Line>;
  const line = known[way] ?? known[way.replace(/\/\*$/, "")];
  if (!line) return { "data-field": way };
  const [words, low, high] = line;
  const unit = dimension ? fieldUnit(dimension, units) : "";
  const usual =
    dimension && low !== undefined && high !== undefined
      ? `; usually ${fieldText(low, dimension, units)} to ${fieldText(high, dimension, units)}${unit && `\u2009${unit}`}`
      : "";
  const help = `${words}${usual}.`;
  return { "data-field": way, "data-help": help, "aria-description": help };
}
