import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client } from "../../api/client";
import { CHANNELS } from "../../charts/channels";
import { TimeBand } from "../../charts/TimeBand";
import { useDesk } from "../../kit/context";
import { Part } from "../../kit/layout";

const SPANS = ["day", "week", "month", "year", "decade"];

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
    <Part title="History" note="readings, in site time">
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
        <TimeBand
          label={`${named[1]} up to now`}
          series={data.series}
          name={named[1]}
          unit={named[2]}
          zone={zone}
        />
      ) : (
        <p className="text-ink2">{data ? "No readings of this yet." : "Drawing …"}</p>
      )}
    </Part>
  );
}
