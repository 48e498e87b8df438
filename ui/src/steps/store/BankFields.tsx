import type { Path } from "../../api/edits";
import { useCatalogue } from "../../api/queries";
import { useField, useFigure } from "../../kit/context";
import { Figure } from "../../kit/Figure";
import { ChoiceField, NumberField, ToggleField } from "../../kit/fields";
import { BankLimits } from "./BankLimits";
import { ChemistryField } from "./ChemistryField";

type Props = { path: Path; usualDepth?: number | null; usualC?: number; temperature?: number | null };

/** What the batteries are: kind, label, how many, how old, where they live. */
export function BankFields({ path, usualDepth, usualC, temperature }: Props) {
  const { data: choices } = useCatalogue();
  const housing = useField<string>([...path, "housing"]);
  const schools = [{ value: "", label: "our default", hint: "" }, ...(choices?.schools ?? [])];
  const figure = useFigure();
  // Only the main bank's figures are named so; a layer's have the layer's id in them.
  const guessed = path[1] === "bank" ? figure("store.health") : undefined;
  const aged = guessed && <Figure of={guessed} />;
  const boxed = housing.value !== "indoors";
  return (
    <div className="grid gap-3 sm:grid-cols-2">
      <ChemistryField path={path} />
      <ChoiceField label="Where it is kept" path={[...path, "housing"]} choices={choices?.housings} />
      <NumberField
        label="Amp-hours of one battery, on the label"
        path={[...path, "unit_ah"]}
        dimension="amp_hours"
        known
      />
      <NumberField
        label="or watt-hours"
        path={[...path, "unit_wh"]}
        dimension="watt_hours"
        known
        optional
        hint="Use this if the label gives only watt-hours. We calculate the amp-hours from its volts."
      />
      <NumberField
        label="at which hour rate"
        path={[...path, "hour_rate_h"]}
        dimension="count"
        hint="Usually the 20-hour rate."
      />
      <NumberField label="Volts of one battery" path={[...path, "unit_v"]} dimension="volts" />
      <div className="grid grid-cols-2 gap-3">
        <NumberField label="In series" path={[...path, "series"]} dimension="count" />
        <NumberField label="In parallel" path={[...path, "parallel"]} dimension="count" />
      </div>
      <NumberField label="Age" path={[...path, "age_years"]} dimension="years" known optional />
      <NumberField
        label="Capacity left after aging"
        path={[...path, "health"]}
        dimension="share"
        known
        hint={aged && <>We guess {aged} from its age. Type your own figure, or run a discharge test.</>}
      />
      <NumberField
        label="One battery, by discharge test"
        path={[...path, "tested_ah"]}
        dimension="amp_hours"
        known
        optional
        hint="Replaces label and age."
      />
      <NumberField
        label="Depth of discharge allowed"
        path={[...path, "depth"]}
        dimension="share"
        known
        optional
        fallback={usualDepth}
        hint="Leave empty to use the usual limit for this chemistry and use."
      />
      <ChoiceField label="Charging style" path={[...path, "school"]} choices={schools} emptyIsNull />
      <NumberField
        label="Planned charge rate, C"
        path={[...path, "plan_c"]}
        dimension="number"
        optional
        fallback={usualC}
        hint="Charge amps divided by amp-hours: 0.1 gentle, 0.2 usual, 0.5 fast."
      />
      <NumberField
        label="Battery temperature on a cold day, worst month"
        path={[...path, "cold_c"]}
        dimension="temperature"
        known
        optional
        fallback={temperature}
        hint="Leave empty to take it from where the battery is kept."
      />
      {boxed && (
        <>
          <NumberField
            label="Heat from equipment in its box"
            path={[...path, "box_w"]}
            dimension="watts"
            known
            optional
            hint="Controllers and radios in the same box."
          />
          <ToggleField label="Its box is in the sun" path={[...path, "box_in_sun"]} />
        </>
      )}
      <BankLimits path={path} />
    </div>
  );
}
