import { ChevronDown, Trash2 } from "lucide-react";
import { type ClipboardEvent, type RefObject, useEffect, useRef, useState } from "react";
import type { Choice, Load } from "../../api/client";
import { useCatalogue } from "../../api/queries";
import { useKey } from "../../app/useKeys";
import { useDesk, useFigure } from "../../kit/context";
import { Figure } from "../../kit/Figure";
import { ChoiceField, NumberField, TextField } from "../../kit/fields";
import { cellsOf } from "../../kit/pasteCells";
import { useUnits } from "../../kit/settings";
import { useGridKeys } from "../../kit/useGridKeys";
import { COLUMNS, type Column, freeId, MOST_LOADS, pasteInto } from "./columns";
import { LoadDetail } from "./LoadDetail";
import { NewLoad } from "./NewLoad";

/** Volts at what a load hangs on. */
function useRailVolts(): (load: Load) => number {
  const { view } = useDesk();
  return (load) => {
    const rail = view.document.draw.rails.find((item) => item.id === load.rail);
    return rail?.volts.value ?? view.report.working[view.report.draw.bus_v]?.value ?? 12;
  };
}

function CellField({ load, column, tiers }: { load: Load; column: Column; tiers: Choice[] | undefined }) {
  const path = ["draw", "loads", { id: load.id }, column.field] as const;
  const label = `${load.name}: ${column.label}`;
  const atVolts = useRailVolts()(load);
  switch (column.kind) {
    case "text":
      return <TextField label={label} path={path} bare />;
    case "tier":
      return <ChoiceField label={label} path={path} choices={tiers} emptyIsNull bare />;
    case "number":
      return <NumberField label={label} path={path} dimension={column.dimension} bare />;
    case "known":
      if (column.field === "hours_per_day" && (load.pattern || load.events || load.thermostat)) {
        return <OtherwiseWhen load={load} />;
      }
      if (column.field === "receive_a" && load.receive_w) return <InWatts load={load} label={label} />;
      return (
        <NumberField
          label={label}
          path={path}
          dimension={column.dimension}
          optional={column.optional}
          atVolts={atVolts}
          blankZero={column.field === "transmit_share" && load.transmit_a === null}
          known
          bare
        />
      );
  }
}

/** In place of the amps, the watts they follow from; emptied, the amps can be typed again. */
function InWatts({ load, label }: { load: Load; label: string }) {
  const watts = label.replace("amps", "watts");
  return (
    <span
      className="flex items-center justify-end"
      title={`${load.receive_a.value.toFixed(2)} A on its supply line`}
    >
      <NumberField
        label={watts}
        path={["draw", "loads", { id: load.id }, "receive_w"]}
        dimension="watts"
        optional
        known
        bare
      />
      <span className="text-[12px] text-ink2">W</span>
    </span>
  );
}

/** In place of the hours, how else it is said when the load runs. */
function OtherwiseWhen({ load }: { load: Load }) {
  const words = load.pattern ? "set hours" : load.events ? "times a day" : "by temperature";
  return (
    <span
      className="block px-1.5 text-right text-[12px] text-ink2"
      title="Open the arrow at the end of the row"
    >
      {words}
    </span>
  );
}

function Row({ load, row, onRemove }: { load: Load; row: number; onRemove: () => void }) {
  const { view } = useDesk();
  const figure = useFigure();
  const { data: catalogue } = useCatalogue();
  const figures = view.report.draw.loads.find((item) => item.id === load.id);
  const [open, setOpen] = useState(false);
  const tiers = catalogue && [...catalogue.tiers, { value: "", label: "not set", hint: "" }];
  return (
    <>
      <tr
        data-row={row}
        id={load.id}
        className="border-b border-hair2 max-md:mb-3 max-md:grid max-md:grid-cols-2 max-md:gap-x-3 max-md:border-hair max-md:pb-3"
      >
        {COLUMNS.map((column, index) => (
          <td
            key={column.field}
            data-column={index}
            className={index === 0 ? "max-md:col-span-2 max-md:font-[640]" : ""}
          >
            <span className="label md:hidden" aria-hidden="true">
              {column.label}
            </span>
            <CellField load={load} column={column} tiers={tiers} />
          </td>
        ))}
        <td className="px-1.5 text-right whitespace-nowrap">
          <span className="label mr-2 md:hidden" aria-hidden="true">
            Ah a day
          </span>
          <Figure of={figure(figures?.daily_ah)} unit={false} />
        </td>
        <td className="w-14 text-right whitespace-nowrap">
          <button
            type="button"
            className="p-1 text-ink2 hover:text-ink"
            aria-label={`More about ${load.name}`}
            aria-expanded={open}
            title="Kind, power, mode, supply line, when it runs"
            onClick={() => setOpen(!open)}
          >
            <ChevronDown size={14} className={open ? "rotate-180" : ""} />
          </button>
          <button
            type="button"
            className="p-1 text-ink2 hover:text-stop"
            aria-label={`Remove ${load.name}`}
            title="Remove (Ctrl+Delete)"
            onClick={onRemove}
            onKeyDown={(event) => event.key === "Delete" && onRemove()}
          >
            <Trash2 size={14} />
          </button>
        </td>
      </tr>
      {open && (
        <tr className="max-md:block">
          <td colSpan={COLUMNS.length + 2} className="p-0 max-md:block">
            <LoadDetail load={load} />
          </td>
        </tr>
      )}
    </>
  );
}

