import { type ClipboardEvent, useState } from "react";
import type { Path } from "../../api/edits";
import { useDesk } from "../../kit/context";
import { NumberField } from "../../kit/fields";
import { MONTH_LETTERS, MONTHS } from "../../kit/MonthStrip";
import { useUnits } from "../../kit/settings";
import { type Dimension, readQuantity } from "../../kit/units";

type Props = { title: string; hint?: string; path: Path; dimension: Dimension };

/** One figure a month. */
export function TwelveFields({ title, hint, path, dimension }: Props) {
  const { editor } = useDesk();
  const units = useUnits();
  const [trouble, setTrouble] = useState<string>();
  /** Twelve figures of a spreadsheet, across or down, laid over the months from the one pasted into. */
  const paste = (event: ClipboardEvent<HTMLElement>) => {
    const cells = event.clipboardData
      .getData("text")
      .trim()
      .split(/[\t\n;]+/);
    const first = Number((event.target as HTMLElement).closest<HTMLElement>("[data-month]")?.dataset.month);
    if (cells.length < 2 || Number.isNaN(first)) return;
    event.preventDefault();
    const read = cells.map((cell) => readQuantity(cell, dimension, units));
    const bad = read.findIndex((item) => "error" in item);
    const fault = read[bad];
    if (first + cells.length > MONTHS.length) {
      setTrouble(`${cells.length} figures are too many, starting from ${MONTHS[first]}. Nothing was pasted.`);
    } else if (fault && "error" in fault) {
      setTrouble(`${MONTHS[first + bad]}: ${fault.error}. Nothing was pasted.`);
    } else {
      setTrouble(undefined);
      const edits = read.flatMap((item, index) =>
        "value" in item ? [{ kind: "set" as const, path: [...path, first + index], value: item.value }] : [],
      );
      editor.edit(...edits);
    }
  };
  return (
    <fieldset className="mb-3 min-w-0" onPaste={paste}>
      <legend className="label">
        {title} {hint && <span className="text-ink2">· {hint}</span>}
      </legend>
      <div className="grid grid-cols-6 gap-1 md:grid-cols-12">
        {MONTHS.map((month, index) => (
          <div key={month} data-month={index} className="min-w-0 text-center">
            <span className="text-[11px] text-ink2" aria-hidden="true">
              {MONTH_LETTERS[index]}
            </span>
            <NumberField label={`${title}, ${month}`} path={[...path, index]} dimension={dimension} bare />
          </div>
        ))}
      </div>
      {trouble && (
        <p role="alert" className="text-[12px] text-stop">
          {trouble}
        </p>
      )}
    </fieldset>
  );
}
