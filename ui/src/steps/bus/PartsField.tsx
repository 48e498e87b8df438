import { X } from "lucide-react";
import { useCatalogue } from "../../api/queries";
import { useField } from "../../kit/context";
import { type BusRun, type RunFigures, runPath } from "./run";

type Parts = NonNullable<BusRun["parts"]>;
const usual = (kind: string) => ({
  kind: kind as Parts[number]["kind"],
  milliohm: null,
  drop_v: null,
  rating_a: null,
});

/** What lies in a run's way: switches, shunts, diodes, in their order. */
export function PartsField({ run }: { run: RunFigures }) {
  const { data: choices } = useCatalogue();
  const field = useField<Parts | null | undefined>([...runPath(run.id), "parts"]);
  const parts: Parts = field.value ?? run.parts.map(usual);
  const label = (kind: string) => choices?.bus_parts.find((choice) => choice.value === kind)?.label ?? kind;
  const add = (kind: string) => kind && field.set([...parts, usual(kind)]);
  return (
    <fieldset className="sm:col-span-2">
      <legend className="label mb-0.5">Parts in this run{field.value ? "" : ", proposed"}</legend>
      <div className="flex flex-wrap items-center gap-2">
        {parts.map((part, index) => (
          <span
            key={`${part.kind}${index}`}
            className="inline-flex items-center gap-1 border border-hair px-1.5"
          >
            {label(part.kind)}
            <button
              type="button"
              className="p-0.5 text-ink2 hover:text-stop"
              aria-label={`Remove ${label(part.kind)} from ${run.name}`}
              onClick={() => field.set(parts.filter((_, place) => place !== index))}
            >
              <X size={12} />
            </button>
          </span>
        ))}
        <select
          className="field max-w-44"
          aria-label={`${run.name}: add a part`}
          value=""
          onChange={(event) => add(event.target.value)}
        >
          <option value="">Add…</option>
          {choices?.bus_parts.map((choice) => (
            <option key={choice.value} value={choice.value}>
              {choice.label}
            </option>
          ))}
        </select>
      </div>
    </fieldset>
  );
}
