import type { View } from "./useCheck";

/** A share of all causes, as whole per cents; never none and never all. */
function percent(share: number): string {
  if (share < 0.01) return "under 1 %";
  if (share > 0.99) return "over 99 %";
  return `${Math.round(100 * share)} %`;
}

/** The causes with how likely each is, and what is left for all others. */
export function Causes({ view }: { view: View }) {
  const { causes, others } = view.diagnosis;
  return (
    <ul aria-label="Causes, the likeliest first" className="my-3 grid gap-1.5">
      {causes.map((cause) => (
        <li key={cause.id} className="grid grid-cols-[minmax(0,1fr)_90px_4.5rem] items-center gap-3">
          <span>{cause.label}</span>
          <span className="h-2.5 rounded bg-hair2" aria-hidden="true">
            <span
              className={`block h-full rounded ${cause.kind === "healthy" ? "bg-good" : "bg-store"}`}
              style={{ width: `${Math.max(2, 100 * cause.share)}%` }}
            />
          </span>
          <span className="text-right tabular-nums">{percent(cause.share)}</span>
        </li>
      ))}
      {others > 0.01 && (
        <li className="grid grid-cols-[minmax(0,1fr)_4.5rem] gap-3 text-ink2">
          <span>All others together</span>
          <span className="text-right tabular-nums">{percent(others)}</span>
        </li>
      )}
    </ul>
  );
}
