import { useCatalogue } from "../../api/queries";
import { MonthBars } from "../../charts/MonthBars";
import { Cautions } from "../../kit/Cautions";
import { useDesk, useFigure } from "../../kit/context";
import { Disagreements } from "../../kit/Disagreements";
import { BigFigure, Part } from "../../kit/layout";
import { RulesTable } from "../../kit/RulesTable";
import { Sections } from "../../kit/Sections";
import { useUnits } from "../../kit/settings";
import { fieldUnit } from "../../kit/units";
import { TakeFromShelf } from "../shelf/FromShelf";
import { BankFields } from "./BankFields";
import { BankPicture } from "./BankPicture";
import { Charging } from "./Charging";
import { Compared } from "./Compared";
import { Discharge } from "./Discharge";
import { Layers } from "./Layers";
import { LifeAndCare } from "./LifeAndCare";
import { RestingTable } from "./RestingTable";
import { Runtime } from "./Runtime";
import { Waterfall } from "./Waterfall";

const BANK = ["store", "bank"] as const;

/** What can be used as the bank warms and cools through the year. */
function ByMonth() {
  const { view } = useDesk();
  const figure = useFigure();
  const units = useUnits();
  const store = view.report.store;
  if (!store) return null;
  return (
    <MonthBars
      title="Usable by month"
      takeaway={store.takeaway}
      values={store.months_ah.map(figure)}
      unit="Ah"
      colour="bg-store/60"
      hardMonth={view.report.verdict.hard_month}
      months={view.document.brief.months}
      more={[[`battery ${fieldUnit("temperature", units)}`, store.months_c.map(figure)]]}
    />
  );
}

export default function StoreSheet() {
  const { view, editor } = useDesk();
  const figure = useFigure();
  const { data: choices } = useCatalogue();
  const store = view.report.store;
  if (!view.document.store.bank || !store) {
    return (
      <Part title="Battery">
        <p className="mb-3 text-[14px]">
          No battery yet. Two 100 Ah AGM batteries in parallel, used to half depth, run a station that needs
          33 Ah a day for three days.
        </p>
        <button
          type="button"
          className="btn btn-primary btn-sm"
          onClick={() => editor.edit({ kind: "set", path: BANK, value: choices?.firsts.bank })}
          disabled={!choices}
        >
          Add a 100 Ah AGM battery
        </button>
      </Part>
    );
  }
  return (
    <Sections
      label="Battery"
      sections={[
        {
          id: "battery",
          name: "Battery",
          page: (
            <div className="grid gap-x-8 lg:grid-cols-2">
              <Part title="Battery">
                <Cautions step="store" at="bank" />
                <BankPicture />
                <BankFields
                  path={BANK}
                  usualDepth={figure(store.default_depth)?.value}
                  usualC={store.usual_c}
                  temperature={figure(store.temperature_c)?.value}
                />
                <TakeFromShelf of={["battery-main"]} />
              </Part>
              <div>
                <div className="mb-5 grid grid-cols-2 gap-4">
                  <BigFigure of={figure(store.usable_ah)} label="usable" />
                  <BigFigure of={figure(store.usable_wh)} label="usable energy" />
                  <BigFigure of={figure(store.hours_without_sun)} label="lasts without sun" />
                  <BigFigure of={figure(store.days_without_sun)} label="lasts without sun" />
                </div>
                <Waterfall />
                <Runtime />
              </div>
            </div>
          ),
        },
        {
          id: "months",
          name: "Months and years",
          page: (
            <>
              <ByMonth />
              <LifeAndCare />
            </>
          ),
        },
        {
          id: "volts",
          name: "Volts",
          page: (
            <div className="grid gap-x-8 lg:grid-cols-2">
              <Discharge />
              <RestingTable />
            </div>
          ),
        },
        { id: "charging", name: "Charging", page: <Charging /> },
        { id: "second", name: "Second battery", page: <Layers /> },
        {
          id: "compare",
          name: "Compare",
          page: (
            <>
              <Compared />
              <RulesTable which="bank" />
            </>
          ),
        },
        { id: "experts", name: "Experts disagree", page: <Disagreements step="store" /> },
      ]}
    />
  );
}
