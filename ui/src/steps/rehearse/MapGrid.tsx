import { type KeyboardEvent, useState } from "react";
import { useShown } from "../../kit/fields";
import { Wide } from "../../kit/layout";
import { contour, labelled, paint, placeOf } from "./mapShape";
import type { SizingMap } from "./useSizingMap";

const SIZE = 432;
const LEFT = 84;
const BOTTOM = 48;
const CONTOURS = [0.9, 0.95, 0.99];
const LABELS = 8;

function Mark({
  x,
  y,
  wide,
  tall,
  kind,
}: {
  x: number;
  y: number;
  wide: number;
  tall: number;
  kind: "here" | "cheapest" | "sum";
}) {
  const middle = { x: x + wide / 2, y: y + tall / 2 };
  const half = Math.min(wide, tall) * 0.36;
  if (kind === "here") {
    return <rect x={x} y={y} width={wide} height={tall} fill="none" className="stroke-ink" strokeWidth="2" />;
  }
  if (kind === "cheapest") {
    return (
      <path
        d={`M${middle.x} ${middle.y - half}l${half} ${half}l${-half} ${half}l${-half} ${-half}z`}
        className="fill-sheet stroke-ink"
        strokeWidth="1.6"
      />
    );
  }
  return <circle cx={middle.x} cy={middle.y} r={half} className="fill-sheet stroke-ink" strokeWidth="1.6" />;
}

/** Panels to the right, bank upward; darker serves more; lines where shares are met, hatched where it may not go. */
export function MapGrid({ map }: { map: SizingMap }) {
  const show = useShown();
  const columns = map.panels.length;
  const rows = map.batteries.length;
  const wide = SIZE / columns;
  const tall = SIZE / rows;
  const [at, setAt] = useState(placeOf(map, map.here));
  const x = (column: number) => LEFT + column * wide;
  const y = (row: number) => (rows - 1 - row) * tall;
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
    { kind: "cheapest" as const, point: map.cheapest, word: "the cheapest that is enough" },
    { kind: "sum" as const, point: map.best_for_sum, word: "the best for your budget" },
  ].flatMap((mark) => (mark.point ? [{ ...mark, ...placeOf(map, mark.point) }] : []));
  const beyond = map.watts.findIndex((watts) => map.shelf_watts !== null && watts > map.shelf_watts);
  const shelf = map.shelf_watts !== null && beyond > 0 ? x(beyond) : undefined;
  const [columnLabel, rowLabel] = [labelled(map.panels, LABELS), labelled(map.batteries, LABELS)];
  return (
    <>
      <Wide picture label="Sizing map">
        <svg
          viewBox={`0 0 ${LEFT + SIZE + 16} ${SIZE + BOTTOM}`}
          className="w-full max-w-[36rem] min-w-[26rem]"
          role="application"
          aria-label={`Sizing map. ${map.sentence} Use the arrow keys to read it.`}
          // biome-ignore lint/a11y/noNoninteractiveTabindex: the arrows walk the map
          tabIndex={0}
          onKeyDown={walk}
        >
          {map.served.map((cells, row) =>
            cells.map((_, column) => (
              <rect
                key={`${map.batteries[row]} ${map.panels[column]}`}
                x={x(column)}
                y={y(row)}
                width={wide - 0.7}
                height={tall - 0.7}
                {...paint(map, row, column)}
                onPointerEnter={() => setAt({ row, column })}
              />
            )),
          )}
          {CONTOURS.map((level) => (
            <path
              key={level}
              d={contour(map, level, x, y)}
              className="stroke-store"
              strokeWidth="1"
              strokeDasharray="3 3"
              fill="none"
            />
          ))}
          <path d={contour(map, map.target, x, y)} className="stroke-good" strokeWidth="2.5" fill="none" />
          {shelf !== undefined && <path d={`M${shelf} 0V${SIZE}`} className="stroke-sun" strokeWidth="1.5" />}
          {marks.map((mark) => (
            <Mark
              key={mark.kind}
              kind={mark.kind}
              x={x(mark.column)}
              y={y(mark.row)}
              wide={wide}
              tall={tall}
            />
          ))}
          <rect
            x={x(at.column) + 3}
            y={y(at.row) + 3}
            width={wide - 6}
            height={tall - 6}
            fill="none"
            className="stroke-sun"
            strokeWidth="2"
          />
          {map.batteries.map((count, row) =>
            rowLabel(row) ? (
              <text
                key={count}
                x={LEFT - 6}
                y={y(row) + tall / 2 + 4}
                textAnchor="end"
                className="text-[11px]"
              >
                <tspan className="fill-ink2">{`${show(map.amp_hours[row] ?? 0, "A·h")}\u2003`}</tspan>
                <tspan data-axis="batteries" className="fill-ink">
                  {count}
                </tspan>
              </text>
            ) : null,
          )}
          {map.panels.map((count, column) =>
            columnLabel(column) ? (
              <text
                key={count}
                x={x(column) + wide / 2}
                y={SIZE + 15}
                textAnchor="middle"
                className="text-[11px]"
              >
                <tspan data-axis="panels" className="fill-ink">
                  {count}
                </tspan>
                <tspan x={x(column) + wide / 2} dy="13" className="fill-ink2">
                  {show(map.watts[column] ?? 0, "W")}
                </tspan>
              </text>
            ) : null,
          )}
          <text x={LEFT + SIZE} y={SIZE + 44} textAnchor="end" className="fill-ink2 text-[11px]">
            panels in parallel on {map.string}
          </text>
        </svg>
      </Wide>
      <p aria-live="polite">
        {map.panels[at.column]} in parallel, {show(map.watts[at.column] ?? 0, "W")}, and{" "}
        {map.batteries[at.row]} in parallel, {show(map.amp_hours[at.row] ?? 0, "A·h")}:{" "}
        {(share * 100).toFixed(share > 0.99 ? 2 : 1)} % of {map.share_of},{" "}
        {map.priced
          ? `${cost.toFixed(0)} ${map.currency}`
          : `${cost.toFixed(1)} times the cost of what you have`}
        , battery {show(map.kg[at.row] ?? 0, "kg")}
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
        . Green reaches {map.target * 100} % with our middle guesses. Dashed lines mark 90, 95 and 99 %. Grey
        is too heavy or does not fit
        {shelf !== undefined && ". The vertical line includes the free panels in the club stores"}.{" "}
        {map.years} weather years each. We assume bigger controllers and charge limits for bigger panels and
        batteries.
      </p>
    </>
  );
}
