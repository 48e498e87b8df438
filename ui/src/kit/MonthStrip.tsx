import type { Quantity, Summary, Verdict } from "../api/client";
import { useAttention } from "./attention";

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

type StripMonth = {
  inUse: boolean;
  share: number | undefined;
  state: MonthState;
  wears?: boolean;
  figure?: string;
};
type Props = { shareOf: string; hardMonth: number; months: StripMonth[] };

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
          className={`month-fill absolute inset-x-0 bottom-0 ${COLOURS[state ?? "short"]}`}
          style={{ height: `${Math.max(4, Math.min(1, share) * 100)}%` }}
        />
      )}
    </span>
  );
}

/** Twelve months, January first on either side of the equator, filled by what is served. */
function Strip({ shareOf, hardMonth, months }: Props) {
  const open = useAttention((attention) => attention.ask);
  return (
    <ul className="grid grid-cols-12 gap-[3px]" aria-label={`Month by month, % ${shareOf}`}>
      {months.map(({ inUse, share, state, wears, figure }, index) => {
        const but = wears ? ", by going under the planned depth" : state === "edge" ? ", a close call" : "";
        const words = !inUse
          ? "not in use"
          : share === undefined
            ? "not known"
            : `${percent(share)} ${shareOf}${but}`;
        const name = `${MONTHS[index]}: ${words}`;
        const hard = index + 1 === hardMonth;
        const letter = (
          <span className={`block text-center text-[11px] ${hard ? "font-[700] text-ink" : "text-ink2"}`}>
            {MONTH_LETTERS[index]}
          </span>
        );
        return (
          <li key={name}>
            {figure ? (
              <button
                type="button"
                title={name}
                aria-label={`${name}. Show working`}
                className="block w-full"
                onClick={() => open(figure)}
              >
                <Cell share={share} state={state} />
                {letter}
              </button>
            ) : (
              <span title={name} className="block">
                <Cell share={share} state={state} />
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

/** The strip of a verdict: each month opens its working. */
export function MonthStrip({ verdict, figures }: { verdict: Verdict; figures: Record<string, Quantity> }) {
  const months = verdict.months.map(({ in_use, share, state, wears }) => {
    const quantity = share ? figures[share] : undefined;
    return { inUse: in_use, share: quantity?.value ?? undefined, state, wears, figure: quantity?.key };
  });
  return <Strip shareOf={verdict.share_of} hardMonth={verdict.hard_month} months={months} />;
}

/** The strip of a line on the list of sites. */
export function SummaryStrip({ summary }: { summary: Summary }) {
  const months = summary.months.map(({ in_use, share, state }) => ({
    inUse: in_use,
    share: share ?? undefined,
    state,
  }));
  return <Strip shareOf={summary.share_of} hardMonth={summary.hard_month} months={months} />;
}
