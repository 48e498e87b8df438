import type { Load } from "../../api/client";
import { useCatalogue } from "../../api/queries";
import { ChecksField } from "../../kit/ChecksField";
import { useDesk } from "../../kit/context";
import { ChoiceField, NumberField, TextField, ToggleField } from "../../kit/fields";
import { MonthsField } from "../../kit/Months";
import { PowerTable } from "./PowerTable";
import { WhenFields } from "./WhenFields";

const BEHAVIOURS = [
  { value: "constant_current", label: "constant amps", hint: "most radios" },
  { value: "constant_power", label: "constant watts", hint: "computers, adapters" },
];
const NEEDS = [
  { value: "mains", label: "the house mains" },
  { value: "internet", label: "the internet" },
  { value: "neighbour", label: "a neighbour’s network" },
];
const RESTARTS = [
  { value: "unknown", label: "not known", hint: "try it: open the main switch, close it again" },
  { value: "yes", label: "by itself", hint: "" },
  { value: "no", label: "by hand only", hint: "" },
];
const WINDOWS = [
  { value: "none", label: "not given", hint: "" },
  { value: "10", label: "13.8 V ± 10 %", hint: "12.42 to 15.18 V" },
  { value: "15", label: "13.8 V ± 15 %", hint: "11.73 to 15.87 V" },
  { value: "own", label: "own range", hint: "" },
];

/** Everything about a load that the ledger's columns do not hold. */
export function LoadDetail({ load }: { load: Load }) {
  const { view } = useDesk();
  const { data: choices } = useCatalogue();
  const path = ["draw", "loads", { id: load.id }] as const;
  const kinds = choices?.load_kinds.map((item) => ({ value: item.kind, label: item.label, hint: "" }));
  const rails = [
    { value: "bus", label: "battery bus", hint: "" },
    ...view.document.draw.rails.map((rail) => ({ value: rail.id, label: rail.name, hint: "" })),
  ];
  const modes = [{ value: "", label: "full carrier", hint: "" }, ...(choices?.modes ?? [])];
  return (
    <div className="grid gap-3 bg-ground p-3 sm:grid-cols-3" id={`detail-${load.id}`}>
      <ChoiceField label="Kind" path={[...path, "kind"]} choices={kinds} />
      <ChoiceField label="Runs from" path={[...path, "rail"]} choices={rails} />
      <ChoiceField label="Behaves as" path={[...path, "behaviour"]} choices={BEHAVIOURS} />
      <NumberField
        label="Watts instead of amps"
        path={[...path, "receive_w"]}
        dimension="watts"
        known
        optional
        hint="From the label. We calculate the amps from the supply volts."
      />
      <NumberField
        label="Standby current, while off"
        path={[...path, "standby_a"]}
        dimension="amps"
        known
        optional
      />
      <ChoiceField label="Voltage range" path={[...path, "window"]} choices={WINDOWS} />
      {load.window === "own" && (
        <>
          <NumberField label="At least" path={[...path, "least_v"]} dimension="volts" known optional />
          <NumberField label="At most" path={[...path, "most_v"]} dimension="volts" known optional />
        </>
      )}
      <MonthsField label="Months it runs" path={[...path, "months"]} />
      {load.transmit_a && (
        <>
          <NumberField label="Rated power" path={[...path, "rated_w"]} dimension="watts" known optional />
          <NumberField
            label="Transmit power used"
            path={[...path, "power_w"]}
            dimension="watts"
            known
            optional
            fallback={load.rated_w?.value}
          />
          <ChoiceField label="Mode" path={[...path, "mode"]} choices={modes} emptyIsNull />
          <NumberField label="Power limit" path={[...path, "power_cap_w"]} dimension="watts" known optional />
          <TextField
            label="Reason for the limit (tuner, hand-held duty…)"
            path={[...path, "power_cap_reason"]}
          />
          <PowerTable load={load} />
        </>
      )}
      <WhenFields load={load} />
      <ToggleField label="Can wait for sun" path={[...path, "deferrable"]} />
      <ChecksField label="Useless without" path={[...path, "needs"]} choices={NEEDS} />
      <ChoiceField label="After a cut-off it starts" path={[...path, "restarts"]} choices={RESTARTS} />
      <NumberField
        label="Minutes until it is ready"
        path={[...path, "ready_min"]}
        dimension="number"
        optional
      />
      <ChoiceField
        label="Waits for"
        path={[...path, "waits_for"]}
        choices={[
          { value: "", label: "nothing", hint: "" },
          ...view.document.draw.loads
            .filter((other) => other.id !== load.id)
            .map((other) => ({ value: other.id, label: other.name, hint: "" })),
        ]}
        emptyIsNull
      />
    </div>
  );
}
