import { ChevronDown, RotateCcw } from "lucide-react";
import { useState } from "react";
import { useCatalogue } from "../../api/queries";
import { useDesk, useField, useFigure } from "../../kit/context";
import { Figure } from "../../kit/Figure";
import { NumberField, useShown } from "../../kit/fields";
import { FuseKindField } from "./FuseKindField";
import { RunDetail } from "./RunDetail";
import { BINDS, type BusRun, type RunFigures, runPath } from "./run";

/** Under a narrow screen each cell carries its column's name. */
function Cell(props: { name: string; column?: number; side?: string; children: React.ReactNode }) {
  return (
    <td data-column={props.column} className={`px-1.5 ${props.side ?? "md:text-right"} whitespace-nowrap`}>
      <span className="label mr-2 md:hidden" aria-hidden="true">
        {props.name}
      </span>
      {props.children}
    </td>
  );
}

/** A run in the schedule: typed figures, and in grey what is proposed. */
export function RunRow({ run, row }: { run: RunFigures; row: number }) {
  const { editor } = useDesk();
  const figure = useFigure();
  const show = useShown();
  const { data: choices } = useCatalogue();
  const [open, setOpen] = useState(false);
  const typed = useField<BusRun | undefined>(runPath(run.id)).value;
  const path = runPath(run.id);
  const proposed = figure(run.proposed_mm2)?.value;
  const own = run.feeds === "block";
  return (
    <>
      <tr
        data-row={row}
        className="border-b border-hair2 align-middle max-md:mb-3 max-md:grid max-md:grid-cols-2 max-md:gap-x-3 max-md:border-hair max-md:pb-3"
      >
        <th
          scope="row"
          className="min-w-36 py-1 pr-2 text-left font-normal max-md:col-span-2 max-md:font-[640]"
        >
          <span className="flex gap-2">
            <span className="min-w-6 text-ink2">F{run.number}</span>
            <span className="min-w-0">
              {run.name}
              <span className="block text-[12px] text-ink2">from {run.fed_from_name}</span>
            </span>
          </span>
        </th>
        <Cell name="Length" column={0}>
          <NumberField
            label={`${run.name}: length one way`}
            path={[...path, "length_m"]}
            dimension="length"
            known
            optional
            fallback={run.length_m}
            bare
          />
        </Cell>
        <Cell name="Conductor" column={1}>
          <NumberField
            label={`${run.name}: conductor`}
            path={[...path, "mm2"]}
            dimension="wire"
            known
            optional
            fallback={proposed}
            bare
          />
        </Cell>
        <Cell name="Fuse" column={2} side="">
          <span className="flex items-center gap-1">
            <FuseKindField run={run} choices={choices?.fuse_kinds} />
            {typed?.fuse && typed.fuse.kind !== "none" ? (
              <span className="w-16" data-column={3}>
                <NumberField
                  label={`${run.name}: fuse amps`}
                  path={[...path, "fuse", "rating_a"]}
                  dimension="amps"
                  known
                  optional
                  fallback={figure(run.needed_fuse_a)?.value}
                  bare
                />
              </span>
            ) : (
              run.fuse_kind !== "none" && (
                <span className="text-ink2">
                  <Figure of={figure(run.fuse_a)} />
                </span>
              )
            )}
          </span>
        </Cell>
        <Cell name="Current">
          <Figure of={figure(run.peak_a)} />
        </Cell>
        <Cell name="Volts lost">
          <Figure of={figure(run.drop_v)} />
        </Cell>
        <Cell name="Max. current">
          <Figure of={figure(run.ampacity_a)} />
        </Cell>
        <Cell name="Limited by" side="">
          <span title={run.binds_why}>
            {run.mm2_typed && proposed !== null && proposed !== undefined && proposed > run.mm2 * 1.02
              ? `needs ${show(proposed, "mm²")}`
              : BINDS[run.binds]}
          </span>
        </Cell>
        <td className="w-16 text-right whitespace-nowrap">
          {typed && (
            <button
              type="button"
              className="p-1 text-ink2 hover:text-ink"
              aria-label={own ? `Remove ${run.name}` : `Reset to proposed for ${run.name}`}
              title={own ? "Remove" : "Reset to proposed"}
              onClick={() => editor.edit({ kind: "remove", path: ["bus", "runs", { id: run.id }] })}
            >
              <RotateCcw size={14} />
            </button>
          )}
          <button
            type="button"
            className="p-1 text-ink2 hover:text-ink"
            aria-label={`More about ${run.name}`}
            aria-expanded={open}
            title="Start point, insulation, parts, connector, fuse limits"
            onClick={() => setOpen(!open)}
          >
            <ChevronDown size={14} className={open ? "rotate-180" : ""} />
          </button>
        </td>
      </tr>
      {open && (
        <tr className="max-md:block">
          <td colSpan={9} className="p-0 max-md:block">
            <RunDetail run={run} />
          </td>
        </tr>
      )}
    </>
  );
}
