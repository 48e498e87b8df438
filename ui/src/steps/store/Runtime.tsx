import { useDesk, useFigure } from "../../kit/context";
import { Figure } from "../../kit/Figure";
import { Part } from "../../kit/layout";

/** Hours without sun at each tempo. */
export function Runtime() {
  const { view } = useDesk();
  const figure = useFigure();
  const tempos = view.report.tempo_runtime.tempos;
  const longest = Math.max(...tempos.map((tempo) => figure(tempo.hours)?.value ?? 0), 1e-9);
  return (
    <Part title="How long it lasts at each activity level" note="without sun, in the worst month">
      <ol className="grid gap-1">
        {tempos.map((tempo) => {
          const hours = figure(tempo.hours);
          return (
            <li key={tempo.id} className="grid grid-cols-[6rem_1fr_5rem] items-center gap-2">
              <span className="truncate">{tempo.name}</span>
              <span className="relative block h-4 bg-hair2" aria-hidden="true">
                <span
                  className="absolute inset-y-0 left-0 bg-draw/60"
                  style={{ width: `${(100 * (hours?.value ?? longest)) / longest}%` }}
                />
              </span>
              <span className="text-right">
                <Figure of={hours} />
              </span>
            </li>
          );
        })}
      </ol>
    </Part>
  );
}
