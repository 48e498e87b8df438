import { useCatalogue } from "../../api/queries";
import { useDesk, useFigure } from "../../kit/context";
import { Figure } from "../../kit/Figure";
import { NumberField, ToggleField } from "../../kit/fields";
import { Part } from "../../kit/layout";

const PATH = ["array", "alternator"] as const;
/** Charging from the engine, through a DC-DC charger. */
export function AlternatorPart() {
  const { view, editor } = useDesk();
  const figure = useFigure();
  const { data: choices } = useCatalogue();
  const set = (value: unknown) => editor.edit({ kind: "set", path: PATH, value });
  if (!view.document.array.alternator) {
    return (
      <Part title="Charging from the engine">
        <button
          type="button"
          className="btn btn-sm btn-ghost text-act"
          disabled={!choices}
          onClick={() => set(choices?.firsts.alternator)}
        >
          Add a DC-DC charger
        </button>
      </Part>
    );
  }
  return (
    <Part title="Charging from the engine">
      <div className="grid gap-3">
        <NumberField label="Charger current" path={[...PATH, "charge_a"]} dimension="amps" known />
        <NumberField
          label="Most the alternator may give"
          path={[...PATH, "engine_limit_a"]}
          dimension="amps"
          known
          optional
        />
        <NumberField
          label="Hours driven a day"
          path={[...PATH, "driving_h_per_day"]}
          dimension="hours"
          known
        />
        <ToggleField label="Uses a DC-DC charger" path={[...PATH, "dc_dc"]} />
        <p>
          Adds <Figure of={figure(view.report.array.alternator_ah)} /> a day.
        </p>
        <button type="button" className="btn btn-sm btn-ghost justify-self-start" onClick={() => set(null)}>
          Remove
        </button>
      </div>
    </Part>
  );
}
