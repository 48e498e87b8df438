import type { Edit } from "../api/edits";

type Operation = Record<string, unknown>;

/** The edits that a ready patch stands for. */
export function editsOf(patch: readonly Operation[]): Edit[] {
  return patch.map((operation) => ({
    kind: "set",
    path: String(operation.path)
      .split("/")
      .slice(1)
      .map((step) => (/^\d+$/.test(step) ? Number(step) : step)),
    value: operation.value,
  }));
}
