import { useCatalogue } from "../../api/queries";
import { useDesk, useFigure } from "../../kit/context";
import { ChoiceField, NumberField } from "../../kit/fields";
import { BigFigure, Part } from "../../kit/layout";
import { RulesTable } from "../../kit/RulesTable";
import { BankPicture } from "./BankPicture";
import { RestingTable } from "./RestingTable";
import { Waterfall } from "./Waterfall";

const BANK = ["store", "bank"] as const;
const FIRST_BANK = {
  chemistry: "agm",
  unit_v: 12,
  unit_ah: { value: 100, basis: "default" },
  hour_rate_h: 20,
  series: 1,
  parallel: 1,
  health: { value: 1, basis: "default" },
  depth: null,
  housing: "indoors",
  cold_c: null,
};

function BankFields() {
  const { view } = useDesk();
  const { data: choices } = useCatalogue();
  const working = view.report.working;
  const store = view.report.store;
  return (
    <div className="grid gap-3 sm:grid-cols-2">
      <ChoiceField label="Chemistry" path={[...BANK, "chemistry"]} choices={choices?.chemistries} />
      <ChoiceField label="Where it lives" path={[...BANK, "housing"]} choices={choices?.housings} />
      <NumberField label="Label of one unit" path={[...BANK, "unit_ah"]} dimension="amp_hours" known />
      <NumberField
        label="at its hour rate"
        path={[...BANK, "hour_rate_h"]}
        dimension="count"
        hint="Usually the 20-hour rate."
      />
      <NumberField label="Volts of one unit" path={[...BANK, "unit_v"]} dimension="volts" />
      <div className="grid grid-cols-2 gap-3">
        <NumberField label="In series" path={[...BANK, "series"]} dimension="count" />
        <NumberField label="In parallel" path={[...BANK, "parallel"]} dimension="count" />
      </div>
      <NumberField label="What age has left" path={[...BANK, "health"]} dimension="share" known />
      <NumberField
        label="Depth allowed"
        path={[...BANK, "depth"]}
        dimension="share"
        known
        optional
        fallback={store ? working[store.default_depth]?.value : null}
        hint="Empty takes the usual limit for chemistry and use."
      />
      <NumberField
        label="Bank temperature, hard month"
        path={[...BANK, "cold_c"]}
        dimension="temperature"
        known
        optional
        fallback={store ? working[store.temperature_c]?.value : null}
        hint="Empty follows where it lives."
      />
    </div>
  );
}

export default function StoreSheet() {
  const { view, editor } = useDesk();
  const figure = useFigure();
  const store = view.report.store;
  if (!view.document.store.bank || !store) {
    return (
      <Part title="Bank">
        <p className="mb-3 text-[14px]">
          No bank yet. Two 100 Ah AGM units in parallel at half depth carry a station that draws 33 Ah a day
          for three days.
        </p>
        <button
          type="button"
          className="btn btn-primary btn-sm"
          onClick={() => editor.edit({ kind: "set", path: BANK, value: FIRST_BANK })}
        >
          Add a 100 Ah AGM bank
        </button>
      </Part>
    );
  }
  return (
    <>
      <div className="mb-5 grid grid-cols-2 gap-4 sm:grid-cols-4">
        <BigFigure of={figure(store.usable_ah)} label="usable" />
        <BigFigure of={figure(store.usable_wh)} label="usable energy" />
        <BigFigure of={figure(store.hours_without_sun)} label="without sun" />
        <BigFigure of={figure(store.days_without_sun)} label="without sun" />
      </div>
      <div className="grid gap-x-8 lg:grid-cols-2">
        <Part title="Bank">
          <BankPicture />
          <BankFields />
        </Part>
        <div>
          <Waterfall />
          <RulesTable which="bank" />
          <RestingTable />
        </div>
      </div>
    </>
  );
}
