import type { components } from "../api/schema";
import { useShown } from "../kit/fields";
import { Wide } from "../kit/layout";
import { roundTicks } from "./ticks";
import { timeTicks } from "./timeTicks";

type Series = components["schemas"]["Thinned"];
type Plan = components["schemas"]["PlannedBand"];
const [LEFT, WIDTH, HEIGHT, MARKS] = [46, 640, 150, 8];

type Props = {
  label: string;
  series: Series;
  plan?: Plan | null;
  name: string;
  unit: string;
  zone: string | null | undefined;
};

/** What was measured over time: least, mean and most, over the band the plan has at those moments where it is known. */
export function TimeBand({ label, series, plan, name, unit, zone }: Props) {
  const show = useShown();
  const { at, low, high, mean } = series;
  const known = [...low, ...high, ...(plan?.low ?? []), ...(plan?.high ?? [])].filter(
    (value) => value !== null,
  );
  const [least, most] = [Math.min(...known), Math.max(...known)];
  const times = at.map((moment) => Date.parse(moment));
  const [first, last] = [times[0] ?? 0, times.at(-1) ?? 1];
  const x = (time: number) => LEFT + ((time - first) / Math.max(last - first, 1)) * WIDTH;
  const y = (value: number) => HEIGHT - ((value - least) / Math.max(most - least, 1e-6)) * (HEIGHT - 10);
  const points = (values: readonly (number | null)[]) =>
    values.flatMap((value, index) => (value === null ? [] : [`${x(times[index] ?? 0)},${y(value)}`]));
  const area = (under: readonly (number | null)[], over: readonly (number | null)[]) =>
    [...points(over), ...points(under).reverse()].join(" ");
  return (
    <Wide picture label={label}>
      <svg
        viewBox={`0 0 ${LEFT + WIDTH + 10} ${HEIGHT + 24}`}
        className="w-full min-w-[520px]"
        role="img"
        aria-label={`${name} from ${show(least, unit)} to ${show(most, unit)}, ${at[0]?.slice(0, 10)} to ${at.at(-1)?.slice(0, 10)}`}
      >
        {roundTicks(least, most, 5).map((value) => (
          <g key={value}>
            <path d={`M${LEFT} ${y(value)}H${LEFT + WIDTH}`} className="stroke-hair2" strokeWidth="0.8" />
            <text
              data-axis={name}
              x={LEFT - 5}
              y={y(value) + 4}
              textAnchor="end"
              className="fill-ink2 text-[11px]"
            >
              {show(value, unit)}
            </text>
          </g>
        ))}
        {timeTicks(first, last, zone ?? undefined, MARKS).map((tick) => (
          <g key={tick.at}>
            <path d={`M${x(tick.at)} 4V${HEIGHT}`} className="stroke-hair2" strokeWidth="0.8" />
            <text
              x={x(tick.at)}
              y={HEIGHT + 16}
              textAnchor={x(tick.at) > LEFT + WIDTH - 20 ? "end" : "middle"}
              className="fill-ink2 text-[11px]"
            >
              {tick.label}
            </text>
          </g>
        ))}
        {plan && <polygon points={area(plan.low, plan.high)} className="fill-ink2/20" />}
        <polygon points={area(low, high)} className="fill-store/30" />
        <polyline points={points(mean).join(" ")} className="fill-none stroke-store" strokeWidth="1.4" />
        {plan && (
          <polyline
            points={points(plan.middle).join(" ")}
            className="fill-none stroke-ink"
            strokeWidth="1.2"
            strokeDasharray="5 3"
          />
        )}
      </svg>
      <p className="text-[12px] text-ink2">
        The band shows the lowest and highest value; the line is the average
        {plan &&
          ". The pale band is the plan: 8 of 10 weather years lie in it, and the dashed line is the typical year"}
        .
      </p>
    </Wide>
  );
}
