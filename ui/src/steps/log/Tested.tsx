import type { components } from "../../api/schema";
import { roundTicks } from "../../charts/ticks";
import { useDesk } from "../../kit/context";
import { useShown } from "../../kit/fields";
import { Part, Wide } from "../../kit/layout";
import { editsOf } from "../../kit/remedy";

type Log = components["schemas"]["LogView"];
const [LEFT, WIDTH, HEIGHT] = [46, 420, 110];

/** Tested battery capacity, over its years of service. */
function Held({ held }: { held: Log["held"] }) {
  const show = useShown();
  const [first, last] = [held[0], held.at(-1)];
  if (!first || !last || held.length < 2) return null;
  const times = held.map((row) => Date.parse(row.taken_at));
  const [from, to] = [Math.min(...times), Math.max(...times)];
  const most = Math.max(...held.map((row) => row.held_ah)) * 1.1;
  const x = (time: number) => LEFT + ((time - from) / Math.max(to - from, 1)) * WIDTH;
  const y = (ah: number) => HEIGHT - (ah / most) * (HEIGHT - 8);
  return (
    <>
      <p className="mb-1">
        Tested at {show(first.held_ah, "A·h")} on {first.taken_at.slice(0, 10)}, at{" "}
        {show(last.held_ah, "A·h")} on {last.taken_at.slice(0, 10)}: {show(last.label_share, "share")} of its
        label.
      </p>
      <Wide picture label="Tested battery capacity">
        <svg
          viewBox={`0 0 ${LEFT + WIDTH + 20} ${HEIGHT + 20}`}
          className="w-full max-w-[36rem] min-w-[340px]"
          role="img"
          aria-label={`From ${show(first.held_ah, "A·h")} to ${show(last.held_ah, "A·h")} in ${held.length} tests`}
        >
          {roundTicks(0, most, 4).map((value) => (
            <g key={value}>
              <path d={`M${LEFT} ${y(value)}H${LEFT + WIDTH}`} className="stroke-hair2" strokeWidth="0.8" />
              <text
                data-axis="held"
                x={LEFT - 5}
                y={y(value) + 4}
                textAnchor="end"
                className="fill-ink2 text-[11px]"
              >
                {show(value, "A·h")}
              </text>
            </g>
          ))}
          <polyline
            points={held.map((row, index) => `${x(times[index] ?? 0)},${y(row.held_ah)}`).join(" ")}
            className="fill-none stroke-store"
            strokeWidth="1.4"
          />
          {held.map((row, index) => (
            <circle
              key={row.taken_at}
              cx={x(times[index] ?? 0)}
              cy={y(row.held_ah)}
              r="3"
              className="fill-store"
            />
          ))}
          <text x={LEFT} y={HEIGHT + 15} className="fill-ink2 text-[11px]">
            {first.taken_at.slice(0, 10)}
          </text>
          <text x={LEFT + WIDTH} y={HEIGHT + 15} textAnchor="end" className="fill-ink2 text-[11px]">
            {last.taken_at.slice(0, 10)}
          </text>
        </svg>
      </Wide>
    </>
  );
}

/** What each device adds to the noise, by band, the loudest first. */
function Noise({ rows }: { rows: Log["noise"] }) {
  return (
    <Wide label="Noise by device and band">
      <table className="mt-3 w-full max-w-[34rem]">
        <caption className="text-left text-ink2">Noise by device and band, loudest first</caption>
        <thead>
          <tr className="border-b border-hair text-ink2">
            <th scope="col" className="text-left font-normal">
              Device
            </th>
            <th scope="col" className="text-right font-normal">
              MHz
            </th>
            <th scope="col" className="text-right font-normal">
              Off, dBm
            </th>
            <th scope="col" className="text-right font-normal">
              On, dBm
            </th>
            <th scope="col" className="text-right font-normal">
              Added noise, dB
            </th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr key={`${row.device} ${row.band_mhz}`} className="border-b border-hair2">
              <th scope="row" className="text-left font-normal">
                {row.device}
              </th>
              <td className="text-right">{row.band_mhz}</td>
              <td className="text-right">{Math.round(row.off_dbm)}</td>
              <td className="text-right">{Math.round(row.on_dbm)}</td>
              <td className="text-right font-[640]">{Math.round(row.added_db)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </Wide>
  );
}

/** What tests of many days say together. */
export function Tested({ log }: { log: Log }) {
  const { view, editor } = useDesk();
  const { exponent, held, noise } = log;
  if (!exponent && held.length < 2 && noise.length === 0) return null;
  const change = exponent?.change;
  return (
    <Part title="Test results together" note="over the years and compared">
      <Held held={held} />
      {exponent && (
        <p className="mt-2">
          {exponent.words}
          {change && (
            <button
              type="button"
              className="btn btn-sm btn-ghost text-act"
              onClick={() => editor.edit(...editsOf(change.patch))}
            >
              {change.label} in {view.document.name}
            </button>
          )}
        </p>
      )}
      {noise.length > 0 && <Noise rows={noise} />}
    </Part>
  );
}
