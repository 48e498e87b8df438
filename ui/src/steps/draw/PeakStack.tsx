import { useDesk, useFigure } from "../../kit/context";
import { Figure } from "../../kit/Figure";
import { NumberField } from "../../kit/fields";
import { Part } from "../../kit/layout";

/** Everything at once: standing current, the largest key-downs, and what if every radio transmits at once. */
export function PeakStack() {
  const { view } = useDesk();
  const figure = useFigure();
  const { draw } = view.report;
  const peak = figure(draw.peak_a)?.value ?? 0;
  const everything = figure(draw.everything_keys_a)?.value ?? 0;
  const low = figure(draw.low_end_peak_a)?.value ?? 0;
  const most = Math.max(peak, everything, low, 1e-9);
  const rows = [
    ["Most at one time", draw.peak_a, peak, "bg-draw/75"],
    ["on a nearly empty battery", draw.low_end_peak_a, low, "bg-draw/50"],
    ["if every radio transmits", draw.everything_keys_a, everything, "bg-draw/25"],
  ] as const;
  return (
    <Part title="Everything at once" note={draw.peak_takeaway}>
      <ul className="grid gap-1">
        {rows.map(([name, key, value, fill]) => (
          <li key={name} className="grid grid-cols-[10rem_1fr_4.5rem] items-center gap-3">
            <span>{name}</span>
            <span className="block h-3 bg-hair2" aria-hidden="true">
              <span className={`block h-3 ${fill}`} style={{ width: `${(100 * value) / most}%` }} />
            </span>
            <span className="text-right">
              <Figure of={figure(key)} />
            </span>
          </li>
        ))}
      </ul>
      <div className="mt-3 grid items-end gap-4 sm:grid-cols-2">
        <p>
          A power supply of <Figure of={figure(draw.supply_a)} /> would be enough.
        </p>
        <NumberField label="Your power supply" path={["draw", "supply_a"]} dimension="amps" known optional />
      </div>
    </Part>
  );
}
