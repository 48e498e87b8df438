import { useDesk, useFigure } from "../../kit/context";
import { Figure } from "../../kit/Figure";
import { Part } from "../../kit/layout";
import { MonthTable } from "../../kit/MonthTable";

/** The whole array on PWM and on MPPT, month by month. */
export function Beside() {
  const { view } = useDesk();
  const figure = useFigure();
  const { charging, verdict } = view.report;
  if (charging.beside.length === 0) return null;
  return (
    <Part title="PWM compared with MPPT" note={charging.beside_takeaway}>
      <div className="overflow-x-auto">
        <div className="min-w-[34rem]">
          <MonthTable
            firstColumn="w-16"
            hardMonth={verdict.hard_month}
            rows={charging.beside.map((row) => [
              `${row.kind.toUpperCase()} Ah`,
              row.months_ah.map((key) => <Figure key={key} of={figure(key)} unit={false} />),
            ])}
          />
        </div>
      </div>
    </Part>
  );
}
