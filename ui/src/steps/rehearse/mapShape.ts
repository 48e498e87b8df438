import type { SizingMap } from "./useSizingMap";

/** The step line between cells that reach a share and cells that do not. */
export function contour(
  map: SizingMap,
  share: number,
  x: (column: number) => number,
  y: (row: number) => number,
): string {
  const first = map.served.map((cells) => {
    const column = cells.findIndex((value) => value >= share);
    return column < 0 ? cells.length : column;
  });
  const parts = first.map((column, row) => {
    const above = first[row + 1];
    const top = y(row);
    const upright = column < (map.served[row]?.length ?? 0) ? `M${x(column)} ${y(row - 1)}V${top}` : "";
    const turn = above !== undefined && above !== column ? `M${x(column)} ${top}H${x(above)}` : "";
    return `${upright}${turn}`;
  });
  return parts.join("");
}

/** How a cell is painted. */
export function paint(map: SizingMap, row: number, column: number): { className: string; opacity: number } {
  const value = map.served[row]?.[column] ?? 0;
  if (map.allowed[row]?.[column] === false) return { className: "fill-ink2", opacity: 0.28 };
  if (value >= map.target) return { className: "fill-good", opacity: 0.55 };
  return { className: "fill-store", opacity: 0.06 + 0.6 * value ** 3 };
}

/** Where a size lies on the map. */
export function placeOf(map: SizingMap, point: { panels: number; batteries: number }) {
  return { column: map.panels.indexOf(point.panels), row: map.batteries.indexOf(point.batteries) };
}

/** Which of so many labels have room: every n-th, and always the last. */
export function labelled(count: number, room: number): (index: number) => boolean {
  const every = Math.max(1, Math.ceil(count / room));
  return (index) => index === count - 1 || (index % every === 0 && count - 1 - index >= every);
}
