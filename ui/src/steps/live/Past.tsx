import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client } from "../../api/client";
import type { components } from "../../api/schema";
import { roundTicks } from "../../charts/ticks";
import { timeTicks } from "../../charts/timeTicks";
import { useDesk } from "../../kit/context";
import { useShown } from "../../kit/fields";
import { Part, Wide } from "../../kit/layout";

type Series = components["schemas"]["LiveSeries"]["series"];
const [LEFT, WIDTH, HEIGHT, MARKS] = [46, 640, 140, 8];
const CHANNELS: [string, string, string][] = [
  ["charge_share", "State of charge", "share"],
  ["volts", "Bank volts", "V"],
  ["charge_a", "Charging amps", "A"],
  ["load_a", "Load amps", "A"],
  ["box_c", "Box", "°C"],
];
const SPANS = ["day", "week", "month", "year", "decade"];

function Picture(props: { series: Series; name: string; unit: string; zone: string | null | undefined }) {
  const { series, name, unit, zone } = props;
  const show = useShown();
  const known = [...series.low, ...series.high].filter((value) => value !== null);
  const [least, most] = [Math.min(...known), Math.max(...known)];
  const times = series.at.map((moment) => Date.parse(moment));
  const [first, last] = [times[0] ?? 0, times.at(-1) ?? 1];
  const x = (time: number) => LEFT + ((time - first) / Math.max(last - first, 1)) * WIDTH;
  const y = (value: number) => HEIGHT - ((value - least) / Math.max(most - least, 1e-6)) * (HEIGHT - 10);
  const points = (values: readonly (number | null)[]) =>
    values.flatMap((value, index) => (value === null ? [] : [`${x(times[index] ?? 0)},${y(value)}`]));
  return (
    <Wide picture label={`${name} up to now`}>
      <svg
        viewBox={`0 0 ${LEFT + WIDTH + 10} ${HEIGHT + 22}`}
        className="w-full min-w-[520px]"
        role="img"
        aria-label={`${name} from ${show(least, unit)} to ${show(most, unit)}`}
      >
        {roundTicks(least, most, 4).map((value) => (
          <g key={value}>
            <path d={`M${LEFT} ${y(value)}H${LEFT + WIDTH}`} className="stroke-hair2" strokeWidth="0.8" />
            <text
              data-axis="past"
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
        <polygon
          points={[...points(series.high), ...points(series.low).reverse()].join(" ")}
          className="fill-store/30"
        />
        <polyline
          points={points(series.mean).join(" ")}
          className="fill-none stroke-store"
          strokeWidth="1.4"
        />
      </svg>
    </Wide>
  );
}

function Choice(props: {
  label: string;
  value: string;
  values: [string, string][];
  onChange: (value: string) => void;
}) {
  return (
    <label className="flex items-center gap-2">
      {props.label}
      <select
        className="field w-auto"
        value={props.value}
        onChange={(event) => props.onChange(event.target.value)}
      >
        {props.values.map(([id, name]) => (
          <option key={id} value={id}>
            {name}
          </option>
        ))}
      </select>
    </label>
  );
}

/** What it said, over a day to a decade. */
export function Past({ zone }: { zone: string | null | undefined }) {
  const { view } = useDesk();
  const [channel, setChannel] = useState("charge_share");
  const [span, setSpan] = useState("week");
  const { data } = useQuery({
    queryKey: ["live", view.site_id, "series", channel, span],
    placeholderData: (before) => before,
    queryFn: () =>
      answer(
        client.GET("/api/designs/{design_id}/live-series", {
          params: { path: { design_id: view.id }, query: { channel, span } },
        }),
      ),
  });
  const named = CHANNELS.find(([id]) => id === data?.channel);
  return (
    <Part title="So far" note="the band runs from least to most, the line is the mean">
      <div className="mb-2 flex flex-wrap gap-x-6 gap-y-1">
        <Choice
          label="Show"
          value={channel}
          values={CHANNELS.map(([id, name]) => [id, name])}
          onChange={setChannel}
        />
        <Choice
          label="over the last"
          value={span}
          values={SPANS.map((name) => [name, name])}
          onChange={setSpan}
        />
      </div>
      {data && named && data.series.at.length > 1 ? (
        <Picture series={data.series} name={named[1]} unit={named[2]} zone={zone} />
      ) : (
        <p className="text-ink2">{data ? "Nothing of it yet." : "Drawing …"}</p>
      )}
    </Part>
  );
}
