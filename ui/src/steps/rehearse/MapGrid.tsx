import { type KeyboardEvent, useState } from "react";
import { useShown } from "../../kit/fields";
import { Wide } from "../../kit/layout";
import type { SizingMap } from "./useMapRun";

const SIZE = 432;
const LEFT = 64;
const BOTTOM = 30;
const CONTOURS = [0.9, 0.95, 0.99];

/** The step line between cells that reach a share and cells that do not. */
function contour(map: SizingMap, share: number, cell: number, y: (row: number) => number): string {
  const first = map.served.map((cells) => {
    const column = cells.findIndex((value) => value >= share);
    return column < 0 ? cells.length : column;
  });
  const parts = first.map((column, row) => {
    const x = LEFT + column * cell;
    const above = first[row + 1];
    const turn = above !== undefined && above !== column ? `M${x} ${y(row)}H${LEFT + above * cell}` : "";
    return `${column < (map.served[row]?.length ?? 0) ? `M${x} ${y(row)}v${cell}` : ""}${turn}`;
  });
  return parts.join("");
}

function Mark({
  x,
  y,
  cell,
  kind,
}: {
  x: number;
  y: number;
  cell: number;
  kind: "here" | "cheapest" | "sum";
}) {
  const middle = { x: x + cell / 2, y: y + cell / 2 };
  if (kind === "here") {
    return <rect x={x} y={y} width={cell} height={cell} fill="none" className="stroke-ink" strokeWidth="2" />;
  }
  if (kind === "cheapest") {
    const half = cell * 0.6;
    return (
      <path
        d={`M${middle.x} ${middle.y - half}l${half} ${half}l${-half} ${half}l${-half} ${-half}z`}
        className="fill-sheet stroke-ink"
        strokeWidth="1.6"
      />
    );
  }
  return (
    <circle cx={middle.x} cy={middle.y} r={cell * 0.45} className="fill-sheet stroke-ink" strokeWidth="1.6" />
  );
}

