import type { ClipboardEvent } from "react";

/** The cells of a pasted text: lines by line break, cells by tab. */
export function cellsOf(text: string): string[][] {
  const lines = text.replaceAll("\r\n", "\n").replaceAll("\r", "\n").replace(/\n+$/, "").split("\n");
  return lines.map((line) => line.split("\t"));
}

type Cell = HTMLInputElement | HTMLSelectElement;

const afterDrawing = () => new Promise((done) => setTimeout(done));

/** Types a text into a cell as a hand would: the cell's own reading decides what it comes to. */
async function type(cell: Cell, text: string) {
  if (cell instanceof HTMLSelectElement) {
    const option = [...cell.options].find((one) => one.text.toLowerCase() === text.toLowerCase());
    if (!option) return;
    setNative(cell, HTMLSelectElement.prototype, option.value);
    cell.dispatchEvent(new Event("change", { bubbles: true }));
    return;
  }
  setNative(cell, HTMLInputElement.prototype, text);
  cell.dispatchEvent(new Event("input", { bubbles: true }));
  // What was typed is there once the cell is drawn again; leaving it any sooner would take nothing.
  await afterDrawing();
  cell.dispatchEvent(new FocusEvent("focusout", { bubbles: true }));
}

/** The value set past React's own tracking, so that it notices. */
function setNative(cell: Cell, prototype: object, value: string) {
  Object.getOwnPropertyDescriptor(prototype, "value")?.set?.call(cell, value);
}

/**
 * Paste from a spreadsheet into a table whose rows follow from the design: each pasted cell goes where it falls, and
 * what falls outside is left. One cell alone is the field's own affair.
 */
export function pasteCells(event: ClipboardEvent<HTMLElement>) {
  const cells = cellsOf(event.clipboardData.getData("text"));
  const target = event.target as HTMLElement;
  const row = Number(target.closest<HTMLElement>("[data-row]")?.dataset.row);
  const column = Number(target.closest<HTMLElement>("[data-column]")?.dataset.column);
  if ((cells.length === 1 && cells[0]?.length === 1) || Number.isNaN(row) || Number.isNaN(column)) return;
  event.preventDefault();
  const table = event.currentTarget;
  void typeAll(table, row, column, cells);
}

async function typeAll(table: HTMLElement, row: number, column: number, cells: string[][]) {
  for (const [down, texts] of cells.entries()) {
    for (const [across, text] of texts.entries()) {
      const at = `[data-row="${row + down}"] [data-column="${column + across}"] :is(input, select)`;
      const cell = table.querySelector<Cell>(at);
      if (cell && text.trim() !== "") await type(cell, text.trim());
    }
  }
}

/** A table as text a spreadsheet takes: what its cells say or hold, parted by tabs. */
export function tableText(table: HTMLTableElement): string {
  const said = (cell: Element) => {
    const control = cell.querySelector<Cell>("input, select");
    if (control instanceof HTMLSelectElement) return control.selectedOptions[0]?.text ?? "";
    if (control) return control.value || control.placeholder;
    const copy = cell.cloneNode(true) as Element;
    for (const hidden of copy.querySelectorAll(
      '[aria-hidden="true"], button[aria-label^="Remove"], .sr-only',
    ))
      hidden.remove();
    return (copy.textContent ?? "").replace(/\s+/g, " ").trim();
  };
  return [...table.rows].map((row) => [...row.cells].map(said).join("\t")).join("\n");
}

/** Puts a text on the clipboard; whether it went. A page of plain http has no clipboard of its own, but can still select. */
export async function copied(text: string): Promise<boolean> {
  if (navigator.clipboard) {
    await navigator.clipboard.writeText(text);
    return true;
  }
  const field = document.createElement("textarea");
  field.value = text;
  document.body.append(field);
  field.select();
  const went = document.execCommand("copy");
  field.remove();
  return went;
}
