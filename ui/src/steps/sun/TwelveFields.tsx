import type { Path } from "../../api/edits";
import { NumberField } from "../../kit/fields";
import { MONTH_LETTERS, MONTHS } from "../../kit/MonthStrip";
import type { Dimension } from "../../kit/units";

type Props = { title: string; hint?: string; path: Path; dimension: Dimension };

/** One figure a month. */
export function TwelveFields({ title, hint, path, dimension }: Props) {
  return (
    <fieldset className="mb-3 min-w-0">
      <legend className="label">
        {title} {hint && <span className="text-ink2">· {hint}</span>}
      </legend>
      <div className="grid grid-cols-6 gap-1 md:grid-cols-12">
        {MONTHS.map((month, index) => (
          <div key={month} className="min-w-0 text-center">
            <span className="text-[11px] text-ink2" aria-hidden="true">
              {MONTH_LETTERS[index]}
            </span>
            <NumberField label={`${title}, ${month}`} path={[...path, index]} dimension={dimension} bare />
          </div>
        ))}
      </div>
    </fieldset>
  );
}