/** Panels to the right, bank upward; darker serves more; lines where shares are met, hatched where it may not go. */
export function MapGrid({ map }: { map: SizingMap }) {
  const show = useShown();
  const columns = map.watts.length;
  const rows = map.amp_hours.length;
  const cell = SIZE / columns;
  const every = Math.ceil(columns / 6);
  const place = (point: { watts: number; amp_hours: number }) => ({
    column: map.watts.indexOf(point.watts),
    row: map.amp_hours.indexOf(point.amp_hours),
  });
  const [at, setAt] = useState(place(map.here));
  const x = (column: number) => LEFT + column * cell;
  const y = (row: number) => (rows - 1 - row) * cell;
  const walk = (event: KeyboardEvent) => {
    const step = { ArrowUp: [1, 0], ArrowDown: [-1, 0], ArrowLeft: [0, -1], ArrowRight: [0, 1] }[event.key];
    if (!step) return;
    event.preventDefault();
    setAt((now) => ({
      row: Math.min(rows - 1, Math.max(0, now.row + (step[0] ?? 0))),
      column: Math.min(columns - 1, Math.max(0, now.column + (step[1] ?? 0))),
    }));
  };
  const share = map.served[at.row]?.[at.column] ?? 0;
  const cost = map.cost[at.row]?.[at.column] ?? 0;
  const marks = [
    { kind: "here" as const, point: map.here, word: "what you have" },
    { kind: "cheapest" as const, point: map.cheapest, word: "the cheapest that holds" },
    { kind: "sum" as const, point: map.best_for_sum, word: "the best for the sum" },
  ].flatMap((mark) => (mark.point ? [{ ...mark, ...place(mark.point) }] : []));
  const shelf = map.shelf_watts
    ? LEFT +
      (SIZE * Math.log(map.shelf_watts / (map.watts[0] ?? 1))) /
        Math.log((map.watts.at(-1) ?? 1) / (map.watts[0] ?? 1))
    : undefined;
  return (
    <>
      <Wide label="Sizing map">
        <svg
          viewBox={`0 0 ${LEFT + SIZE + 4} ${SIZE + BOTTOM}`}
          className="w-full max-w-[36rem] min-w-[26rem]"
          role="application"
          aria-label={`Sizing map. ${map.sentence} Arrows read it.`}
          // biome-ignore lint/a11y/noNoninteractiveTabindex: the arrows walk the map
          tabIndex={0}
          onKeyDown={walk}
        >
          {map.served.map((cells, row) =>
            cells.map((value, column) => (
              <rect
                key={`${row} ${column}`}
                x={x(column)}
                y={y(row)}
                width={cell - 0.7}
                height={cell - 0.7}
                className={
                  map.allowed[row]?.[column] === false
                    ? "fill-ink2"
                    : value >= map.target
                      ? "fill-good"
                      : "fill-store"
                }
                opacity={
                  map.allowed[row]?.[column] === false
                    ? 0.28
                    : value >= map.target
                      ? 0.55
                      : 0.06 + 0.6 * value ** 3
                }
                onPointerEnter={() => setAt({ row, column })}
              />
            )),
          )}
          {CONTOURS.map((level) => (
            <path
              key={level}
              d={contour(map, level, cell, y)}
              className="stroke-store"
              strokeWidth="1"
              strokeDasharray="3 3"
              fill="none"
            />
          ))}
          <path d={contour(map, map.target, cell, y)} className="stroke-good" strokeWidth="2.5" fill="none" />
          {shelf !== undefined && shelf < LEFT + SIZE && (
            <path d={`M${shelf} 0V${SIZE}`} className="stroke-sun" strokeWidth="1.5" />
          )}
          {marks.map((mark) => (
            <Mark key={mark.kind} kind={mark.kind} x={x(mark.column)} y={y(mark.row)} cell={cell} />
          ))}
          <rect
            x={x(at.column) + 3}
            y={y(at.row) + 3}
            width={cell - 6}
            height={cell - 6}
            fill="none"
            className="stroke-sun"
            strokeWidth="2"
          />
          {map.amp_hours.map((value, row) =>
            row % every === 0 ? (
              <text
                key={value}
                x={LEFT - 6}
                y={y(row) + cell / 2 + 4}
                textAnchor="end"
                className="fill-ink2 text-[11px]"
              >
                {show(value, "A·h")}
              </text>
            ) : null,
          )}
          {map.watts.map((value, column) =>
            column % every === 0 ? (
              <text key={value} x={x(column)} y={SIZE + 16} className="fill-ink2 text-[11px]">
                {show(value, "W")}
              </text>
            ) : null,
          )}
        </svg>
      </Wide>
      <p aria-live="polite">
        {show(map.watts[at.column] ?? 0, "W")} and {show(map.amp_hours[at.row] ?? 0, "A·h")}:{" "}
        {(share * 100).toFixed(share > 0.99 ? 2 : 1)} % {map.share_of},{" "}
        {map.priced ? `${cost.toFixed(0)} ${map.currency}` : `${cost.toFixed(1)} times what you have in all`},
        bank {show(map.kg[at.row] ?? 0, "kg")}
        {map.allowed[at.row]?.[at.column] === false && ", over a limit"}
      </p>
      <p className="mt-1 text-[12px] text-ink2">
        Square:{" "}
        {marks
          .map(
            (mark) =>
              `${mark.kind === "here" ? "" : mark.kind === "cheapest" ? "diamond: " : "circle: "}${mark.word}`,
          )
          .join("; ")}
        . Green holds {map.target * 100} %; dashed lines are 90, 95 and 99 %; grey is too heavy or has no room
        {shelf !== undefined && "; the upright line is with the shelf’s panels"}. {map.years} weather years
        each; controllers and charge limits are taken to grow with panels and bank.
      </p>
    </>
  );
}
