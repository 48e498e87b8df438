import type { ProposedOperation } from "../api/client";
import type { Edit, Path } from "../api/edits";

function pathOf(pointer: string): (string | number)[] {
  return pointer
    .split("/")
    .slice(1)
    .map((step) => step.replaceAll("~1", "/").replaceAll("~0", "~"))
    .map((step) => (/^\d+$/.test(step) ? Number(step) : step));
}

/** A new row's place: at a number, or at the end. */
function inserted(path: (string | number)[], value: unknown): Edit {
  const rows: Path = path.slice(0, -1);
  const last = path.at(-1);
  return last === "-"
    ? { kind: "insert", path: rows, value }
    : { kind: "insert", path: rows, value, at: Number(last) };
}

function editOf({ op, path: pointer, value }: ProposedOperation): Edit {
  const path = pathOf(pointer);
  const last = path.at(-1);
  switch (op) {
    case "replace":
      return { kind: "set", path, value };
    case "add":
      return typeof last === "number" || last === "-" ? inserted(path, value) : { kind: "set", path, value };
    case "remove":
      return typeof last === "number" ? { kind: "remove", path } : { kind: "set", path, value: null };
  }
}

/** The edits that a proposed patch stands for: each operation as the kind it is. */
export function editsOf(patch: readonly ProposedOperation[]): Edit[] {
  return patch.map(editOf);
}
