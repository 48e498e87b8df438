import { Trash2 } from "lucide-react";
import { useCatalogue } from "../../api/queries";
import { Cautions } from "../../kit/Cautions";
import { useDesk, useFigure } from "../../kit/context";
import { Figure } from "../../kit/Figure";
import { ChoiceField, NumberField, TextField, ToggleField } from "../../kit/fields";
import { Part } from "../../kit/layout";

function ChargerItem({ index }: { index: number }) {
  const { view, editor } = useDesk();
  const figure = useFigure();
  const { data: choices } = useCatalogue();
  const charger = view.document.array.chargers[index];
  const shown = view.report.charging.sources[index];
  if (!charger) return null;
  const path = ["array", "chargers", { id: charger.id }] as const;
  const strings = [
    { value: "", label: "none", hint: "" },
    ...view.document.array.strings.map((string) => ({ value: string.id, label: string.name, hint: "" })),
  ];
  return (
    <li className="border-b border-hair py-3">
      <div className="mb-2 flex flex-wrap items-center gap-3">
        <div className="w-56">
          <TextField label={`Charger ${index + 1}: name`} path={[...path, "name"]} bare />
        </div>
        {shown && (
          <p className={`flex-1 ${shown.works ? "text-ink2" : "text-stop"}`}>
            {shown.works && figure(shown.hours)?.value !== null && (
              <>
                {charger.kind === "generator" && !charger.to_full ? "Bulk " : "To full "}
                <Figure of={figure(shown.hours)} />
                {shown.fuel_l && (
                  <>
                    , <Figure of={figure(shown.fuel_l)} /> of fuel
                  </>
                )}
                .{" "}
              </>
            )}
            {shown.words}
          </p>
        )}
        <button
          type="button"
          className="p-1 text-ink2 hover:text-stop"
          aria-label={`Remove ${charger.name}`}
          onClick={() => editor.edit({ kind: "remove", path })}
        >
          <Trash2 size={14} />
        </button>
      </div>
      <div className="grid gap-3 sm:grid-cols-3">
        <ChoiceField label="Kind of source" path={[...path, "kind"]} choices={choices?.charger_kinds} />
        <NumberField label="Amps" path={[...path, "amps"]} dimension="amps" known />
        {charger.kind === "changeover" && (
          <NumberField
            label="Passes to the station"
            path={[...path, "passes_a"]}
            dimension="amps"
            known
            optional
          />
        )}
        <NumberField label="Output volts" path={[...path, "volts"]} dimension="volts" known optional />
        <NumberField
          label="Lowest volts setting"
          path={[...path, "least_v"]}
          dimension="volts"
          known
          optional
        />
        <NumberField
          label="Highest volts setting"
          path={[...path, "most_v"]}
          dimension="volts"
          known
          optional
        />
        <TextField label="Display" path={[...path, "shows"]} />
        <NumberField label="Hours a day" path={[...path, "hours_per_day"]} dimension="hours" known />
        {charger.kind === "bench_supply" && (
          <ChoiceField
            label="Blocks current flowing back"
            path={[...path, "blocks_back"]}
            choices={choices?.answers}
          />
        )}
        {charger.kind === "panel_supply" && (
          <ChoiceField
            label="Feeds the controller of string"
            path={[...path, "through"]}
            choices={strings}
            emptyIsNull
          />
        )}
        {charger.kind === "generator" && (
          <NumberField
            label="Litres per hour"
            path={[...path, "litres_per_h"]}
            dimension="number"
            known
            optional
          />
        )}
        <NumberField
          label="Hours a day it must be off"
          path={[...path, "quiet_h"]}
          dimension="hours"
          known
          optional
        />
        <TextField label="Radio noise" path={[...path, "noise"]} />
        <ToggleField label="Not at the same time as other chargers" path={[...path, "alone"]} />
        <ToggleField label="Only at home" path={[...path, "at_home"]} />
        {charger.kind === "generator" ? (
          <ToggleField label="Runs until the battery is full" path={[...path, "to_full"]} />
        ) : (
          <ToggleField label="Stops or floats when full" path={[...path, "stops_when_full"]} />
        )}
      </div>
    </li>
  );
}

/** Mains, bench supply, changeover unit, generator: every other way to fill the bank. */
export function Chargers() {
  const { view, editor } = useDesk();
  const { data: choices } = useCatalogue();
  const figure = useFigure();
  const chargers = view.document.array.chargers;
  const together = view.report.charging.sources.find((source) => source.id === "together");
  const add = (kind: string) => {
    const name = choices?.charger_kinds.find((choice) => choice.value === kind)?.label ?? "Charger";
    let number = 1;
    while (chargers.some((charger) => charger.id === `charger-${number}`)) number++;
    editor.edit({
      kind: "insert",
      path: ["array", "chargers"],
      value: { id: `charger-${number}`, name, kind },
    });
  };
  return (
    <Part title="Other chargers" note="hours from the lowest charge allowed to full, in the worst month">
      <Cautions step="array" at="chargers" />
      <ul>
        {chargers.map((charger, index) => (
          <ChargerItem key={charger.id} index={index} />
        ))}
      </ul>
      {view.report.charging.sun_days && figure(view.report.charging.sun_days)?.value !== null && (
        <p className="mt-2">
          The panels alone fill it in <Figure of={figure(view.report.charging.sun_days)} /> of average sun in
          that month, with all loads off.
        </p>
      )}
      {together && (
        <p className="mt-2">
          All chargers together give <Figure of={figure(together.amps)} /> and fill it in{" "}
          <Figure of={figure(together.hours)} />. {together.words}
        </p>
      )}
      <select
        aria-label="Add a charger"
        className="field mt-2 w-56"
        value=""
        onChange={(event) => add(event.target.value)}
      >
        <option value="">Add a charger…</option>
        {choices?.charger_kinds.map((choice) => (
          <option key={choice.value} value={choice.value}>
            {choice.label}
          </option>
        ))}
      </select>
    </Part>
  );
}
