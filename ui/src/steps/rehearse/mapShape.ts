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

/** Which of the values along an axis are named: all multiples of a round step, the least that has room for them. */
export function labelled(values: readonly number[], room: number): (index: number) => boolean {
  const least = values[0] ?? 1;
  const most = values.at(-1) ?? 1;
  const fits = (step: number) => {
    const wanted = Math.floor(most / step) - Math.ceil(least / step) + 1;
    return wanted <= room && wanted === values.filter((value) => value % step === 0).length;
  };
  let step = 1;
  for (let power = 1; power <= most && !fits(step); power *= 10)
    step = [power, 2 * power, 5 * power].find(fits) ?? 10 * power;
  return (index) => (values[index] ?? Number.NaN) % step === 0;
}
