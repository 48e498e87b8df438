import type { Quantity, Verdict } from "../api/client";
import { useAttention } from "../app/attention";

export const MONTH_LETTERS = "JFMAMJJASOND".split("");
export const MONTHS = [
  "January",
  "February",
  "March",
  "April",
  "May",
  "June",
  "July",
  "August",
  "September",
  "October",
  "November",
  "December",
];

type Props = { verdict: Verdict; figures: Record<string, Quantity>; ask?: boolean };

type MonthState = Verdict["months"][number]["state"];
const COLOURS = { good: "bg-good", edge: "bg-sun", short: "bg-stop", unknown: "bg-ink2" };

/** A share in words that never rounds up to all of it. */
export function percent(share: number): string {
  const value = share * 100;
  return value > 99 && value < 100 ? `${Math.min(value, 99.9).toFixed(1)} %` : `${Math.round(value)} %`;
}

function Cell({ share, state }: { share: number | undefined; state: MonthState }) {
  return (
    <span className="relative block h-5 overflow-hidden rounded-[2px] border border-hair bg-sheet">
      {share !== undefined && (
        <span
          className={`absolute inset-x-0 bottom-0 ${COLOURS[state ?? "short"]}`}
          style={{ height: `${Math.max(4, Math.min(1, share) * 100)}%` }}
        />
      )}
    </span>
  );
}

/** Twelve months, January first on either side of the equator, filled by what is served. */
export function MonthStrip({ verdict, figures, ask = false }: Props) {
  const open = useAttention((attention) => attention.ask);
  return (
    <ul className="grid grid-cols-12 gap-[3px]" aria-label={`Month by month: ${verdict.share_of}`}>
      {verdict.months.map(({ month, in_use, share, state }) => {
        const quantity = share ? figures[share] : undefined;
        const value = quantity?.value ?? undefined;
        const words = !in_use
          ? "not in use"
          : value === undefined
            ? "not known"
            : `${percent(value)} ${verdict.share_of}${state === "edge" ? ", on the edge" : ""}`;
        const name = `${MONTHS[month - 1]}: ${words}`;
        const hard = month === verdict.hard_month;
        const letter = (
          <span className={`block text-center text-[11px] ${hard ? "font-[700] text-ink" : "text-ink2"}`}>
            {MONTH_LETTERS[month - 1]}
          </span>
        );
        return (
          <li key={month}>
            {quantity && ask ? (
              <button
                type="button"
                title={name}
                aria-label={`${name}. Show working`}
                className="block w-full"
                onClick={() => open(quantity.key)}
              >
                <Cell share={value} state={state} />
                {letter}
              </button>
            ) : (
              <span title={name} className="block">
                <Cell share={value} state={state} />
                {letter}
                <span className="sr-only">{name}</span>
              </span>
            )}
          </li>
        );
      })}
    </ul>
  );
}
