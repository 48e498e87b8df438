import { useDesk, useFigure } from "../../kit/context";
import { Figure } from "../../kit/Figure";
import { Part } from "../../kit/layout";

/** Transmit watts against hours: each step can be taken. */
export function TurnDown() {
  const { view, editor } = useDesk();
  const figure = useFigure();
  const { power_steps: steps, turn_down_takeaway } = view.report.tempo_runtime;
  const loads = view.document.draw.loads.filter((load) => steps.some((step) => step.load_id === load.id));
  if (loads.length === 0) return null;
  return (
    <Part title="Turn the power down" note={turn_down_takeaway}>
      <ul className="grid gap-2">
        {loads.map((load) => (
          <li key={load.id} className="grid items-center gap-2 sm:grid-cols-[12rem_1fr]">
            <span className="truncate" title={load.name}>
              {load.name}
            </span>
            <ul className="grid grid-cols-4 gap-1.5">
              {steps
                .filter((step) => step.load_id === load.id)
                .map((step) => (
                  <li
                    key={step.watts}
                    className={`rounded border p-1.5 ${step.in_use ? "border-act bg-actsoft" : "border-hair"}`}
                  >
                    <button
                      type="button"
                      aria-pressed={step.in_use}
                      aria-label={`${load.name}: run ${step.watts} W`}
                      className="block w-full text-left font-[640] hover:underline"
                      onClick={() =>
                        editor.edit({
                          kind: "set",
                          path: ["draw", "loads", { id: load.id }, "power_w"],
                          value: { value: step.watts, basis: "stated" },
                        })
                      }
                    >
                      {step.watts} W
                    </button>
                    <span className="flex flex-wrap justify-between gap-x-2 text-[12px]">
                      <Figure of={figure(step.daily_ah)} />
                      {step.hours && <Figure of={figure(step.hours)} />}
                    </span>
                  </li>
                ))}
            </ul>
          </li>
        ))}
      </ul>
    </Part>
  );
}
