import type { Path } from "../api/edits";
import { useField } from "./context";
import { MONTH_LETTERS, MONTHS } from "./MonthStrip";

/** Twelve switches; the last one on stays, as something must be in use. */
export function MonthsField({ label, path }: { label: string; path: Path }) {
  const field = useField<number[]>(path);
  const flip = (month: number) => {
    const on = field.value.includes(month);
    const next = on
      ? field.value.filter((item) => item !== month)
      : [...field.value, month].sort((a, b) => a - b);
    if (next.length > 0) field.set(next);
  };
  return (
    <fieldset>
      <legend className="label mb-0.5">{label}</legend>
      <div className="flex gap-0.5">
        {MONTHS.map((name, index) => {
          const on = field.value.includes(index + 1);
          return (
            <button
              key={name}
              type="button"
              aria-pressed={on}
              aria-label={name}
              title={name}
              className={`h-7 min-w-0 flex-1 rounded border text-[12px] ${on ? "border-act bg-actsoft font-[640] text-act" : "border-hair text-ink2"}`}
              onClick={() => flip(index + 1)}
            >
              {MONTH_LETTERS[index]}
            </button>
          );
        })}
      </div>
    </fieldset>
  );
}
