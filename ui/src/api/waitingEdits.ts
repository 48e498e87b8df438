/** Edits the server has not taken yet, kept where closing the page does not lose them. */
import { type Edit, valueAt } from "./edits";

/** An edit, and what stood in its place when it was made. */
export type Kept = { edit: Edit; was: unknown };

const VERSION = 1;
const keyOf = (designId: string) => `yonderstat.waiting.${designId}`;

/** Keep what waits; nothing waiting keeps nothing. Where the browser keeps nothing at all, the page itself still does. */
export function keepWaiting(designId: string, base: unknown, edits: readonly Edit[]): void {
  try {
    if (edits.length === 0) {
      localStorage.removeItem(keyOf(designId));
      return;
    }
    const kept = edits.map((edit): Kept => ({ edit, was: valueAt(base, edit.path) ?? null }));
    localStorage.setItem(keyOf(designId), JSON.stringify({ version: VERSION, kept }));
  } catch (error) {
    if (!(error instanceof DOMException)) throw error;
  }
}

/** What was kept when the page was last closed. */
export function keptWaiting(designId: string): Kept[] {
  const text = localStorage.getItem(keyOf(designId));
  if (text === null) return [];
  try {
    const found = JSON.parse(text) as { version?: number; kept?: Kept[] };
    return found.version === VERSION && Array.isArray(found.kept) ? found.kept : [];
  } catch (error) {
    if (error instanceof SyntaxError) return [];
    throw error;
  }
}

const same = (one: unknown, other: unknown) => JSON.stringify(one ?? null) === JSON.stringify(other ?? null);

/** Which of them are still to be made on the document as it is now, and which somebody's later edit stands against. */
export function sorted(document: unknown, kept: readonly Kept[]): { due: Edit[]; against: Edit[] } {
  const due: Edit[] = [];
  const against: Edit[] = [];
  for (const { edit, was } of kept) {
    const now = valueAt(document, edit.path);
    if (edit.kind === "set") {
      if (same(now, edit.value)) continue;
      (same(now, was) ? due : against).push(edit);
    } else if (edit.kind === "insert") {
      const id = (edit.value as { id?: string }).id;
      const there = Array.isArray(now) && id !== undefined && now.some((row) => row?.id === id);
      if (!there && Array.isArray(now)) due.push(edit);
    } else if (now !== undefined) due.push(edit);
  }
  return { due, against };
}
