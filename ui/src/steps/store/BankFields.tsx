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
      <ChoiceField label="Where it lives" path={[...path, "housing"]} choices={choices?.housings} />
      <NumberField label="Label of one unit" path={[...path, "unit_ah"]} dimension="amp_hours" known />
      <NumberField
        label="or its watt-hours"
        path={[...path, "unit_wh"]}
        dimension="watt_hours"
        known
        optional
        hint="Where the label gives only these: the amp-hours then follow from its volts."
      />
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
      <NumberField label="Age" path={[...path, "age_years"]} dimension="years" known optional />
      <NumberField
        label="What age has left"
        path={[...path, "health"]}
        dimension="share"
        known
        hint={aged && <>By its age {aged}, our guess, is what counts. Type your own, or test it.</>}
      />
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
      <ChoiceField label="How it is charged" path={[...path, "school"]} choices={schools} emptyIsNull />
      <NumberField
        label="Planned charge rate, C"
        path={[...path, "plan_c"]}
        dimension="number"
        optional
        fallback={usualC}
        hint="Amps over amp-hours: 0.1 gentle, 0.2 usual, 0.5 quick."
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
      <BankLimits path={path} />
    </div>
  );
}
