import type { Load } from "../../api/client";
import { type Dimension, readQuantity, type UnitChoice } from "../../kit/units";

/** The ledger's columns that a person fills, in order. */
export type Column =
  | { field: "name" | "interlock"; label: string; short: string; width: string; kind: "text" }
  | { field: "tier"; label: string; short: string; width: string; kind: "tier" }
  | { field: "quantity"; label: string; short: string; width: string; kind: "number"; dimension: Dimension }
  | {
      field: "receive_a" | "transmit_a" | "transmit_share" | "hours_per_day";
      label: string;
      short: string;
      width: string;
      kind: "known";
      dimension: Dimension;
      optional?: boolean;
    };

export const COLUMNS: Column[] = [
  { field: "name", label: "Load", short: "Load", width: "", kind: "text" },
  { field: "quantity", label: "How many", short: "×", width: "w-10", kind: "number", dimension: "count" },
  {
    field: "receive_a",
    label: "Amps on receive, or while on",
    short: "On, A",
    width: "w-16",
    kind: "known",
    dimension: "amps",
  },
  {
    field: "transmit_a",
    label: "Transmitting, amps",
    short: "Tx, A",
    width: "w-16",
    kind: "known",
    dimension: "amps",
    optional: true,
  },
  {
    field: "transmit_share",
    label: "Transmit % of the time",
    short: "Transmit, %",
    width: "w-16",
    kind: "known",
    dimension: "duty",
  },
  {
    field: "hours_per_day",
    label: "Hours a day",
    short: "h/day",
    width: "w-16",
    kind: "known",
    dimension: "hours",
  },
  { field: "tier", label: "Priority", short: "Priority", width: "w-30", kind: "tier" },
  {
    field: "interlock",
    label: "Not at the same time as (group names, separated by commas)",
    short: "Not with",
    width: "w-24",
    kind: "text",
  },
];

export const MOST_LOADS = 200;
const TIERS = ["vital", "useful", "comfort"] as const;

/** An id no other load has. */
export function freeId(taken: Iterable<string>): string {
  const ids = new Set(taken);
  for (let number = ids.size + 1; ; number++) if (!ids.has(`load-${number}`)) return `load-${number}`;
}

/** The load with one column set from text, or what is wrong with the text. An empty cell leaves it as it is. */
export function withText(
  load: Load,
  column: Column,
  text: string,
  units: UnitChoice,
  atVolts?: number,
): Load | { error: string } {
  if (text.trim() === "") {
    return column.kind === "known" && column.optional ? { ...load, [column.field]: null } : load;
  }
  if (column.kind === "text") return { ...load, [column.field]: text.trim() };
  if (column.kind === "tier") {
    const tier = TIERS.find((item) => item === text.trim().toLowerCase());
    return tier ? { ...load, tier } : { error: `“${text.trim()}” is not Vital, Useful or Nice to have` };
  }
  const read = readQuantity(text, column.dimension, units, atVolts);
  if ("error" in read) return read;
  if (read.value < 0)
    return { error: `${text.trim()} is negative. A current or a time must be zero or more.` };
  return {
    ...load,
    [column.field]: column.kind === "known" ? { value: read.value, basis: "stated" } : read.value,
  };
}

export type Pasted = { loads: Load[] } | { error: string };

/** The ledger with a block of cells laid over it from a row and column on, or the first thing wrong with the block. */
export function pasteInto(
  loads: Load[],
  cells: string[][],
  row: number,
  column: number,
  units: UnitChoice,
  blank: Load,
  voltsOf: (load: Load) => number,
): Pasted {
  if (row + cells.length > MOST_LOADS) {
    return {
      error: `That would be ${row + cells.length} loads, and a design can hold ${MOST_LOADS}. Nothing was pasted.`,
    };
  }
  const result = [...loads];
  for (const [line, words] of cells.entries()) {
    const at = row + line;
    let load = result[at] ?? { ...blank, id: freeId(result.map((item) => item.id)) };
    for (const [offset, word] of words.entries()) {
      const target = COLUMNS[column + offset];
      if (!target)
        return { error: `Line ${line + 1} has more cells than there are columns. Nothing was pasted.` };
      const next = withText(load, target, word, units, voltsOf(load));
      if ("error" in next) {
        return { error: `Line ${line + 1}, ${target.label}: ${next.error}. Nothing was pasted.` };
      }
      load = next;
    }
    result[at] = load;
  }
  return { loads: result };
}
