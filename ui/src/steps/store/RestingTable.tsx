import { useDesk } from "../../kit/context";
import { Part } from "../../kit/layout";
import { RestReading } from "./RestReading";

/** Resting volts against charge, for a card on the wall. */
export function RestingTable() {
  const { view } = useDesk();
  const rows = view.report.store?.resting ?? [];
  return (
    <Part title="Resting volts" note={view.report.store?.rest_note}>
      <RestReading />
      <table className="w-full max-w-sm">
        <thead>
          <tr className="text-[12px] text-ink2">
            <th scope="col" className="text-left font-normal">
              Charge
            </th>
            <th scope="col" className="text-right font-normal">
              Volts
            </th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr key={row.charge_share} className="border-t border-hair2">
              <td>{Math.round(row.charge_share * 100)} %</td>
              <td className="text-right">{row.rest_v.toFixed(2)} V</td>
            </tr>
          ))}
        </tbody>
      </table>
    </Part>
  );
}
