import type { KeyboardEvent } from "react";

type Cell = HTMLInputElement | HTMLSelectElement;

function cellAt(table: HTMLElement, row: number, column: number): Cell | null {
  return table.querySelector<Cell>(`[data-row="${row}"] [data-column="${column}"] :is(input, select)`);
}

function placeOf(target: EventTarget): { row: number; column: number } | undefined {
  if (!(target instanceof HTMLElement)) return undefined;
  const row = target.closest<HTMLElement>("[data-row]")?.dataset.row;
  const column = target.closest<HTMLElement>("[data-column]")?.dataset.column;
  return row === undefined || column === undefined ? undefined : { row: Number(row), column: Number(column) };
}

function atEdge(cell: EventTarget, key: string): boolean {
  if (!(cell instanceof HTMLInputElement)) return true;
  const { selectionStart: from, selectionEnd: to, value } = cell;
  if (from === 0 && to === value.length) return true;
  return key === "ArrowLeft" ? from === 0 && to === 0 : from === value.length && to === value.length;
}

type Options = {
  rows: number;
  columns: number;
  /** Enter on the last row. */
  onPastEnd: (column: number) => void;
  onFillDown: (row: number, column: number) => void;
  onRemove: (row: number) => void;
};

/** Keys of a table one can work in: Enter and arrows move, Ctrl+D fills down, Ctrl+Delete removes the row. */
export function useGridKeys(options: Options) {
  return (event: KeyboardEvent<HTMLElement>) => {
    const place = placeOf(event.target);
    if (!place) return;
    const table = event.currentTarget;
    const { row, column } = place;
    const select = event.target instanceof HTMLSelectElement;
    const move = (nextRow: number, nextColumn: number) => {
      const cell = cellAt(table, nextRow, nextColumn);
      if (!cell) return;
      event.preventDefault();
      cell.focus();
    };
    if (event.ctrlKey && event.key.toLowerCase() === "d") {
      event.preventDefault();
      options.onFillDown(row, column);
    } else if (event.ctrlKey && event.key === "Delete") {
      event.preventDefault();
      options.onRemove(row);
    } else if (event.key === "Enter" && !select) {
      if (row + 1 < options.rows) move(row + 1, column);
      else options.onPastEnd(column);
    } else if (event.altKey || event.ctrlKey || event.metaKey || select) {
      return;
    } else if (event.key === "ArrowDown") move(row + 1, column);
    else if (event.key === "ArrowUp") move(row - 1, column);
    else if (event.key === "ArrowRight" && atEdge(event.target, event.key)) move(row, column + 1);
    else if (event.key === "ArrowLeft" && atEdge(event.target, event.key)) move(row, column - 1);
  };
}
