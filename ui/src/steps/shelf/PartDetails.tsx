import type { Path } from "../../api/edits";
import { useCatalogue } from "../../api/queries";
import { ChecksField } from "../../kit/ChecksField";
import { ChoiceField, NumberField, TextField } from "../../kit/fields";
import type { ShelfPart } from "./useShelf";

function Panel({ path }: { path: Path }) {
  const { data: choices } = useCatalogue();
  const module = [...path, "module"];
  const cells = choices?.cells.map((choice) => ({ ...choice, label: choice.value }));
  return (
    <>
      <NumberField label="Watts on the label" path={[...module, "watts"]} dimension="watts" known />
      <ChoiceField label="Cells" path={[...module, "cells"]} choices={cells} numeric />
      <NumberField label="Vmp" path={[...module, "v_mp"]} dimension="volts" known optional />
      <NumberField label="Voc" path={[...module, "v_oc"]} dimension="volts" known optional />
      <NumberField label="Isc" path={[...module, "i_sc"]} dimension="amps" known optional />
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
      <ChoiceField label="Glass and cells" path={[...module, "condition"]} choices={choices?.conditions} />
    </>
  );
}

function Battery({ path }: { path: Path }) {
  const { data: choices } = useCatalogue();
  const unit = [...path, "battery"];
  return (
    <>
      <ChoiceField label="Chemistry" path={[...unit, "chemistry"]} choices={choices?.chemistries} />
      <NumberField label="Volts of one battery" path={[...unit, "unit_v"]} dimension="volts" />
      <NumberField
        label="Amp-hours of one battery, on the label"
        path={[...unit, "unit_ah"]}
        dimension="amp_hours"
        known
      />
      <NumberField
        label="Amp-hours by discharge test"
        path={[...unit, "tested_ah"]}
        dimension="amp_hours"
        known
        optional
      />
      <NumberField
        label="Charge current, max"
        path={[...unit, "limits", "max_charge_a"]}
        dimension="amps"
        known
        optional
      />
    </>
  );
}

function Controller({ path }: { path: Path }) {
  const { data: choices } = useCatalogue();
  const kinds = choices?.controllers.filter((choice) => choice.value !== "none");
  const regulator = [...path, "regulator"];
  return (
    <>
      <ChoiceField label="Kind" path={[...path, "controller"]} choices={kinds} hint=" " />
      <NumberField label="Stands, volts" path={[...regulator, "max_v"]} dimension="volts" known optional />
      <NumberField
        label="Passes, amps"
        path={[...regulator, "max_charge_a"]}
        dimension="amps"
        known
        optional
      />
      <TextField label="Shows" path={[...regulator, "shows"]} />
    </>
  );
}

function Charger({ path }: { path: Path }) {
  const { data: choices } = useCatalogue();
  const charger = [...path, "charger"];
  return (
    <>
      <ChoiceField label="Kind" path={[...charger, "kind"]} choices={choices?.charger_kinds} hint=" " />
      <NumberField label="Output current, max" path={[...charger, "amps"]} dimension="amps" known />
      <ChecksField
        label="Made for battery type"
        path={[...path, "made_for"]}
        choices={choices?.chemistries ?? []}
      />
      <NumberField label="Set to (volts)" path={[...charger, "volts"]} dimension="volts" known optional />
    </>
  );
}

function Cable({ path }: { path: Path }) {
  return (
    <>
      <NumberField label="Copper" path={[...path, "mm2"]} dimension="wire" optional />
      <NumberField label="Number of conductors" path={[...path, "cores"]} dimension="count" />
    </>
  );
}

function Fuse({ path }: { path: Path }) {
  const { data: choices } = useCatalogue();
  const kinds = [{ value: "", label: "not said", hint: "" }, ...(choices?.fuse_kinds ?? [])];
  return (
    <>
      <ChoiceField label="Fuse type" path={[...path, "fuse"]} choices={kinds} emptyIsNull />
      <NumberField label="Rating" path={[...path, "rating_a"]} dimension="amps" optional />
    </>
  );
}

/** What its label says and what a meter found, what it costs, weighs and how old it is. */
export function PartDetails({ part }: { part: ShelfPart }) {
  const path: Path = ["parts", { id: part.id }];
  const one = part.kind === "cable" ? "of a metre" : "of one";
  return (
    <div className="mb-2 grid gap-3 border-l-2 border-hair bg-ground/40 p-3 sm:grid-cols-2 lg:grid-cols-4">
      {part.kind === "panel" && <Panel path={path} />}
      {part.kind === "battery" && <Battery path={path} />}
      {part.kind === "controller" && <Controller path={path} />}
      {part.kind === "charger" && <Charger path={path} />}
      {part.kind === "cable" && <Cable path={path} />}
      {part.kind === "fuse" && <Fuse path={path} />}
      <NumberField label={`Price ${one}`} path={[...path, "price"]} dimension="price" known optional />
      <TextField label="Currency" path={[...path, "currency"]} />
      <TextField label="Date of the price" path={[...path, "priced"]} />
      <NumberField label={`Weight ${one}`} path={[...path, "weight_kg"]} dimension="weight" known optional />
      <NumberField label="Age" path={[...path, "age_years"]} dimension="years" known optional />
      <TextField label="Note" path={[...path, "note"]} />
    </div>
  );
}
