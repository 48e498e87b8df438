import type { Path } from "../../api/edits";
import { useCatalogue } from "../../api/queries";
import { useField } from "../../kit/context";
import { ChoiceField, NumberField, TextField, ToggleField } from "../../kit/fields";
import { CycleField } from "./CycleField";

type Props = { path: Path; usualDepth?: number | null; temperature?: number | null };

/** What the batteries are: kind, label, how many, how old, where they live. */
export function BankFields({ path, usualDepth, temperature }: Props) {
  const { data: choices } = useCatalogue();
  const housing = useField<string>([...path, "housing"]);
  const boxed = housing.value !== "indoors";
  return (
    <div className="grid gap-3 sm:grid-cols-2">
      <ChoiceField label="Chemistry" path={[...path, "chemistry"]} choices={choices?.chemistries} />
      <ChoiceField label="Where it lives" path={[...path, "housing"]} choices={choices?.housings} />
      <NumberField label="Label of one unit" path={[...path, "unit_ah"]} dimension="amp_hours" known />
      <NumberField
        label="at its hour rate"
        path={[...path, "hour_rate_h"]}
        dimension="count"
        hint="Usually the 20-hour rate."
      />
      <NumberField label="Volts of one unit" path={[...path, "unit_v"]} dimension="volts" />
      <div className="grid grid-cols-2 gap-3">
        <NumberField label="In series" path={[...path, "series"]} dimension="count" />
        <NumberField label="In parallel" path={[...path, "parallel"]} dimension="count" />
      </div>
      <NumberField label="What age has left" path={[...path, "health"]} dimension="share" known />
      <NumberField
        label="One unit, by discharge test"
        path={[...path, "tested_ah"]}
        dimension="amp_hours"
        known
        optional
        hint="Takes the place of label and age."
      />
      <NumberField
        label="Depth allowed"
        path={[...path, "depth"]}
        dimension="share"
        known
        optional
        fallback={usualDepth}
        hint="Empty takes the usual limit for chemistry and use."
      />
      <NumberField
        label="Bank on a cold day, hard month"
        path={[...path, "cold_c"]}
        dimension="temperature"
        known
        optional
        fallback={temperature}
        hint="Empty follows where it lives."
      />
      {boxed && (
        <>
          <NumberField
            label="Heat let go beside it"
            path={[...path, "box_w"]}
            dimension="watts"
            known
            optional
            hint="Controllers and radios in the same box."
          />
          <ToggleField label="The sun shines on its box" path={[...path, "box_in_sun"]} />
        </>
      )}
      <details className="sm:col-span-2">
        <summary className="cursor-pointer text-act">Limits, weight, price, life</summary>
        <div className="mt-3 grid gap-3 sm:grid-cols-2">
          <NumberField
            label="Most charge, one unit"
            path={[...path, "limits", "max_charge_a"]}
            dimension="amps"
            known
            optional
          />
          <NumberField
            label="Most discharge, one unit"
            path={[...path, "limits", "max_discharge_a"]}
            dimension="amps"
            known
            optional
          />
          <NumberField
            label="Peak for seconds, one unit"
            path={[...path, "limits", "peak_discharge_a"]}
            dimension="amps"
            known
            optional
          />
          <ChoiceField
            label="Stops charging itself when cold"
            path={[...path, "limits", "cold_cutoff"]}
            choices={choices?.answers}
          />
          <NumberField
            label="Loads cut off under"
            path={[...path, "low_cut_v"]}
            dimension="volts"
            known
            optional
            hint="At the posts, on load. Empty: at the depth allowed."
          />
          <NumberField
            label="Loads on again above"
            path={[...path, "back_v"]}
            dimension="volts"
            known
            optional
            hint="Rested. Empty: a fifth of what may be used."
          />
          <ChoiceField label="After a cut-off" path={[...path, "restart"]} choices={choices?.restarts} />
          <NumberField
            label="Heater"
            path={[...path, "limits", "heater_w"]}
            dimension="watts"
            known
            optional
          />
          <NumberField
            label="Charge only above"
            path={[...path, "limits", "charge_low_c"]}
            dimension="temperature"
            known
            optional
          />
          <NumberField
            label="Peukert exponent"
            path={[...path, "peukert_k"]}
            dimension="number"
            optional
            hint="From a test or data sheet. Empty: usual for its kind."
          />
          <NumberField
            label="Resistance of one unit, mΩ"
            path={[...path, "unit_milliohm"]}
            dimension="number"
            optional
            hint="At 25 °C. Empty: usual for its kind and size."
          />
          <NumberField
            label="Most in series"
            path={[...path, "limits", "max_series"]}
            dimension="count"
            optional
          />
          <NumberField
            label="Most in parallel"
            path={[...path, "limits", "max_parallel"]}
            dimension="count"
            optional
          />
          <NumberField
            label="Weight of one unit"
            path={[...path, "unit_kg"]}
            dimension="weight"
            known
            optional
          />
          <NumberField label="Vent opening" path={[...path, "vent_cm2"]} dimension="area" known optional />
          <NumberField
            label="Price of one unit"
            path={[...path, "unit_price"]}
            dimension="price"
            known
            optional
          />
          <TextField label="Price from, and when" path={[...path, "bought"]} />
          <NumberField label="Age" path={[...path, "age_years"]} dimension="years" known optional />
          <NumberField
            label="Calendar life"
            path={[...path, "calendar_years"]}
            dimension="years"
            known
            optional
          />
          <CycleField path={[...path, "cycle_life"]} />
        </div>
      </details>
    </div>
  );
}
