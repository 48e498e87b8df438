import { useDesk } from "../../kit/context";
import { Part } from "../../kit/layout";
import { MONTHS } from "../../kit/MonthStrip";
import { shortNumber } from "../../kit/units";

const HEIGHT_PX = 120;
const TIERS = ["vital", "useful", "comfort", "none"];
const FILL: Record<string, string> = {
  vital: "bg-draw",
  useful: "bg-draw/60",
  comfort: "bg-draw/30",
  none: "bg-ink2/50",
};
const NAME: Record<string, string> = {
  vital: "Vital",
  useful: "Useful",
  comfort: "Comfort",
  none: "no worth given",
};

function useHours() {
  const { view } = useDesk();
  const { draw } = view.report;
  const tierOf = new Map(view.document.draw.loads.map((load) => [load.id, load.tier ?? "none"]));
  const running = draw.loads.filter((load) => load.month === draw.month);
  const stacks = Array.from({ length: 24 }, (_, hour) =>
    TIERS.map((tier) =>
      running
        .filter((load) => tierOf.get(load.id) === tier)
        .reduce((sum, load) => sum + (load.hourly_a[hour] ?? 0), 0),
    ),
  );
  const totals = stacks.map((stack) => stack.reduce((sum, amps) => sum + amps, 0));
  const used = TIERS.filter((_, index) => stacks.some((stack) => (stack[index] ?? 0) > 0));
  return { stacks, totals, used, month: MONTHS[draw.month - 1] ?? "" };
}

/** Mean amps by clock hour, stacked by worth. */
export function DayProfile() {
  const { stacks, totals, used, month } = useHours();
  const most = Math.max(...totals, 1e-9);
  const busiest = totals.indexOf(most);
  const flat = most - Math.min(...totals) < 0.02 * most;
  const takeaway = flat
    ? `the same round the clock, ${shortNumber(most)} A: say by the clock when loads run to see the evening`
    : `busiest from ${busiest} to ${busiest + 1} o’clock, ${shortNumber(most)} A on average`;
  return (
    <Part title="The day" note={`${month}: ${takeaway}`}>
      <div
        className="grid grid-cols-[repeat(24,1fr)] items-end gap-px"
        style={{ height: HEIGHT_PX }}
        aria-hidden="true"
      >
        {stacks.map((stack, hour) => (
          <div
            key={hour}
            className="flex h-full flex-col-reverse"
            title={`${hour} h: ${shortNumber(totals[hour] ?? 0)} A`}
          >
            {stack.map((amps, index) => (
              <span
                key={TIERS[index]}
                className={`block ${FILL[TIERS[index] ?? "none"]}`}
                style={{ height: `${(100 * amps) / most}%` }}
              />
            ))}
          </div>
        ))}
      </div>
      <div className="mt-0.5 grid grid-cols-4 text-[11px] text-ink2" aria-hidden="true">
        {[0, 6, 12, 18].map((hour) => (
          <span key={hour}>{hour} h</span>
        ))}
      </div>
      <p className="mt-1 flex gap-4 text-[12px]">
        {used.map((tier) => (
          <span key={tier} className="flex items-center gap-1.5">
            <span className={`inline-block size-2.5 ${FILL[tier]}`} aria-hidden="true" /> {NAME[tier]}
          </span>
        ))}
      </p>
      <table className="sr-only">
        <caption>Mean amps by clock hour</caption>
        <tbody>
          {totals.map((amps, hour) => (
            <tr key={hour}>
              <th scope="row">{hour} h</th>
              <td>{shortNumber(amps)} A</td>
            </tr>
          ))}
        </tbody>
      </table>
    </Part>
  );
}
