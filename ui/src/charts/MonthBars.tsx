import type { Quantity } from "../api/client";
import { Figure } from "../kit/Figure";
import { MONTH_LETTERS } from "../kit/MonthStrip";
import { MonthTable } from "../kit/MonthTable";

type Series = (Quantity | undefined)[];
type Props = {
  title: string;
  takeaway: string;
  values: Series;
  unit: string;
  /** Bounds of the middle eight days in ten, drawn as whiskers. */
  whiskers?: { low: Series; high: Series };
  /** A second series drawn as a step line across the bars, such as what is drawn. */
  against?: { label: string; values: Series };
  hardMonth: number;
  months: number[];
  /** Background of the bars; the sun's without. */
  colour?: string;
  /** Rows under the chart that are not drawn. */
  more?: [string, Series][];
};

const PLOT_PX = 150;
const number = (quantity: Quantity | undefined) => quantity?.value ?? 0;

function Bar({ props, index, scale }: { props: Props; index: number; scale: (value: number) => string }) {
  const value = number(props.values[index]);
  const against = props.against ? number(props.against.values[index]) : undefined;
  const short = against !== undefined && value < against;
  const inUse = props.months.includes(index + 1);
  const low = props.whiskers && number(props.whiskers.low[index]);
  const high = props.whiskers && number(props.whiskers.high[index]);
  return (
    <div className="relative border-b border-hair" style={{ height: PLOT_PX }} aria-hidden="true">
      <div
        className={`absolute inset-x-[16%] bottom-0 ${short ? "bg-stop/55" : (props.colour ?? "bg-sun/60")} ${inUse ? "" : "opacity-30"}`}
        style={{ height: scale(value) }}
      />
      {low !== undefined && high !== undefined && (
        <div
          className="absolute left-1/2 w-px bg-ink"
          style={{ bottom: scale(low), height: `calc(${scale(high)} - ${scale(low)})` }}
        />
      )}
      {against !== undefined && (
        <div className="absolute inset-x-0 border-t-2 border-draw" style={{ bottom: scale(against) }} />
      )}
    </div>
  );
}

/** Twelve bars with a sentence above and every number beneath: the row of figures is the chart's table. */
export function MonthBars(props: Props) {
  const all = [...props.values, ...(props.whiskers?.high ?? []), ...(props.against?.values ?? [])].map(
    number,
  );
  const most = Math.max(...all, 1e-9) * 1.04;
  const scale = (value: number) => `${(100 * value) / most}%`;
  const rows: [string, Series][] = [[props.unit, props.values]];
  if (props.against) rows.push([props.against.label, props.against.values]);
  if (props.whiskers) rows.push(["P10", props.whiskers.low], ["P90", props.whiskers.high]);
  if (props.more) rows.push(...props.more);
  return (
    <figure className="mb-5">
      <figcaption className="mb-1">
        <h2 className="inline text-[14px]">{props.title}</h2>{" "}
        <span className="text-ink2">{props.takeaway}</span>
      </figcaption>
      <div className="overflow-x-auto">
        <div className="min-w-[34rem]">
          <div className="ml-12 grid grid-cols-12">
            {MONTH_LETTERS.map((_letter, index) => (
              <Bar key={index} props={props} index={index} scale={scale} />
            ))}
          </div>
          <MonthTable
            hardMonth={props.hardMonth}
            rows={rows.map(([name, series]) => [
              name,
              series.map((quantity, index) => <Figure key={index} of={quantity} unit={false} />),
            ])}
          />
        </div>
      </div>
    </figure>
  );
}
