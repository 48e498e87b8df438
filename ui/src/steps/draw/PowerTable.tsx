import type { Load } from "../../api/client";
import { useField } from "../../kit/context";
import { useUnits } from "../../kit/settings";
import { readQuantity } from "../../kit/units";
import { useDraft } from "../../kit/useDraft";

/** The set's own power and current, as “10 W 5 A, 50 W 12 A”; empty uses the curve. */
export function PowerTable({ load }: { load: Load }) {
  const units = useUnits();
  const field = useField<Load["power_table"]>(["draw", "loads", { id: load.id }, "power_table"]);
  const settled = field.value.map((point) => `${point.watts} W ${point.amps} A`).join(", ");
  const draft = useDraft(settled, (text) => {
    const parts = text.split(",").filter((part) => part.trim() !== "");
    const points = parts.map((part) => {
      const [watts, amps] = part.trim().split(/(?<=[wW])\s*/);
      const power = readQuantity(watts ?? "", "watts", units);
      const current = readQuantity(amps ?? "", "amps", units);
      return "value" in power && "value" in current ? { watts: power.value, amps: current.value } : undefined;
    });
    if (points.some((point) => point === undefined)) {
      return "type pairs of watts and amps, as 10 W 5 A, 50 W 12 A";
    }
    field.set(points as Load["power_table"]);
    return undefined;
  });
  const error = draft.error ?? field.fault;
  const id = `power-table-${load.id}`;
  return (
    <div>
      <label htmlFor={id} className="label mb-0.5 block">
        Its own power table
      </label>
      <input
        id={id}
        className="field"
        placeholder="10 W 5 A, 50 W 12 A"
        autoComplete="off"
        aria-invalid={error ? true : undefined}
        value={draft.text}
        onChange={(event) => draft.change(event.target.value)}
        onBlur={draft.commit}
        onKeyDown={(event) => event.key === "Enter" && draft.commit()}
      />
      {error && (
        <p role="alert" className="text-[12px] text-stop">
          {error}
        </p>
      )}
    </div>
  );
}
