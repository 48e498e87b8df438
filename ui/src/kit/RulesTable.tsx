import { useDesk, useFigure } from "./context";
import { Figure } from "./Figure";
import { Part } from "./layout";

/** The quick rule and the worst-month rule side by side, beside what the design has. */
export function RulesTable({ which }: { which: "bank" | "array" }) {
  const { view } = useDesk();
  const figure = useFigure();
  const { sizing, store, array, verdict } = view.report;
  const rules = [
    ["Quick rule", sizing.quick],
    ["Worst-month rule", sizing.worst_month],
  ] as const;
  const have = which === "bank" ? store?.label_ah : array.watts;
  return (
    <Part title="Size by rule of thumb" note="two rules side by side, and what you have">
      <table className="w-full">
        <thead>
          <tr className="text-[12px] text-ink2">
            <th scope="col" className="text-left font-normal">
              Rule
            </th>
            <th scope="col" className="text-right font-normal">
              {which === "bank" ? "Label" : "Panels"}
            </th>
            <th scope="col" className="text-right font-normal">
              In units like yours
            </th>
          </tr>
        </thead>
        <tbody>
          {rules.map(([name, rule]) => (
            <tr key={name} className="border-t border-hair2">
              <th scope="row" className="py-1 text-left font-normal">
                {name}
              </th>
              <td className="text-right">
                <Figure of={figure(which === "bank" ? rule.bank_ah : rule.array_w)} />
              </td>
              <td className="text-right">
                <Figure of={figure(which === "bank" ? rule.bank_units : rule.array_panels)} />
              </td>
            </tr>
          ))}
          <tr className="border-t border-hair font-[640]">
            <th scope="row" className="py-1 text-left">
              You have
            </th>
            <td className="text-right">
              <Figure of={figure(have)} />
            </td>
            <td />
          </tr>
        </tbody>
      </table>
      <p className="mt-2 text-ink2">
        Rules of thumb use average sun. The verdict comes from many weather years, hour by hour:{" "}
        {verdict.headline}
      </p>
      {which === "array" && sizing.ratio && (
        <p className="mt-2">
          In the worst month the panels give <Figure of={figure(sizing.ratio)} /> times what you use. Aim for{" "}
          <Figure of={figure(sizing.ratio_asked)} />.
        </p>
      )}
      {which === "bank" && sizing.storage_days && (
        <p className="mt-2">
          As a cross-check: a published rule asks for <Figure of={figure(sizing.storage_days)} /> of battery
          at this much sun.
        </p>
      )}
    </Part>
  );
}
