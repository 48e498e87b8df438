import type { Path } from "../../api/edits";
import { useCatalogue } from "../../api/queries";
import { ChecksField } from "../../kit/ChecksField";
import { useDesk } from "../../kit/context";
import { ChoiceField, NumberField, TextField, ToggleField } from "../../kit/fields";
import { ReadingsField } from "./ReadingsField";

/** What the label says beyond watts, and what a meter found. */
export function LabelDetails({ path, cells }: { path: Path; cells: number }) {
  const { data: choices } = useCatalogue();
  const module = [...path, "module"] as const;
  return (
    <details className="basis-full">
      <summary className="cursor-pointer text-act">Label and measurements</summary>
      <div className="mt-3 grid gap-3 sm:grid-cols-3">
        <NumberField
          label="Open-circuit volts (Voc)"
          path={[...module, "v_oc"]}
          dimension="volts"
          known
          optional
          hint={`Empty takes what ${cells} cells usually have.`}
        />
        <NumberField
          label="Short-circuit amps (Isc)"
          path={[...module, "i_sc"]}
          dimension="amps"
          known
          optional
        />
        <ChoiceField label="Condition" path={[...module, "condition"]} choices={choices?.conditions} />
        <NumberField
          label="Voc change, % per K"
          path={[...module, "v_oc_pct_per_k"]}
          dimension="number"
          known
          optional
        />
        <NumberField
          label="Power change, % per K"
          path={[...module, "p_mp_pct_per_k"]}
          dimension="number"
          known
          optional
        />
        <NumberField
          label="Voc measured in sun"
          path={[...module, "measured_v_oc"]}
          dimension="volts"
          known
          optional
        />
        <NumberField
          label="Isc measured in sun"
          path={[...module, "measured_i_sc"]}
          dimension="amps"
          known
          optional
        />
        <NumberField
          label="Amps measured at work in sun"
          path={[...module, "measured_i_mp"]}
          dimension="amps"
          known
          optional
        />
        <NumberField
          label="What age has left"
          path={[...module, "age_share"]}
          dimension="share"
          known
          optional
          hint="In place of what the condition makes us guess."
        />
        <NumberField
          label="Cells at 800 W/m² (NOCT)"
          path={[...module, "noct_c"]}
          dimension="temperature"
          known
          optional
        />
        <ToggleField label="Gives out mains volts" path={[...module, "own_inverter"]} />
        <ToggleField label="A bypass diode is gone" path={[...module, "bypass_lost"]} />
        <ReadingsField path={[...module, "readings"]} />
      </div>
    </details>
  );
}

/** The controller's limits, its setting and its terminals. */
export function RegulatorDetails({ path }: { path: Path }) {
  const { data: choices } = useCatalogue();
  const at = [...path, "regulator"] as const;
  const kinds = [{ value: "", label: "nobody has looked", hint: "" }, ...(choices?.chemistries ?? [])];
  return (
    <details className="basis-full">
      <summary className="cursor-pointer text-act">Controller: limits and setting</summary>
      <div className="mt-3 grid gap-3 sm:grid-cols-3">
        <NumberField label="Rated panel volts" path={[...at, "max_v"]} dimension="volts" known optional />
        <NumberField
          label="Passes, charge amps"
          path={[...at, "max_charge_a"]}
          dimension="amps"
          known
          optional
        />
        <NumberField
          label="Most watts of panel"
          path={[...at, "max_array_w"]}
          dimension="watts"
          known
          optional
        />
        <ChoiceField label="Set for" path={[...at, "set_for"]} choices={kinds} emptyIsNull />
        <NumberField label="Absorbs at" path={[...at, "absorb_v"]} dimension="volts" known optional />
        <NumberField label="Floats at" path={[...at, "float_v"]} dimension="volts" known optional />
        <NumberField label="Drops itself" path={[...at, "drop_v"]} dimension="volts" known optional />
        <ChoiceField label="Sensor at the bank" path={[...at, "sensor"]} choices={choices?.answers} />
        <ChoiceField
          label="Over-voltage alarm or cut-off"
          path={[...at, "over_volts_guard"]}
          choices={choices?.answers}
        />
        <NumberField
          label="Headroom it starts with"
          path={[...at, "start_v"]}
          dimension="volts"
          known
          optional
        />
        <NumberField label="Efficiency" path={[...at, "efficiency"]} dimension="share" known optional />
        <NumberField label="Takes for itself" path={[...at, "self_draw_a"]} dimension="amps" known optional />
        <NumberField
          label="Load terminals carry"
          path={[...at, "load_out_a"]}
          dimension="amps"
          known
          optional
        />
        <NumberField label="Hangs on them" path={[...at, "load_draw_a"]} dimension="amps" known optional />
        <ChoiceField label="Load programme" path={[...at, "load_program"]} choices={choices?.load_programs} />
        <ToggleField label="Finds out 12 or 24 V itself" path={[...at, "auto_volts"]} />
        <ToggleField label="Lifts volts too (buck-boost)" path={[...at, "buck_boost"]} />
        <TextField label="Shows, and connects by" path={[...at, "shows"]} />
        <TextField label="Where it is mounted" path={[...at, "lives"]} />
        <ChecksField label="Can be set for" path={[...at, "can_do"]} choices={choices?.chemistries ?? []} />
        <TextField label="Noise on the bands" path={[...at, "noise"]} />
      </div>
    </details>
  );
}

/** From the panels to the controller, and what stands before this string alone. */
export function CableDetails({ path, id }: { path: Path; id: string }) {
  const { view } = useDesk();
  const { data: answers } = useCatalogue();
  const others = view.document.array.strings.filter((string) => string.id !== id && !string.joins);
  const choices = [
    { value: "", label: "its own", hint: "" },
    ...others.map((string) => ({ value: string.id, label: `shares ${string.name}'s`, hint: "" })),
  ];
  return (
    <details className="basis-full">
      <summary className="cursor-pointer text-act">Cable, diode, sharing</summary>
      <div className="mt-3 grid gap-3 sm:grid-cols-3">
        <NumberField label="Cable, one way" path={[...path, "cable_m"]} dimension="length" known optional />
        <NumberField label="Copper" path={[...path, "cable_mm2"]} dimension="wire" optional />
        <NumberField
          label="Shaded by things of its own"
          path={[...path, "shaded_share"]}
          dimension="share"
          known
        />
        <ChoiceField label="Which controller" path={[...path, "joins"]} choices={choices} emptyIsNull />
        <ToggleField label="A blocking diode in series" path={[...path, "blocking_diode"]} />
        <ChoiceField label="A fuse each, in parallel" path={[...path, "fused"]} choices={answers?.answers} />
      </div>
    </details>
  );
}
