import { useId } from "react";
import type { Path } from "../../api/edits";
import type { components } from "../../api/schema";
import { useField } from "../../kit/context";
import { useDraft } from "../../kit/useDraft";

type Point = components["schemas"]["CyclePoint"];

/** The part's own cycle table as pairs of depth and cycles. */
export function CycleField({ path }: { path: Path }) {
  const id = useId();
  const field = useField<Point[]>(path);
  const settled = (field.value ?? [])
    .map((point) => `${Math.round(point.depth * 100)} ${point.cycles}`)
    .join(", ");
  const draft = useDraft(settled, (text) => {
    const points: Point[] = [];
    for (const part of text.split(",").filter((item) => item.trim() !== "")) {
      const [percent, cycles, ...rest] = part.trim().replaceAll("%", "").split(/\s+/).map(Number);
      if (
        percent === undefined ||
        cycles === undefined ||
        rest.length > 0 ||
        Number.isNaN(percent + cycles)
      ) {
        return `“${part.trim()}” is not a depth and a number of cycles; type pairs, as 50 1500, 80 800`;
      }
      points.push({ depth: percent / 100, cycles });
    }
    field.set(points);
    return undefined;
  });
  const error = draft.error ?? field.fault;
  return (
    <div className="min-w-0 sm:col-span-2">
      <label htmlFor={id} className="label mb-0.5 block">
        Cycle life from the data sheet: percent depth and cycles
      </label>
      <input
        id={id}
        className="field"
        placeholder="usual for the kind; 50 1500, 80 800"
        autoComplete="off"
        aria-invalid={error ? true : undefined}
        aria-describedby={`${id}-error`}
        value={draft.text}
        onChange={(event) => {
          field.clearFault();
          draft.change(event.target.value);
        }}
        onBlur={draft.commit}
        onKeyDown={(event) => {
          if (event.key === "Enter") draft.commit();
          if (event.key === "Escape") draft.revert();
        }}
      />
      <p id={`${id}-error`} role="alert" className="text-[12px] text-stop">
        {error}
      </p>
    </div>
  );
}
