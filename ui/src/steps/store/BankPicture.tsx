import { useDesk } from "../../kit/context";

const MOST_DRAWN = 8;

/** The bank as units in rows: across is series (volts), down is parallel (amp-hours). */
export function BankPicture() {
  const { view } = useDesk();
  const bank = view.document.store.bank;
  if (!bank) return null;
  const { series = 1, parallel = 1, unit_v = 12 } = bank;
  const rows = Math.min(parallel, MOST_DRAWN);
  const columns = Math.min(series, MOST_DRAWN);
  const units = series * parallel;
  return (
    <figure className="mb-4">
      <figcaption className="mb-1">
        {units === 1 ? "One battery" : `${units} batteries: ${series} in series, ${parallel} in parallel`}.
        {(rows < parallel || columns < series) && " Not all are shown."}
      </figcaption>
      <div className="grid w-fit gap-1" aria-hidden="true">
        {Array.from({ length: rows }, (_, row) => (
          <div key={row} className="flex gap-1">
            {Array.from({ length: columns }, (_, column) => (
              <span
                key={column}
                className="grid h-7 w-14 place-items-center rounded-[3px] border border-store bg-store/15 text-[11px]"
              >
                {unit_v} V
              </span>
            ))}
          </div>
        ))}
      </div>
    </figure>
  );
}
