import { useId, useRef } from "react";
import { useCatalogue } from "../../api/queries";
import { useKey } from "../../app/useKeys";
import { Cautions } from "../../kit/Cautions";
import { useDesk } from "../../kit/context";
import { ChoiceField } from "../../kit/fields";
import { Part, Wide } from "../../kit/layout";
import { pasteCells } from "../../kit/pasteCells";
import { useGridKeys } from "../../kit/useGridKeys";
import { RunRow } from "./RunRow";

const COLUMNS = [
  ["Run", "text-left", "Where it starts and what it feeds"],
  ["Length", "w-24 text-right", "One way"],
  ["Conductor", "w-24 text-right", "Plus lead; the minus lead is the same size"],
  ["Fuse", "text-left", "Kind and rating"],
  ["Current", "text-right", "At peak"],
  ["Volts lost", "text-right", "At peak current, both ways"],
  ["Max. current", "text-right", "Continuous, in the air around it"],
  ["Limited by", "text-left", "Why the wire can’t be thinner"],
] as const;

const MOST_RUNS = 300;

/** Every run of wire with what it carries, loses and stands, to be typed over. */
export function Schedule() {
  const { view, editor } = useDesk();
  const { data: choices } = useCatalogue();
  const id = useId();
  const table = useRef<HTMLTableElement>(null);
  const { runs } = view.report.bus;
  const typed = view.document.bus?.runs ?? [];
  const school = view.document.bus?.school ? "" : ` (${view.report.bus.tradition_label})`;
  const add = () => {
    if (!choices || typed.length >= MOST_RUNS) return;
    const taken = new Set(typed.map((run) => run.id));
    let number = 2;
    while (taken.has(`block-${number}`)) number++;
    const value = { ...choices.firsts.run, id: `block-${number}`, name: `Fuse block ${number}` };
    editor.edit({ kind: "insert", path: ["bus", "runs"], value });
  };
  useKey("n", add, [choices, typed]);
  const onKeyDown = useGridKeys({
    rows: runs.length,
    columns: 4,
    onPastEnd: () => undefined,
    onFillDown: () => undefined,
    onRemove: () => undefined,
  });
  return (
    <Part title="Wiring schedule" note="grey is proposed; type over it what you build">
      <Cautions step="bus" at="runs" />
      <Wide label="Wiring schedule, run by run">
        <table
          ref={table}
          className="w-full md:min-w-[690px]"
          onKeyDown={onKeyDown}
          onPaste={pasteCells}
          aria-describedby={id}
        >
          <thead className="max-md:hidden">
            <tr className="border-b border-hair text-[12px] text-ink2">
              {COLUMNS.map(([name, side, hint]) => (
                <th key={name} scope="col" className={`px-1.5 font-normal ${side}`} title={hint}>
                  {name}
                </th>
              ))}
              <td />
            </tr>
          </thead>
          <tbody>
            {runs.map((run, row) => (
              <RunRow key={run.id} run={run} row={row} />
            ))}
          </tbody>
        </table>
      </Wide>
      <div className="mt-2 flex flex-wrap items-end gap-x-6 gap-y-2">
        <button type="button" className="btn btn-sm btn-ghost text-act" onClick={add}>
          New fuse block <kbd className="opacity-70">n</kbd>
        </button>
        <div className="w-56">
          <ChoiceField
            label="Which tables to use"
            path={["bus", "school"]}
            choices={[
              { value: "", label: `our default${school}`, hint: "" },
              ...(choices?.wiring_schools ?? []),
            ]}
            emptyIsNull
          />
        </div>
        <p id={id} className="min-w-0 basis-full text-[12px] text-ink2 lg:basis-0 lg:flex-1">
          An undersized wire or oversized fuse can start a fire: check your local code, it has the last word.
          So does a licensed electrician where the code asks for one. Maximum currents come from{" "}
          {view.report.bus.tradition_label} tables, for the air around each run.
        </p>
      </div>
    </Part>
  );
}
