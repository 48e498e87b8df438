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
          hint={`Leave empty to use the usual figure for ${cells} cells.`}
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
          label="Working amps measured in sun"
          path={[...module, "measured_i_mp"]}
          dimension="amps"
          known
          optional
        />
        <NumberField
          label="Current left after aging"
          path={[...module, "age_share"]}
          dimension="share"
          known
          optional
          hint="Replaces our guess from the condition."
        />
        <NumberField
          label="Cell temperature at 800 W/m² (NOCT)"
          path={[...module, "noct_c"]}
          dimension="temperature"
          known
          optional
        />
        <ToggleField label="Has its own mains inverter" path={[...module, "own_inverter"]} />
        <ToggleField label="A bypass diode has failed" path={[...module, "bypass_lost"]} />
        <ReadingsField path={[...module, "readings"]} />
      </div>
    </details>
  );
}

/** The controller's limits, its setting and its terminals. */
export function RegulatorDetails({ path }: { path: Path }) {
  const { data: choices } = useCatalogue();
  const at = [...path, "regulator"] as const;
  const kinds = [{ value: "", label: "not checked", hint: "" }, ...(choices?.chemistries ?? [])];
  return (
    <details className="basis-full">
      <summary className="cursor-pointer text-act">Controller: limits and settings</summary>
      <div className="mt-3 grid gap-3 sm:grid-cols-3">
        <NumberField label="Panel volts, max" path={[...at, "max_v"]} dimension="volts" known optional />
        <NumberField
          label="Charge current, max"
          path={[...at, "max_charge_a"]}
          dimension="amps"
          known
          optional
        />
        <NumberField
          label="Panel watts, max"
          path={[...at, "max_array_w"]}
          dimension="watts"
          known
          optional
        />
        <ChoiceField label="Set for battery type" path={[...at, "set_for"]} choices={kinds} emptyIsNull />
        <NumberField label="Absorption volts" path={[...at, "absorb_v"]} dimension="volts" known optional />
        <NumberField label="Float volts" path={[...at, "float_v"]} dimension="volts" known optional />
        <NumberField
          label="Internal voltage drop"
          path={[...at, "drop_v"]}
          dimension="volts"
          known
          optional
        />
        <ChoiceField
          label="Temperature sensor on the battery"
          path={[...at, "sensor"]}
          choices={choices?.answers}
        />
        <ChoiceField
          label="Over-voltage alarm or cut-off"
          path={[...at, "over_volts_guard"]}
          choices={choices?.answers}
        />
        <NumberField
          label="Panel must exceed battery by"
          path={[...at, "start_v"]}
          dimension="volts"
          known
          optional
        />
        <NumberField label="Efficiency" path={[...at, "efficiency"]} dimension="share" known optional />
        <NumberField label="Own consumption" path={[...at, "self_draw_a"]} dimension="amps" known optional />
        <NumberField label="Load output, max" path={[...at, "load_out_a"]} dimension="amps" known optional />
        <NumberField
          label="Load connected there"
          path={[...at, "load_draw_a"]}
          dimension="amps"
          known
          optional
        />
        <ChoiceField
          label="Load output program"
          path={[...at, "load_program"]}
          choices={choices?.load_programs}
        />
        <ToggleField label="Detects 12 or 24 V by itself" path={[...at, "auto_volts"]} />
        <ToggleField label="Can raise the voltage (buck-boost)" path={[...at, "buck_boost"]} />
        <TextField label="Display and connection" path={[...at, "shows"]} />
        <TextField label="Where it is mounted" path={[...at, "lives"]} />
        <ChecksField
          label="Battery types it can be set for"
          path={[...at, "can_do"]}
          choices={choices?.chemistries ?? []}
        />
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
    { value: "", label: "its own controller", hint: "" },
    ...others.map((string) => ({ value: string.id, label: `shares ${string.name}'s`, hint: "" })),
  ];
  return (
    <details className="basis-full">
      <summary className="cursor-pointer text-act">Cable, diode, shared controller</summary>
      <div className="mt-3 grid gap-3 sm:grid-cols-3">
        <NumberField label="Cable, one way" path={[...path, "cable_m"]} dimension="length" known optional />
        <NumberField label="Wire size" path={[...path, "cable_mm2"]} dimension="wire" optional />
        <NumberField
          label="Shade on this string only"
          path={[...path, "shaded_share"]}
          dimension="share"
          known
        />
        <ChoiceField label="Which controller" path={[...path, "joins"]} choices={choices} emptyIsNull />
        <ToggleField label="Blocking diode" path={[...path, "blocking_diode"]} />
        <ChoiceField
          label="A fuse for each parallel string"
          path={[...path, "fused"]}
          choices={answers?.answers}
        />
      </div>
    </details>
  );
}
