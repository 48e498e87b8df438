import { useDesk, useFigure } from "../../kit/context";
import { Figure } from "../../kit/Figure";
import { Part } from "../../kit/layout";

/** From the label to what can be used, a step a row. */
export function Waterfall() {
  const { view } = useDesk();
  const figure = useFigure();
  const store = view.report.store;
  if (!store) return null;
  const steps = store.waterfall.map((key) => figure(key));
  const label = steps[0]?.value || 1;
  const usable = steps.at(-1)?.value ?? 0;
  return (
    <Part
      title="From label capacity to usable"
      note={`${Math.round((100 * usable) / label)} % of the label can be used`}
    >
      <ol className="grid gap-1">
        {steps.map((step, index) => {
          const value = step?.value ?? 0;
          const before = steps[index - 1]?.value ?? value;
          const name = step?.label ?? "";
          return (
            <li key={step?.key} className="grid grid-cols-[8.5rem_1fr_4.5rem] items-center gap-2">
              <span className="truncate" title={name}>
                {index === 0 ? "Label" : name}
              </span>
              <span className="relative block h-4 bg-hair2" aria-hidden="true">
                <span
                  className="absolute inset-y-0 left-0 bg-store/25"
                  style={{ width: `${(100 * before) / label}%` }}
                />
                <span
                  className="absolute inset-y-0 left-0 bg-store/75"
                  style={{ width: `${(100 * value) / label}%` }}
                />
              </span>
              <span className="text-right">
                <Figure of={step} />
              </span>
            </li>
          );
        })}
      </ol>
    </Part>
  );
}
