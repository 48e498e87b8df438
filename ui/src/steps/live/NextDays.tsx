import type { Quantity } from "../../api/client";
import { timeTicks } from "../../charts/timeTicks";
import { useAside } from "../../kit/context";
import { Figure } from "../../kit/Figure";
import { Part, Wide } from "../../kit/layout";
import type { LiveView } from "./useLive";

type Forecast = NonNullable<LiveView["forecast"]>;
type Band = Forecast["charge"];
const [LEFT, WIDTH, HEIGHT, DAY_H] = [40, 640, 150, 24];
const HOUR_MS = 3_600_000;

function edge(
  values: readonly number[],
  x: (hour: number) => number,
  y: (share: number) => number,
): string[] {
  return values.map((share, hour) => `${x(hour)},${y(share)}`);
}

/** Charge of the next days: the band of four weather years in five over the plan's own, and the middle year. */
function Picture({
  forecast,
  at,
  zone,
}: {
  forecast: Forecast;
  at: string;
  zone: string | null | undefined;
}) {
  const x = (hour: number) => LEFT + (hour / (forecast.hours - 1)) * WIDTH;
  const y = (share: number) => HEIGHT - share * (HEIGHT - 8);
  const area = ({ low, high }: Band) => [...edge(high, x, y), ...edge(low, x, y).reverse()].join(" ");
  const now = Date.parse(at);
  const ticks = timeTicks(now, now + forecast.hours * HOUR_MS, zone ?? undefined, 10);
  return (
    <Wide picture label="Battery charge over the next ten days">
      <svg
        viewBox={`0 0 ${LEFT + WIDTH + 10} ${HEIGHT + 22}`}
        className="w-full min-w-[520px]"
        role="img"
        aria-label={forecast.sentence}
      >
        {[0, 0.25, 0.5, 0.75, 1].map((share) => (
          <g key={share}>
            <path d={`M${LEFT} ${y(share)}H${LEFT + WIDTH}`} className="stroke-hair2" strokeWidth="0.8" />
            <text
              data-axis="charge"
              x={LEFT - 5}
              y={y(share) + 4}
              textAnchor="end"
              className="fill-ink2 text-[11px]"
            >
              {100 * share} %
            </text>
          </g>
        ))}
        {ticks.map((tick) => (
          <g key={tick.at}>
            <path
              d={`M${x((tick.at - now) / HOUR_MS)} 8V${HEIGHT}`}
              className="stroke-hair2"
              strokeWidth="0.8"
            />
            <text
              x={x((tick.at - now) / HOUR_MS)}
              y={HEIGHT + 16}
              textAnchor="middle"
              className="fill-ink2 text-[11px]"
            >
              {tick.label}
            </text>
          </g>
        ))}
        <polygon points={area(forecast.planned)} className="fill-ink2/15" />
        <polygon points={area(forecast.charge)} className="fill-store/35" />
        <polyline
          points={edge(forecast.planned.middle, x, y).join(" ")}
          className="fill-none stroke-ink2"
          strokeWidth="1"
          strokeDasharray="4 3"
        />
        <polyline
          points={edge(forecast.floor, x, y).join(" ")}
          className="fill-none stroke-stop"
          strokeWidth="1"
          strokeDasharray="1 3"
        />
        <polyline
          points={edge(forecast.charge.middle, x, y).join(" ")}
          className="fill-none stroke-store"
          strokeWidth="1.8"
        />
      </svg>
      <p className="text-[12px] text-ink2">
        Dark band: from today’s charge, 8 of 10 weather years end up in it; the line is the typical year. Pale
        band, dashed line: the plan at this time of year.
      </p>
    </Wide>
  );
}

/** The same day by day, for reading and copying. */
function ByDay({ forecast }: { forecast: Forecast }) {
  const lowest = (values: readonly number[], day: number) =>
    Math.round(100 * Math.min(...values.slice(day * DAY_H, (day + 1) * DAY_H)));
  return (
    <details className="mt-1 text-[12px]">
      <summary className="cursor-pointer text-ink2">Lowest charge of each day</summary>
      <Wide label="Lowest charge of each day">
        <table>
          <thead>
            <tr className="text-ink2">
              <th scope="col" className="pr-4 text-left font-normal">
                Day
              </th>
              <th scope="col" className="pr-4 text-right font-normal">
                Bad year (1 in 10), %
              </th>
              <th scope="col" className="pr-4 text-right font-normal">
                Typical year, %
              </th>
              <th scope="col" className="text-right font-normal">
                Plan, typical year, %
              </th>
            </tr>
          </thead>
          <tbody>
            {Array.from({ length: Math.floor(forecast.hours / DAY_H) }, (_, day) => (
              <tr key={day} className="border-t border-hair2">
                <th scope="row" className="text-left font-normal">
                  {day + 1}
                </th>
                <td className="pr-4 text-right">{lowest(forecast.charge.low, day)}</td>
                <td className="pr-4 text-right">{lowest(forecast.charge.middle, day)}</td>
                <td className="text-right">{lowest(forecast.planned.middle, day)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </Wide>
    </details>
  );
}

/** Hours until then; past the end of the forecast nothing is known. */
function Until({ of }: { of: Quantity | undefined }) {
  return of?.value === null ? <span className="text-ink2">{of.note}</span> : <Figure of={of} />;
}

type Props = { forecast: Forecast; at: string; zone: string | null | undefined };

/** How the next ten days are likely to go, how soon it goes dark, and what shedding buys. */
export function NextDays({ forecast, at, zone }: Props) {
  const figure = useAside(forecast.working, "live:");
  const rows = [...forecast.tempos, ...forecast.shed.map((row) => ({ ...row, tempo: row.name }))];
  return (
    <Part title="The next ten days" note={forecast.sentence}>
      <Picture forecast={forecast} at={at} zone={zone} />
      <p className="text-[12px]">
        What may be used ends at <Figure of={figure(forecast.floor_share)} /> now, the dotted line:{" "}
        {forecast.under_floor}.
      </p>
      <ByDay forecast={forecast} />
      <Wide label="When it loses power">
        <table className="mt-3 w-full max-w-[40rem]">
          <thead>
            <tr className="border-b border-hair text-ink2">
              <th scope="col" className="text-left font-normal">
                If you now choose
              </th>
              <th scope="col" className="text-right font-normal">
                Chance of losing power in 10 days
              </th>
              <th scope="col" className="text-right font-normal">
                Bad year (1 in 10)
              </th>
              <th scope="col" className="text-right font-normal">
                Typical year
              </th>
            </tr>
          </thead>
          <tbody>
            {rows.map((row) => (
              <tr key={row.tempo} className="border-b border-hair2">
                <th scope="row" className="text-left font-normal">
                  {row.name}
                </th>
                <td className="pl-3 text-right">
                  <Figure of={figure(row.dark_share)} />
                </td>
                <td className="pl-3 text-right">
                  <Until of={figure(row.soonest_h)} />
                </td>
                <td className="pl-3 text-right">
                  <Until of={figure(row.middle_h)} />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </Wide>
    </Part>
  );
}
