import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client } from "../../api/client";
import type { components } from "../../api/schema";
import { CHANNELS } from "../../charts/channels";
import { TimeBand } from "../../charts/TimeBand";
import { useDesk } from "../../kit/context";
import { dayInWords } from "../../kit/dates";
import { useShown } from "../../kit/fields";
import { Wide } from "../../kit/layout";
import { editsOf } from "../../kit/remedy";

type Record_ = components["schemas"]["RecordView"];
const LIKELY = 0.02;

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
        <TimeBand
          label={`${named[1]} over the recorded time`}
          series={data.series}
          plan={data.planned}
          name={named[1]}
          unit={named[2]}
          zone={view.document.place?.time_zone}
        />
      ) : (
        <p className="text-ink2">{data ? "No readings of this yet." : "Drawing …"}</p>
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
  const { view } = useDesk();
  const zone = view.document.place?.time_zone;
  if (record.span.rows === 0) {
    return (
      <p className="mb-2 text-ink2">
        Nothing imported yet. One week of a monitor’s log shows which guess in the plan is wrong.
      </p>
    );
  }
  return (
    <>
      <p className="mb-2 text-[12px] text-ink2">
        {record.span.rows.toLocaleString()} rows, {record.days} whole days, {record.gaps} gaps;{" "}
        {dayInWords(record.span.first, zone)} to {dayInWords(record.span.last, zone)}.
      </p>
      {record.trouble && (
        <p role="alert" className="mb-2">
          The record cannot be compared with the plan: a fault of the program ({record.trouble}). The record
          itself is kept.
        </p>
      )}
      {record.fit && <Explanations fit={record.fit} />}
      <Channel />
    </>
  );
}
