import { ReadingEntry } from "./ReadingEntry";
import { type Asked, type Checked, shown, type View } from "./useCheck";

type Props = { view: View; onRead: (asked: Asked, checked: Checked) => void };

/** The measurement that parts the causes best, what each would show, and its caution. */
export function NextMeasure({ view, onRead }: Props) {
  const { next } = view.diagnosis;
  if (!next) {
    return <p className="my-3 text-ink2">No further measurement at this moment would tell more.</p>;
  }
  const { point, moment } = next;
  return (
    <section aria-label="Measure next" className="my-3 rounded border border-hair bg-sheet p-3">
      <h3 className="text-[14px]">Measure next: {next.words}</h3>
      <p className="text-ink2">
        {point.minutes.toFixed(0)} {point.minutes === 1 ? "minute" : "minutes"}.
      </p>
      <ul className="my-2">
        {next.foreseen.map((one) => (
          <li key={one.cause} className="flex justify-between gap-3 py-0.5">
            <span className="min-w-0">If: {one.label}</span>
            <span className="whitespace-nowrap font-[640] tabular-nums">
              {shown(one.low, point.unit) === shown(one.high, point.unit)
                ? shown(one.low, point.unit)
                : `${shown(one.low, point.unit)} to ${shown(one.high, point.unit)}`}
            </span>
          </li>
        ))}
      </ul>
      <p className="mb-2 border-l-3 border-stop pl-3">{point.caution}</p>
      <ReadingEntry
        key={`${point.id} ${moment.keyed}`}
        moment={moment}
        point={point}
        label={`${point.unit === "V" ? "Volts" : "Amps"} ${point.name}`}
        onRead={onRead}
      />
    </section>
  );
}
