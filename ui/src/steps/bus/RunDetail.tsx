import { useCatalogue } from "../../api/queries";
import { useDesk, useField, useFigure } from "../../kit/context";
import { Figure } from "../../kit/Figure";
import { ChoiceField, NumberField, TextField } from "../../kit/fields";
import { PartsField } from "./PartsField";
import { type BusRun, type RunFigures, runPath } from "./run";

const INSULATION = [60, 70, 75, 90, 105];

/** The rest of a run: where it begins, how it is laid, what lies in its way. */
export function RunDetail({ run }: { run: RunFigures }) {
  const { view } = useDesk();
  const figure = useFigure();
  const { data: choices } = useCatalogue();
  const path = runPath(run.id);
  const typed = useField<BusRun | undefined>(path).value;
  const begins = view.report.bus.runs.filter(
    (other) => other.id !== run.id && ["bus", "block", "charge"].includes(other.feeds),
  );
  const connector = choices?.connectors.find((choice) => choice.value === run.connector)?.label ?? "";
  return (
    <div className="grid gap-3 border-b border-hair bg-ground px-3 py-3 sm:grid-cols-4">
      {run.feeds === "block" && <TextField label="Name" path={[...path, "name"]} />}
      <ChoiceField
        label="Starts at"
        path={[...path, "fed_from"]}
        choices={[
          { value: "", label: `as proposed (${run.fed_from_name})`, hint: "" },
          { value: "post", label: "the battery post", hint: "its own leads" },
          ...begins.map((other) => ({ value: other.id, label: other.name, hint: "" })),
        ]}
        emptyIsNull
      />
      <ChoiceField
        label="Insulation rating"
        path={[...path, "insulation_c"]}
        choices={[
          { value: "", label: "not known: use the lowest rating", hint: "" },
          ...INSULATION.map((degrees) => ({ value: String(degrees), label: `${degrees} °C`, hint: "" })),
        ]}
        numeric
        emptyIsNull
      />
      <NumberField
        label="Hottest air around it"
        path={[...path, "ambient_c"]}
        dimension="temperature"
        known
        optional
      />
      <NumberField
        label="Conductors bundled together"
        path={[...path, "bundled"]}
        dimension="count"
        optional
        fallback={2}
      />
      <ChoiceField
        label="Connector"
        path={[...path, "connector"]}
        choices={[
          { value: "", label: `as proposed (${connector})`, hint: "" },
          ...(choices?.connectors ?? []),
        ]}
        emptyIsNull
      />
      {typed?.fuse && typed.fuse.kind !== "none" && (
        <>
          <NumberField
            label="Fuse rating, volts DC"
            path={[...path, "fuse", "dc_v"]}
            dimension="volts"
            known
            optional
          />
          <NumberField
            label="Fuse breaking capacity, amps"
            path={[...path, "fuse", "interrupt_a"]}
            dimension="amps"
            optional
          />
          <NumberField
            label="Distance from start to fuse"
            path={[...path, "fuse", "from_start_m"]}
            dimension="length"
            known
            optional
          />
          <ChoiceField label="Fuse is in" path={[...path, "fuse", "lead"]} choices={choices?.fuse_leads} />
        </>
      )}
      <PartsField run={run} />
      <p className="text-[12px] text-ink2 sm:col-span-4">
        Continuous current: <Figure of={figure(run.continuous_a)} />. Smallest fuse that holds:{" "}
        <Figure of={figure(run.needed_fuse_a)} />. A short circuit at its start draws{" "}
        <Figure of={figure(run.prospective_a)} /> from the battery. Proposed wire:{" "}
        <Figure of={figure(run.proposed_mm2)} />.
      </p>
    </div>
  );
}
