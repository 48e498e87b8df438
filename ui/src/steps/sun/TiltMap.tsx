import { useQuery } from "@tanstack/react-query";
import { type KeyboardEvent, useState } from "react";
import { answer, client } from "../../api/client";
import type { components } from "../../api/schema";
import { useDesk } from "../../kit/context";
import { Part } from "../../kit/layout";
import { MONTHS } from "../../kit/MonthStrip";
import { shortNumber } from "../../kit/units";

type Map = components["schemas"]["TiltMap"];
const COMPASS: Record<number, string> = { 0: "N", 90: "E", 180: "S", 270: "W" };

type Over = "hard" | "year";

function useTiltMap(over: Over) {
  const { view } = useDesk();
  return useQuery({
    queryKey: ["tilt-map", view.id, view.revision, over],
    placeholderData: (before) => before,
    queryFn: () =>
      answer(
        client.GET("/api/designs/{design_id}/tilt-map", {
          params: { path: { design_id: view.id }, query: { over } },
        }),
      ),
  });
}

function nearest(values: number[], wanted: number, round = 0): number {
  const away = (value: number) => {
    const gap = Math.abs(value - wanted);
    return round ? Math.min(gap, round - gap) : gap;
  };
  return values.reduce((best, value, index) => (away(value) < away(values[best] ?? 0) ? index : best), 0);
}

/** Arrows walk the map: up is steeper, sideways goes round the compass. */
function walk(event: KeyboardEvent<HTMLElement>, rows: number, columns: number): void {
  const cell = (event.target as HTMLElement).dataset.cell;
  const step = { ArrowUp: [1, 0], ArrowDown: [-1, 0], ArrowLeft: [0, -1], ArrowRight: [0, 1] }[event.key];
  if (!cell || !step) return;
  const [row = 0, column = 0] = cell.split(" ").map(Number);
  const next = `${Math.min(rows - 1, Math.max(0, row + (step[0] ?? 0)))} ${(column + (step[1] ?? 0) + columns) % columns}`;
  event.preventDefault();
  event.currentTarget.querySelector<HTMLElement>(`[data-cell="${next}"]`)?.focus();
}

function Grid({ map, marks }: { map: Map; marks: Set<string> }) {
  const { editor, view } = useDesk();
  const first = view.document.array.strings[0];
  const [at, setAt] = useState<{ row: number; column: number }>();
  const rows = map.tilts_deg.map((_, index) => index).reverse();
  // The equator stands in the middle of the map on either side of it.
  const turn = (view.document.place?.latitude_deg ?? 0) < 0 ? map.azimuths_deg.length / 2 : 0;
  const columns = map.azimuths_deg.map((_, index) => (index + turn) % map.azimuths_deg.length);
  const take = (row: number, column: number) => {
    if (!first) return;
    const path = ["array", "strings", { id: first.id }] as const;
    editor.edit(
      { kind: "set", path: [...path, "tilt_deg"], value: map.tilts_deg[row] },
      { kind: "set", path: [...path, "azimuth_deg"], value: map.azimuths_deg[column] },
    );
  };
  const told = at
    ? `${map.tilts_deg[at.row]}° tilt facing ${map.azimuths_deg[at.column]}°: ${shortNumber(map.hours[at.row]?.[at.column] ?? 0)} h`
    : "Point at a square to read it. Click it to give the first string this tilt and direction.";
  return (
    <>
      <div className="overflow-x-auto">
        <fieldset
          className="grid min-w-[30rem] grid-cols-[2.5rem_repeat(24,1fr)] gap-px"
          aria-label="Tilt and direction"
          onKeyDown={(event) => walk(event, map.tilts_deg.length, map.azimuths_deg.length)}
        >
          {rows.map((row) => (
            <div key={row} className="contents">
              <span className="pr-1 text-right text-[11px] leading-4 text-ink2" aria-hidden="true">
                {row % 3 === 0 ? `${map.tilts_deg[row]}°` : ""}
              </span>
              {columns.map((column) => {
                const azimuth = map.azimuths_deg[column];
                const hours = map.hours[row]?.[column] ?? 0;
                const mark = marks.has(`${row} ${column}`);
                const label = `${map.tilts_deg[row]}° tilt, facing ${azimuth}°: ${shortNumber(hours)} h`;
                return (
                  <button
                    key={azimuth}
                    type="button"
                    data-cell={`${row} ${column}`}
                    tabIndex={mark ? 0 : -1}
                    aria-label={label}
                    className={`relative h-4 ${mark ? "outline-2 outline-ink -outline-offset-2" : ""}`}
                    onClick={() => take(row, column)}
                    onFocus={() => setAt({ row, column })}
                    onPointerEnter={() => setAt({ row, column })}
                  >
                    <span
                      className="absolute inset-0 bg-sun"
                      style={{ opacity: hours / (map.best_hours || 1) }}
                    />
                  </button>
                );
              })}
            </div>
          ))}
          <span />
          {columns.map((column) => (
            <span key={column} className="text-center text-[11px] text-ink2" aria-hidden="true">
              {COMPASS[map.azimuths_deg[column] ?? -1] ?? ""}
            </span>
          ))}
        </fieldset>
      </div>
      <p className="mt-1 text-[12px]" aria-live="polite">
        {told}
      </p>
    </>
  );
}

function OverChoice({ over, setOver }: { over: Over; setOver: (over: Over) => void }) {
  const { view } = useDesk();
  const choices = [
    ["hard", MONTHS[view.report.verdict.hard_month - 1]],
    ["year", "all months in use"],
  ] as const;
  return (
    <fieldset className="mb-2 flex gap-4 text-[13px]">
      <legend className="sr-only">Months to include</legend>
      {choices.map(([value, name]) => (
        <label key={value} className="flex items-center gap-1.5">
          <input type="radio" name="over" checked={over === value} onChange={() => setOver(value)} />
          {name}
        </label>
      ))}
    </fieldset>
  );
}

/** Sun-hours on every plane, in the hard month or over all in use; the strings outlined. */
export function TiltMap() {
  const { view } = useDesk();
  const [over, setOver] = useState<Over>("hard");
  const { data } = useTiltMap(over);
  const map = data?.map;
  if (!map) return null;
  const strings = view.document.array.strings;
  const cells = strings.map((string) => ({
    string,
    row: nearest(map.tilts_deg, string.tilt_deg ?? 0),
    column: nearest(map.azimuths_deg, string.azimuth_deg ?? 0, 360),
  }));
  return (
    <Part title="Tilt and direction" note={map.takeaway}>
      <OverChoice over={over} setOver={setOver} />
      <Grid map={map} marks={new Set(cells.map((cell) => `${cell.row} ${cell.column}`))} />
    </Part>
  );
}
