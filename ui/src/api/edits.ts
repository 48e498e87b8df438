import type { PatchOperation } from "./client";

/**
 * A way into the document. Rows are named by id, so that an edit still hits its row after others moved. A row that may
 * not be there yet brings what it starts from: the first edit of it puts it in.
 */
export type Step = string | number | { id: string; orNew?: object };
export type Path = readonly Step[];

/** One change a person made. */
export type Edit =
  | { kind: "set"; path: Path; value: unknown }
  | { kind: "insert"; path: Path; value: unknown; at?: number }
  | { kind: "remove"; path: Path };

/** The row an edit is about is gone: somebody removed it meanwhile. */
export class RowGone extends Error {}

function indexOf(rows: unknown, id: string): number {
  const index = Array.isArray(rows) ? rows.findIndex((row) => row?.id === id) : -1;
  if (index < 0) throw new RowGone(`the row “${id}” has been removed meanwhile`);
  return index;
}

function child(node: unknown, step: Step, orNothing = false): unknown {
  if (typeof step === "object" && orNothing)
    return (node as { id?: string }[]).find((row) => row.id === step.id);
  if (typeof step === "object") return (node as unknown[])[indexOf(node, step.id)];
  return (node as Record<string, unknown> | null | undefined)?.[step as string];
}

/** A value put at a place within another, which is left as it is. */
function within(node: unknown, path: Path, value: unknown): unknown {
  const [first, ...rest] = path;
  if (first === undefined) return value;
  const copy = { ...(node as Record<string, unknown> | null | undefined) };
  copy[first as string] = within(copy[first as string], rest, value);
  return copy;
}

/** The edit as one that puts a row in, where it would set something of a row that is not there yet. */
function asInsert(document: unknown, edit: Edit): Edit {
  if (edit.kind !== "set") return edit;
  const at = edit.path.findIndex((step) => typeof step === "object" && step.orNew !== undefined);
  const step = edit.path[at];
  if (typeof step !== "object" || valueAt(document, edit.path.slice(0, at + 1)) !== undefined) return edit;
  const value = within({ ...step.orNew, id: step.id }, edit.path.slice(at + 1), edit.value);
  return { kind: "insert", path: edit.path.slice(0, at), value };
}

/** The value at a path, undefined where the document has no such place. */
export function valueAt(document: unknown, path: Path): unknown {
  try {
    return path.reduce<unknown>((node, step) => child(node, step), document);
  } catch (error) {
    if (error instanceof RowGone) return undefined;
    throw error;
  }
}

/** The JSON pointer of a path in this document. */
export function pointerOf(document: unknown, path: Path): string {
  let node = document;
  let pointer = "";
  for (const step of path) {
    const isNew = typeof step === "object" && step.orNew && child(node, step, true) === undefined;
    const name = isNew
      ? (node as unknown[]).length
      : typeof step === "object"
        ? indexOf(node, step.id)
        : step;
    pointer += `/${String(name).replaceAll("~", "~0").replaceAll("/", "~1")}`;
    node = isNew ? step.orNew : child(node, step);
  }
  return pointer;
}

/** The JSON Patch operations of an edit on this document. */
export function toPatch(document: unknown, asked: Edit): PatchOperation[] {
  const edit = asInsert(document, asked);
  const path = pointerOf(document, edit.path);
  switch (edit.kind) {
    case "set":
      return [{ op: "replace", path, value: edit.value }];
    case "insert":
      return [{ op: "add", path: `${path}/${edit.at ?? "-"}`, value: edit.value }];
    case "remove":
      return [{ op: "remove", path }];
  }
}

/** The document with an edit done; the one given is left as it is. */
export function applied<T>(document: T, asked: Edit): T {
  const edit = asInsert(document, asked);
  const copy = structuredClone(document);
  if (edit.kind === "insert") {
    const rows = valueAt(copy, edit.path) as unknown[];
    rows.splice(edit.at ?? rows.length, 0, structuredClone(edit.value));
    return copy;
  }
  const parent = valueAt(copy, edit.path.slice(0, -1)) as Record<string | number, unknown>;
  const last = edit.path.at(-1) as Step;
  if (edit.kind === "set") {
    parent[typeof last === "object" ? indexOf(parent, last.id) : last] = structuredClone(edit.value);
  } else {
    const rows = parent as unknown as unknown[];
    rows.splice(typeof last === "object" ? indexOf(rows, last.id) : Number(last), 1);
  }
  return copy;
}

/** Whether two windows set the same field to different values since both read `base`. */
export function collides(base: unknown, theirs: unknown, edit: Edit): boolean {
  if (edit.kind !== "set") return false;
  const text = (document: unknown) => JSON.stringify(valueAt(document, edit.path));
  return text(base) !== text(theirs) && text(theirs) !== JSON.stringify(edit.value);
}
