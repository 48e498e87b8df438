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
      title="Through the weather years"
      note="hours a year, the volts of each set keyed at the charge of the hour"
    >
      <table className="w-full max-w-xl">
        <thead>
          <Heads names={["Set", "On", "Under its window", "Browns out"]} />
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
