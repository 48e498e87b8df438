import { useDesk, useFigure } from "../../kit/context";
import { Figure } from "../../kit/Figure";
import { Part } from "../../kit/layout";

/** The same usable energy in every chemistry. */
export function Compared() {
  const { view } = useDesk();
  const figure = useFigure();
  const store = view.report.store;
  if (!store) return null;
  const energy = figure(store.usable_wh);
  return (
    <Part
      title="The same usable energy in every chemistry"
      note={
        <>
          each one new, with the same <Figure of={energy} /> you can use now
        </>
      }
    >
      <div className="overflow-x-auto">
        <table className="w-full min-w-[38rem]">
          <thead>
            <tr className="text-[12px] text-ink2">
              {["Chemistry", "Label", "Weight", "Price", "Years", "Vent", "In the cold"].map((name) => (
                <th
                  key={name}
                  scope="col"
                  className="px-2 text-right font-normal first:pl-0 first:text-left last:text-left"
                >
                  {name}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {store.compared.map((row) => (
              <tr
                key={row.chemistry}
                className={`border-t border-hair2 ${row.in_use ? "bg-actsoft font-[640]" : ""}`}
              >
                <th scope="row" className="py-1 text-left font-[inherit] whitespace-nowrap">
                  {row.name}
                </th>
                {[row.label_ah, row.weight_kg, row.price, row.years].map((key) => (
                  <td key={key} className="px-2 text-right">
                    <Figure of={figure(key)} />
                  </td>
                ))}
                <td className="px-2 text-right">
                  {row.vent_cm2 ? <Figure of={figure(row.vent_cm2)} /> : "none"}
                </td>
                <td className="px-2 text-[12px]">{row.cold}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </Part>
  );
}
