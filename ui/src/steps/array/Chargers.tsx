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
        <NumberField
          label="Volts, set or stated"
          path={[...path, "volts"]}
          dimension="volts"
          known
          optional
        />
        <NumberField
          label="Can be turned down to"
          path={[...path, "least_v"]}
          dimension="volts"
          known
          optional
        />
        <NumberField label="and up to" path={[...path, "most_v"]} dimension="volts" known optional />
        <TextField label="Shows" path={[...path, "shows"]} />
        <NumberField label="Hours a day" path={[...path, "hours_per_day"]} dimension="hours" known />
        {charger.kind === "bench_supply" && (
          <ChoiceField label="Blocks back-feed" path={[...path, "blocks_back"]} choices={choices?.answers} />
        )}
        {charger.kind === "panel_supply" && (
          <ChoiceField
            label="Feeds the controller of"
            path={[...path, "through"]}
            choices={strings}
            emptyIsNull
          />
        )}
        {charger.kind === "generator" && (
          <NumberField
            label="Litres in an hour"
            path={[...path, "litres_per_h"]}
            dimension="number"
            known
            optional
          />
        )}
        <NumberField label="Quiet hours a day" path={[...path, "quiet_h"]} dimension="hours" known optional />
        <TextField label="Noise on the bands" path={[...path, "noise"]} />
        <ToggleField label="Must run alone" path={[...path, "alone"]} />
        <ToggleField label="Only there at home" path={[...path, "at_home"]} />
        {charger.kind === "generator" ? (
          <ToggleField label="Runs through the tail to full" path={[...path, "to_full"]} />
        ) : (
          <ToggleField label="Stops when full" path={[...path, "stops_when_full"]} />
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
    <Part title="Other sources" note="hours from the end of what may be used to full, in the hard month">
      <Cautions step="array" at="chargers" />
      <ul>
        {chargers.map((charger, index) => (
          <ChargerItem key={charger.id} index={index} />
        ))}
      </ul>
      {view.report.charging.sun_days && figure(view.report.charging.sun_days)?.value !== null && (
        <p className="mt-2">
          The panels alone fill it in <Figure of={figure(view.report.charging.sun_days)} /> of that month’s
          mean sun, with nothing drawn.
        </p>
      )}
      {together && (
        <p className="mt-2">
          All together <Figure of={figure(together.amps)} />, to full <Figure of={figure(together.hours)} />.{" "}
          {together.words}
        </p>
      )}
      <select
        aria-label="Add a source"
        className="field mt-2 w-56"
        value=""
        onChange={(event) => add(event.target.value)}
      >
        <option value="">Add a source…</option>
        {choices?.charger_kinds.map((choice) => (
          <option key={choice.value} value={choice.value}>
            {choice.label}
          </option>
        ))}
      </select>
    </Part>
  );
}
