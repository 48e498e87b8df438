import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client } from "../../api/client";
import type { components } from "../../api/schema";
import { roundTicks } from "../../charts/ticks";
import { useDesk } from "../../kit/context";
import { useShown } from "../../kit/fields";
import { Wide } from "../../kit/layout";
import { editsOf } from "../../kit/remedy";

type Record_ = components["schemas"]["RecordView"];
type Series = components["schemas"]["SeriesView"];
const CHANNELS: [string, string, string][] = [
  ["volts", "Bank volts", "V"],
  ["charge_a", "Charging amps", "A"],
  ["load_a", "Load amps", "A"],
  ["charge_share", "State of charge", "share"],
  ["box_c", "Box", "°C"],
];
const [LEFT, WIDTH, HEIGHT] = [46, 640, 150];
const LIKELY = 0.02;

/** A channel over the time on record: least, mean and most, over the band the plan has at that time of year. */
function Picture({ found, name, unit }: { found: Series; name: string; unit: string }) {
  const show = useShown();
  const { at, low, high, mean } = found.series;
  const plan = found.planned;
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
  const years = [...new Set(at.map((moment) => moment.slice(0, 7)))];
  const every = Math.max(1, Math.ceil(years.length / 8));
  return (
    <Wide picture label={`${name} over the time on record`}>
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
              data-axis={found.channel}
              x={LEFT - 5}
              y={y(value) + 4}
              textAnchor="end"
              className="fill-ink2 text-[11px]"
            >
              {show(value, unit)}
            </text>
          </g>
        ))}
        {years
          .filter((_, index) => index % every === 0)
          .map((month) => (
            <text
              key={month}
              x={x(Date.parse(`${month}-01T00:00:00Z`))}
              y={HEIGHT + 16}
              className="fill-ink2 text-[11px]"
            >
              {month}
            </text>
          ))}
        {plan && (
          <polygon
            points={[...points(plan.low), ...points(plan.high).reverse()].join(" ")}
            className="fill-ink2/20"
          />
        )}
        <polygon points={[...points(high), ...points(low).reverse()].join(" ")} className="fill-store/30" />
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
        Blue runs from least to most, the line is the mean
        {plan && "; grey is what four weather years in five of the plan have then, dashed its middle"}.
      </p>
    </Wide>
  );
}

function Channel() {
  const { view } = useDesk();
  const [channel, setChannel] = useState("volts");
  const { data } = useQuery({
    queryKey: ["series", view.site_id, view.id, view.revision, channel],
    placeholderData: (before) => before,
    queryFn: () =>
      answer(
        client.GET("/api/designs/{design_id}/series", {
          params: { path: { design_id: view.id }, query: { channel } },
        }),
      ),
  });
  const named = CHANNELS.find(([id]) => id === data?.channel);
  return (
    <div className="mb-3">
      <label className="mb-1 flex items-center gap-2">
        Show
        <select className="field w-auto" value={channel} onChange={(event) => setChannel(event.target.value)}>
          {CHANNELS.map(([id, name]) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </select>
      </label>
      {data && named && data.series.at.length > 1 ? (
        <Picture found={data} name={named[1]} unit={named[2]} />
      ) : (
        <p className="text-ink2">{data ? "Nothing of it is on record." : "Drawing …"}</p>
      )}
    </div>
  );
}

/** Which input of the plan is most likely wrong. */
function Explanations({ fit }: { fit: NonNullable<Record_["fit"]> }) {
  const { view, editor } = useDesk();
  const show = useShown();
  return (
    <>
      <p className="mb-2 text-[14px]">
        <b className="font-[640]">{fit.words}</b>
      </p>
      <ul className="mb-3">
        {fit.explanations
          .filter((item) => item.likelihood >= LIKELY)
          .map((item) => (
            <li key={item.id} className="flex flex-wrap items-baseline gap-x-3 py-0.5">
              <span className="w-14 text-right">{Math.round(100 * item.likelihood)} %</span>
              <span className="min-w-0 flex-1">{item.words}</span>
              {item.change && (
                <button
                  type="button"
                  className="btn btn-xs btn-ghost text-act"
                  onClick={() => item.change && editor.edit(...editsOf(item.change.patch))}
                >
                  {item.change.label} in {view.document.name}
                </button>
              )}
            </li>
          ))}
      </ul>
      <Wide label="Planned and measured">
        <table className="w-full max-w-[34rem]">
          <thead>
            <tr className="border-b border-hair text-ink2">
              <td />
              <th scope="col" className="text-right font-normal">
                Planned
              </th>
              <th scope="col" className="text-right font-normal">
                Measured
              </th>
            </tr>
          </thead>
          <tbody>
            {fit.compared.map((item) => (
              <tr key={item.label} className="border-b border-hair2">
                <th scope="row" className="text-left font-normal">
                  {item.label}
                </th>
                <td className="text-right">{show(item.planned, item.unit)}</td>
                <td className="text-right font-[640]">{show(item.measured, item.unit)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </Wide>
    </>
  );
}

/** The record in a picture, and the plan against it. */
export function PlanAgainst({ record }: { record: Record_ }) {
  if (record.span.rows === 0) {
    return (
      <p className="mb-2 text-ink2">
        Nothing on record yet. A week of a monitor’s file says which guess of the plan is wrong.
      </p>
    );
  }
  return (
    <>
      <p className="mb-2 text-[12px] text-ink2">
        {record.span.rows.toLocaleString()} rows, {record.days} whole days, {record.gaps} gaps;{" "}
        {record.span.first?.slice(0, 10)} to {record.span.last?.slice(0, 10)}.
      </p>
      {record.fit && <Explanations fit={record.fit} />}
      <Channel />
    </>
  );
}
