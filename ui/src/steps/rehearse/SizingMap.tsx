import { useQuery } from "@tanstack/react-query";
import { type KeyboardEvent, useState } from "react";
import { answer, client } from "../../api/client";
import type { components } from "../../api/schema";
import { useDesk } from "../../kit/context";
import { useShown } from "../../kit/fields";
import { Part, Wide } from "../../kit/layout";

type Map = components["schemas"]["SizingMap"];
const CELL = 18;
const LEFT = 64;
const BOTTOM = 30;
const NAMED_EVERY = 4;

function useSizingMap() {
  const { view } = useDesk();
  return useQuery({
    queryKey: ["sizing-map", view.id, view.revision],
    placeholderData: (before) => before,
    queryFn: () =>
      answer(client.GET("/api/designs/{design_id}/sizing-map", { params: { path: { design_id: view.id } } })),
  });
}

/** Panels to the right, bank upward; darker serves more; the line is where the target is met. */
function Grid({ map }: { map: Map }) {
  const show = useShown();
  const columns = map.watts.length;
  const rows = map.amp_hours.length;
  const here = { column: map.watts.indexOf(map.here_watts), row: map.amp_hours.indexOf(map.here_ah) };
  const [at, setAt] = useState(here);
  const x = (column: number) => LEFT + column * CELL;
  const y = (row: number) => (rows - 1 - row) * CELL;
  const share = map.served[at.row]?.[at.column] ?? 0;
  const walk = (event: KeyboardEvent) => {
    const step = { ArrowUp: [1, 0], ArrowDown: [-1, 0], ArrowLeft: [0, -1], ArrowRight: [0, 1] }[event.key];
    if (!step) return;
    event.preventDefault();
    setAt((now) => ({
      row: Math.min(rows - 1, Math.max(0, now.row + (step[0] ?? 0))),
      column: Math.min(columns - 1, Math.max(0, now.column + (step[1] ?? 0))),
    }));
  };
  const told = `${show(map.watts[at.column], "W")} and ${show(map.amp_hours[at.row], "A·h")}: ${(share * 100).toFixed(share > 0.99 ? 2 : 1)} % of vital service`;
  // Where the target is met: a step line between cells that do and cells that do not.
  const edge = map.served
    .map((cells, row) => {
      const first = cells.findIndex((value) => value >= map.target);
      return first < 0 ? "" : `M${x(first)} ${y(row)}v${CELL}`;
    })
    .join("");
  return (
    <Wide label="Sizing map">
      <svg
        viewBox={`0 0 ${LEFT + columns * CELL + 4} ${rows * CELL + BOTTOM}`}
        className="w-full max-w-[34rem] min-w-[26rem]"
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
              width={CELL - 1}
              height={CELL - 1}
              className={value >= map.target ? "fill-good" : "fill-store"}
              opacity={value >= map.target ? 0.55 : 0.08 + 0.6 * value ** 3}
              onPointerEnter={() => setAt({ row, column })}
            />
          )),
        )}
        <path d={edge} className="stroke-good" strokeWidth="2.5" fill="none" />
        <rect
          x={x(here.column)}
          y={y(here.row)}
          width={CELL - 1}
          height={CELL - 1}
          fill="none"
          className="stroke-ink"
          strokeWidth="2"
        />
        <rect
          x={x(at.column)}
          y={y(at.row)}
          width={CELL - 1}
          height={CELL - 1}
          fill="none"
          className="stroke-sun"
          strokeWidth="1.5"
        />
        {map.amp_hours.map((value, row) =>
          row % NAMED_EVERY === 0 ? (
            <text key={value} x={LEFT - 6} y={y(row) + 13} textAnchor="end" className="fill-ink2 text-[11px]">
              {show(value, "A·h")}
            </text>
          ) : null,
        )}
        {map.watts.map((value, column) =>
          column % NAMED_EVERY === 0 ? (
            <text key={value} x={x(column)} y={rows * CELL + 16} className="fill-ink2 text-[11px]">
              {show(value, "W")}
            </text>
          ) : null,
        )}
      </svg>
      <p className="text-[12px]" aria-live="polite">
        {told}
      </p>
    </Wide>
  );
}

/** How much is enough: panels against bank, every size rehearsed. */
export function SizingMap() {
  const { data, isPending } = useSizingMap();
  if (isPending) return <p className="py-4 text-ink2">Every size is being rehearsed…</p>;
  const map = data?.map;
  if (!map) return null;
  return (
    <Part title="How much is enough" note={map.sentence}>
      <Grid map={map} />
      <p className="mt-1 text-[12px] text-ink2">
        {map.years} weather years each; the outlined size is yours, green holds {map.target * 100} % of vital
        service. Controllers and charge limits are taken to grow with panels and bank.
      </p>
    </Part>
  );
}
