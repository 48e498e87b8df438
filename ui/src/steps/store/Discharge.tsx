import { useDesk, useFigure } from "../../kit/context";
import { Figure } from "../../kit/Figure";
import { useShown } from "../../kit/fields";
import { Part, Wide } from "../../kit/layout";

const WIDTH = 320;
const HEIGHT = 120;
const LINES = [
  ["rest_v", "at rest", "stroke-store", ""],
  ["mean_v", "at average load", "stroke-draw", ""],
  ["peak_v", "at peak load", "stroke-draw", "4 3"],
] as const;

/** Volts at the posts from full to empty: rested, at average load and while everything keys. */
export function Discharge() {
  const { view } = useDesk();
  const figure = useFigure();
  const show = useShown();
  const store = view.report.store;
  if (!store) return null;
  const points = store.discharge;
  const tabled = points.filter((point) => Math.round(point.charge_share * 10) % 2 === 0);
  const volts = points.flatMap((point) => [point.rest_v, point.peak_v]);
  const low = Math.min(...volts);
  const span = Math.max(...volts) - low || 1;
  const x = (share: number) => (1 - share) * WIDTH;
  const y = (value: number) => HEIGHT - ((value - low) / span) * (HEIGHT - 8) - 4;
  const end = 1 - (figure(store.depth)?.value ?? 1);
  return (
    <Part
      title="Volts during discharge"
      note={`${show(figure(store.end_peak_v)?.value, "V")} at the battery posts under peak load, at the lowest charge allowed`}
    >
      <svg
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        className="mb-1 w-full border-b border-l border-hair"
        aria-hidden="true"
      >
        <rect x={x(end)} y="0" width={WIDTH - x(end)} height={HEIGHT} className="fill-hair2" />
        {LINES.map(([key, name, className, dash]) => (
          <polyline
            key={name}
            points={points.map((point) => `${x(point.charge_share)},${y(point[key])}`).join(" ")}
            fill="none"
            className={className}
            strokeWidth="1.5"
            strokeDasharray={dash}
          />
        ))}
      </svg>
      <Wide label="Volts by charge">
        <table className="w-full text-[12px]">
          <thead>
            <tr className="text-ink2">
              <th scope="col" className="text-left font-normal">
                Charge
              </th>
              {tabled.map((point) => (
                <th key={point.charge_share} scope="col" className="text-right font-normal">
                  {Math.round(point.charge_share * 100)} %
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {LINES.map(([key, name, className, dash]) => (
              <tr key={name}>
                <th scope="row" className="text-left font-normal whitespace-nowrap text-ink2">
                  <svg viewBox="0 0 16 6" width="16" height="6" className="mr-1 inline" aria-hidden="true">
                    <path d="M0 3H16" className={className} strokeWidth="2" strokeDasharray={dash} />
                  </svg>
                  {name}
                </th>
                {tabled.map((point) => (
                  <td key={point.charge_share} className="text-right">
                    {point[key].toFixed(2)}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </Wide>
      <p className="mt-1">
        Internal resistance <Figure of={figure(store.resistance_ohm)} />. At the lowest charge allowed:{" "}
        <Figure of={figure(store.end_mean_v)} /> at average load and <Figure of={figure(store.end_peak_v)} />{" "}
        at peak load.
      </p>
    </Part>
  );
}
