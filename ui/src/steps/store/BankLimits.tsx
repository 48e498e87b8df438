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
          label="Most charge, one unit"
          path={[...path, "limits", "max_charge_a"]}
          dimension="amps"
          known
          optional
        />
        <NumberField
          label="Charge advised, one unit"
          path={[...path, "limits", "usual_charge_a"]}
          dimension="amps"
          known
          optional
          hint="For a long life, by its maker."
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
          label="Electronics cut off under, one unit"
          path={[...path, "limits", "cutoff_v"]}
          dimension="volts"
          known
          optional
        />
        <NumberField
          label="Loads cut off under"
          path={[...path, "disconnect_v"]}
          dimension="volts"
          known
          optional
          hint="At the posts, on load. Empty: at the depth allowed."
        />
        <NumberField
          label="Loads on again above"
          path={[...path, "reconnect_v"]}
          dimension="volts"
          known
          optional
          hint="Rested. Empty: a fifth of what may be used."
        />
        <ChoiceField label="After a cut-off" path={[...path, "restart"]} choices={choices?.restarts} />
        <NumberField label="Heater" path={[...path, "limits", "heater_w"]} dimension="watts" known optional />
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
        <NumberField
          label="Oldest unit, where they differ"
          path={[...path, "oldest_years"]}
          dimension="years"
          known
          optional
        />
        <ChoiceField
          label="Middles of series strings joined"
          path={[...path, "midpoints_joined"]}
          choices={choices?.answers}
        />
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
  );
}
