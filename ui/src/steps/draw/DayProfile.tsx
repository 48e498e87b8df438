import { useDesk } from "../../kit/context";
import { Part } from "../../kit/layout";
import { shortNumber } from "../../kit/units";

const HEIGHT_PX = 120;
const FILL: Record<string, string> = {
  vital: "bg-draw",
  useful: "bg-draw/60",
  comfort: "bg-draw/30",
  none: "bg-ink2/50",
};
const NAME: Record<string, string> = {
  vital: "Vital",
  useful: "Useful",
  comfort: "Nice to have",
  none: "no priority set",
};

/** Average amps by hour, stacked by worth. */
export function DayProfile() {
  const { view } = useDesk();
  const { tiers, hours_a, total_a, takeaway } = view.report.draw.day;
  const most = Math.max(...total_a, 1e-9);
  return (
    <Part title="Use by hour of day" note={takeaway}>
      <div
        className="grid grid-cols-[repeat(24,1fr)] items-end gap-px"
        style={{ height: HEIGHT_PX }}
        aria-hidden="true"
      >
        {hours_a.map((stack, hour) => (
          <div
            key={hour}
            className="flex h-full flex-col-reverse"
            title={`${hour} h: ${shortNumber(total_a[hour] ?? 0)} A`}
          >
            {stack.map((amps, index) => (
              <span
                key={tiers[index]}
                className={`block ${FILL[tiers[index] ?? "none"]}`}
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
        {tiers.map((tier) => (
          <span key={tier} className="flex items-center gap-1.5">
            <span className={`inline-block size-2.5 ${FILL[tier]}`} aria-hidden="true" /> {NAME[tier]}
          </span>
        ))}
      </p>
      <table className="sr-only">
        <caption>Average amps by hour</caption>
        <tbody>
          {total_a.map((amps, hour) => (
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
