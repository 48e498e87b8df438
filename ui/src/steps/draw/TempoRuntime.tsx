import { useDesk, useFigure } from "../../kit/context";
import { Figure } from "../../kit/Figure";
import { NumberField } from "../../kit/fields";
import { Part } from "../../kit/layout";
import { TempoOverrides } from "./TempoOverrides";

const TIER_NAME: Record<string, string> = {
  comfort: "Nice to have",
  useful: "Useful",
  vital: "Vital",
  none: "No priority set",
};

/** The tempos side by side, the one it is sized on marked; and what goes when the lower tiers are shed. */
export function TempoRuntime() {
  const { view, editor } = useDesk();
  const figure = useFigure();
  const { tempo_runtime: runtime, draw } = view.report;
  const { sized_on } = view.document.draw;
  return (
    <Part title="How long it lasts at each activity level" note="with no sun at all">
      <table className="w-full">
        <thead>
          <tr className="text-[12px] text-ink2">
            <th scope="col" className="text-left font-normal">
              Size for
            </th>
            <th scope="col" className="w-32 text-right font-normal">
              Transmit, %
            </th>
            <th scope="col" className="w-24 text-right font-normal">
              Use per day
            </th>
            <th scope="col" className="w-24 text-right font-normal">
              Battery lasts
            </th>
          </tr>
        </thead>
        <tbody>
          {runtime.tempos.map((tempo) => (
            <tr
              key={tempo.id}
              className={`border-t border-hair2 ${tempo.id === sized_on ? "bg-actsoft font-[640]" : ""}`}
            >
              <th scope="row" className="py-1 text-left font-[inherit]">
                <label className="flex items-center gap-2">
                  <input
                    type="radio"
                    name="sized-on"
                    checked={tempo.id === sized_on}
                    onChange={() => editor.edit({ kind: "set", path: ["draw", "sized_on"], value: tempo.id })}
                  />
                  {tempo.name}
                </label>
              </th>
              <td className="text-right font-normal">
                <NumberField
                  label={`${tempo.name}: transmit % of the time; leave empty to keep each load’s own figure`}
                  path={["draw", "tempos", { id: tempo.id }, "transmit_share"]}
                  dimension="share"
                  known
                  optional
                  bare
                />
              </td>
              <td className="text-right">
                <Figure of={figure(tempo.daily_ah)} />
              </td>
              <td className="text-right">
                <Figure of={figure(tempo.hours)} />
              </td>
            </tr>
          ))}
        </tbody>
        <tbody>
          {runtime.shed.map((item) => (
            <tr key={item.tiers.join()} className="border-t border-hair2">
              <th scope="row" colSpan={2} className="py-1 text-left font-normal">
                {item.tiers.map((tier) => TIER_NAME[tier]).join(" and ")} loads off
              </th>
              <td className="text-right">
                <Figure of={figure(item.daily_ah)} />
              </td>
              <td className="text-right">
                <Figure of={figure(item.hours)} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <details className="mt-2">
        <summary className="cursor-pointer text-act">Change single loads</summary>
        <TempoOverrides />
      </details>
      <p className="mt-2">
        {draw.tiers.map((tier, index) => (
          <span key={tier.tier}>
            {index > 0 && " · "}
            {TIER_NAME[tier.tier]} <Figure of={figure(tier.daily_ah)} />
          </span>
        ))}{" "}
        <span className="text-ink2">a day</span>
      </p>
    </Part>
  );
}
