import { useDesk, useFigure } from "../../kit/context";
import { Figure } from "../../kit/Figure";
import { Heads, Part } from "../../kit/layout";

/** How often each set falls under its window when keyed, over the weather years. */
export function ThroughTheYears() {
  const { view } = useDesk();
  const figure = useFigure();
  const sets = view.report.rehearsed?.brown ?? [];
  if (sets.length === 0) return null;
  return (
    <Part
      title="Low volts over the weather years"
      note="hours a year; volts at each radio while transmitting, at that hour’s charge"
    >
      <table className="w-full max-w-xl">
        <thead>
          <Heads names={["Set", "On", "Too few volts", "Cuts off (brown-out)"]} />
        </thead>
        <tbody>
          {sets.map((item) => (
            <tr key={item.load_id} className="border-b border-hair2">
              <th scope="row" className="px-1.5 py-1 text-left font-normal">
                {item.name}
              </th>
              {[item.on_h, item.below_h, item.brown_h].map((key) => (
                <td key={key} className="px-1.5 text-right">
                  <Figure of={figure(key)} />
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </Part>
  );
}