function useLedger(table: RefObject<HTMLTableElement | null>) {
  const { view, editor } = useDesk();
  const { data: choices } = useCatalogue();
  const units = useUnits();
  const voltsOf = useRailVolts();
  const [trouble, setTrouble] = useState<string>();
  const loads = view.document.draw.loads;
  const at = (load: Load) => ["draw", "loads", { id: load.id }] as const;
  // The row to go to may not be on screen yet: it is gone to once it is.
  const wanted = useRef<{ row: number; column: number }>(undefined);
  const focus = (row: number, column: number) => {
    wanted.current = { row, column };
  };
  useEffect(() => {
    if (!wanted.current) return;
    const { row, column } = wanted.current;
    const cell = table.current?.querySelector<HTMLInputElement>(
      `[data-row="${row}"] [data-column="${column}"] :is(input, select)`,
    );
    if (cell && loads.length > row) {
      wanted.current = undefined;
      cell.focus();
    }
  }, [loads, table]);
  const add = (usual?: Load, column = 0) => {
    if (loads.length >= MOST_LOADS) {
      setTrouble(`A design holds at most ${MOST_LOADS} loads.`);
      return;
    }
    const first = usual ?? choices?.firsts.load;
    if (!first) return;
    editor.edit({
      kind: "insert",
      path: ["draw", "loads"],
      value: { ...first, id: freeId(loads.map((load) => load.id)) },
    });
    focus(loads.length, column);
  };
  const remove = (row: number) => {
    const load = loads[row];
    if (!load) return;
    editor.edit({ kind: "remove", path: at(load) });
    focus(Math.min(row, loads.length - 2), 0);
  };
  const fillDown = (row: number, column: number) => {
    const [above, load, target] = [loads[row - 1], loads[row], COLUMNS[column]];
    if (above && load && target)
      editor.edit({ kind: "set", path: [...at(load), target.field], value: above[target.field] });
  };
  const paste = (event: ClipboardEvent<HTMLElement>) => {
    const cells = cellsOf(event.clipboardData.getData("text"));
    const target = event.target as HTMLElement;
    const row = Number(target.closest<HTMLElement>("[data-row]")?.dataset.row);
    const column = Number(target.closest<HTMLElement>("[data-column]")?.dataset.column);
    if ((cells.length === 1 && cells[0]?.length === 1) || Number.isNaN(row) || Number.isNaN(column)) return;
    event.preventDefault();
    if (!choices) return;
    const pasted = pasteInto(loads, cells, row, column, units, choices.firsts.load, voltsOf);
    setTrouble("error" in pasted ? pasted.error : undefined);
    if ("loads" in pasted) editor.edit({ kind: "set", path: ["draw", "loads"], value: pasted.loads });
  };
  return { loads, add, remove, fillDown, paste, trouble };
}

/** The load ledger: a table to work in. */
export function Ledger() {
  const table = useRef<HTMLTableElement>(null);
  const { loads, add, remove, fillDown, paste, trouble } = useLedger(table);
  useKey("n", () => add(), [loads, add]);
  const onKeyDown = useGridKeys({
    rows: loads.length,
    columns: COLUMNS.length,
    onPastEnd: (column) => add(undefined, column),
    onFillDown: fillDown,
    onRemove: remove,
  });
  return (
    <>
      {trouble && (
        <p role="alert" className="mb-2 text-stop">
          {trouble}
        </p>
      )}
      {loads.length === 0 ? (
        <p className="py-3 text-[14px]">
          No loads yet. Press <kbd className="kbd kbd-sm">n</kbd> to add one, and start with the radio. For
          example, a VHF repeater takes 0.45 A on receive and 7.5 A on transmit. Transmitting 6 % of the time,
          it uses 21 Ah a day.
        </p>
      ) : (
        <table ref={table} aria-label="Load list" className="w-full" onKeyDown={onKeyDown} onPaste={paste}>
          <thead className="max-md:sr-only">
            <tr className="border-b border-hair text-[12px] text-ink2">
              {COLUMNS.map((column, index) => (
                <th
                  key={column.field}
                  scope="col"
                  className={`px-1.5 py-1 font-normal ${column.width} ${index === 0 || column.kind === "text" || column.kind === "tier" ? "text-left" : "text-right"}`}
                >
                  <abbr title={column.label} className="no-underline">
                    {column.short}
                  </abbr>
                </th>
              ))}
              <th scope="col" className="w-16 px-1.5 text-right font-normal">
                Ah/day
              </th>
              <th scope="col">
                <span className="sr-only">Remove</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {loads.map((load, row) => (
              <Row key={load.id} load={load} row={row} onRemove={() => remove(row)} />
            ))}
          </tbody>
        </table>
      )}
      <NewLoad onAdd={add} />
    </>
  );
}
