import type { Path } from "../../api/edits";
import { useCatalogue } from "../../api/queries";
import { ChoiceField, NumberField, TextField } from "../../kit/fields";
import { CycleField } from "./CycleField";

/** What the maker allows, when it cuts off, what it weighs and costs, and how it ages. */
export function BankLimits({ path }: { path: Path }) {
  const { data: choices } = useCatalogue();
  return (
    <details className="sm:col-span-2">
      <summary className="cursor-pointer text-act">Limits, weight, price, life</summary>
      <div className="mt-3 grid gap-3 sm:grid-cols-2">
        <NumberField
          label="Charge current, max, one battery"
          path={[...path, "limits", "max_charge_a"]}
          dimension="amps"
          known
          optional
        />
        <NumberField
          label="Charge current advised, one battery"
          path={[...path, "limits", "usual_charge_a"]}
          dimension="amps"
          known
          optional
          hint="What the maker advises for a long life."
        />
        <NumberField
          label="Discharge current, max, one battery"
          path={[...path, "limits", "max_discharge_a"]}
          dimension="amps"
          known
          optional
        />
        <NumberField
          label="Peak current for seconds, one battery"
          path={[...path, "limits", "peak_discharge_a"]}
          dimension="amps"
          known
          optional
        />
        <ChoiceField
          label="Blocks charging when too cold"
          path={[...path, "limits", "cold_cutoff"]}
          choices={choices?.answers}
        />
        <NumberField
          label="Built-in cut-off volts, one battery"
          path={[...path, "limits", "cutoff_v"]}
          dimension="volts"
          known
          optional
        />
        <NumberField
          label="Loads switch off below"
          path={[...path, "disconnect_v"]}
          dimension="volts"
          known
          optional
          hint="Volts at the battery posts, with load. Leave empty to use the depth allowed."
        />
        <NumberField
          label="Loads switch on again above"
          path={[...path, "reconnect_v"]}
          dimension="volts"
          known
          optional
          hint="Volts at rest. Leave empty to wait until a fifth of the usable charge is back."
        />
        <ChoiceField label="After a cut-off" path={[...path, "restart"]} choices={choices?.restarts} />
        <NumberField label="Heater" path={[...path, "limits", "heater_w"]} dimension="watts" known optional />
        <NumberField
          label="Lowest temperature for charging"
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
          hint="From a test or data sheet. Leave empty to use the usual value for this chemistry."
        />
        <NumberField
          label="Internal resistance of one battery, mΩ"
          path={[...path, "unit_milliohm"]}
          dimension="number"
          optional
          hint="At 25 °C. Leave empty to use the usual value for its kind and size."
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
        <TextField label="Source and date of the price" path={[...path, "bought"]} />
        <NumberField
          label="Age of the oldest battery, if they differ"
          path={[...path, "oldest_years"]}
          dimension="years"
          known
          optional
        />
        <ChoiceField
          label="Midpoints of the strings are joined"
          path={[...path, "midpoints_joined"]}
          choices={choices?.answers}
        />
        <NumberField
          label="Calendar life (years, even if unused)"
          path={[...path, "calendar_years"]}
          dimension="years"
          known
          optional
        />
        <CycleField path={[...path, "cycle_life"]} />
      </div>
    </details>
  );
}
