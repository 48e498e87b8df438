import type { components } from "../../api/schema";
import { useDesk, useFigure } from "../../kit/context";
import { Figure } from "../../kit/Figure";
import { NumberField, TextField } from "../../kit/fields";
import { Heads, Part, Wide } from "../../kit/layout";
import { pasteCells } from "../../kit/pasteCells";
import { useGridKeys } from "../../kit/useGridKeys";
import { rowPath } from "./rows";

type Line = components["schemas"]["PartLine"];
const HEADS = ["Part", "Needed", "In hand", "To buy", "Price each", "Cost", "Weight each", "Weight", "Where"];

function Cell(props: { name: string; column?: number; children: React.ReactNode }) {
  return (
    <td data-column={props.column} className="px-1.5 whitespace-nowrap md:text-right">
      <span className="label mr-2 md:hidden" aria-hidden="true">
        {props.name}
      </span>
      {props.children}
    </td>
  );
}

function Row({ line, row }: { line: Line; row: number }) {
  const figure = useFigure();
  const path = rowPath(line.id);
  return (
    <tr
      data-row={row}
      className="border-b border-hair2 max-md:mb-3 max-md:grid max-md:grid-cols-2 max-md:gap-x-3 max-md:border-hair max-md:pb-3"
    >
      <th
        scope="row"
        className="min-w-40 py-1 pr-2 text-left font-normal max-md:col-span-2 max-md:font-[640]"
      >
        {line.name}
      </th>
      <Cell name="Needed">
        <Figure of={figure(line.quantity)} />
      </Cell>
      <Cell name="There" column={0}>
        <NumberField
          label={`${line.name}: in hand`}
          path={[...path, "have"]}
          dimension={line.unit === "m" ? "length" : "count"}
          blankZero
          bare
        />
      </Cell>
      <Cell name="To buy">
        <Figure of={figure(line.buy)} />
      </Cell>
      <Cell name="Price each" column={1}>
        <NumberField
          label={`${line.name}: price of ${line.unit === "m" ? "a metre" : "one"}`}
          path={[...path, "price"]}
          dimension="price"
          known
          optional
          fallback={line.price_from_design}
          bare
        />
      </Cell>
      <Cell name="Cost">
        {line.guess_low && line.guess_high ? (
          <span className="text-ink2">
            <Figure of={figure(line.guess_low)} /> to <Figure of={figure(line.guess_high)} />?
          </span>
        ) : (
          <Figure of={figure(line.cost)} />
        )}
      </Cell>
      <Cell name="Weight each" column={2}>
        <NumberField
          label={`${line.name}: weight of ${line.unit === "m" ? "a metre" : "one"}`}
          path={[...path, "weight_kg"]}
          dimension="weight"
          known
          optional
          fallback={line.weight_from_design}
          bare
        />
      </Cell>
      <Cell name="Weight">
        <Figure of={figure(line.weight_kg)} />
      </Cell>
      <Cell name="Where" column={3}>
        <TextField label={`${line.name}: where it sits`} path={[...path, "where"]} bare />
      </Cell>
    </tr>
  );
}

/** Every part counted from the design, with what is there of it, what it costs and weighs. */
export function PartsTable() {
  const { view, editor } = useDesk();
  const figure = useFigure();
  const { build } = view.report;
  const groups = [...new Set(build.lines.map((line) => line.group))];
  const onKeyDown = useGridKeys({
    rows: build.lines.length,
    columns: 4,
    onPastEnd: () => undefined,
    onFillDown: () => undefined,
    onRemove: () => undefined,
  });
  const allThere = () =>
    editor.edit(
      ...build.lines.map((line) => ({
        kind: "set" as const,
        path: [...rowPath(line.id), "have"],
        value: figure(line.quantity)?.value ?? 0,
      })),
    );
  let row = -1;
  return (
    <Part
      title="Parts"
      note={
        <a className="text-act hover:underline" href={`/api/designs/${view.id}/parts.csv`} download>
          Download CSV
        </a>
      }
    >
      <Wide label="Parts, line by line">
        <table className="w-full md:min-w-[720px]" onKeyDown={onKeyDown} onPaste={pasteCells}>
          <thead className="max-md:hidden">
            <Heads names={HEADS} />
          </thead>
          {groups.map((group) => (
            <tbody key={group}>
              <tr>
                <th scope="rowgroup" colSpan={HEADS.length} className="pt-2 text-left text-[12px] text-ink2">
                  {group}
                </th>
              </tr>
              {build.lines
                .filter((line) => line.group === group)
                .map((line) => {
                  row += 1;
                  return <Row key={line.id} line={line} row={row} />;
                })}
            </tbody>
          ))}
        </table>
      </Wide>
      <div className="mt-2 flex flex-wrap gap-x-6">
        <button type="button" className="btn btn-sm btn-ghost text-act" onClick={allThere}>
          I have all of it
        </button>
        <p className="min-w-0 flex-1 text-[12px] text-ink2">
          Cable counts plus and minus with a tenth to spare; connectors a pair a run. The sets and other loads
          are what the station is for, and are not counted. A cost with a question mark is our guess by kind
          and size; type the price of one and it counts instead.{" "}
          {build.sum_low
            ? `Money is in ${build.sum_currency}.`
            : "Prices you typed are in your money, our guesses in US dollars."}
        </p>
      </div>
    </Part>
  );
}
