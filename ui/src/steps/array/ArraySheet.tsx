import { MonthBars } from "../../charts/MonthBars";
import { Cautions } from "../../kit/Cautions";
import { useDesk, useFigure } from "../../kit/context";
import { Disagreements } from "../../kit/Disagreements";
import { BigFigure, Part } from "../../kit/layout";
import { MONTHS } from "../../kit/MonthStrip";
import { RulesTable } from "../../kit/RulesTable";
import { TakeFromShelf } from "../shelf/FromShelf";
import { AlternatorPart } from "./AlternatorPart";
import { Beside } from "./Beside";
import { Chargers } from "./Chargers";
import { Shelf } from "./Shelf";
import { StringList } from "./StringList";
import { ToKeyIn } from "./ToKeyIn";
import { VoltLadder } from "./VoltLadder";

function Harvest() {
  const { view } = useDesk();
  const figure = useFigure();
  const { array, draw, verdict } = view.report;
  const month = verdict.hard_month;
  const stored = array.stored_ah.map(figure);
  const drawn = draw.months_ah.map(figure);
  return (
    <MonthBars
      title="Kept by the bank against the draw"
      takeaway={array.takeaway}
      values={stored}
      against={{ label: "drawn", values: drawn }}
      unit="Ah/day"
      hardMonth={month}
      months={view.document.brief.months}
    />
  );
}

export default function ArraySheet() {
  const { view } = useDesk();
  const figure = useFigure();
  const { array, sizing, verdict } = view.report;
  const month = MONTHS[verdict.hard_month - 1];
  const index = verdict.hard_month - 1;
  const known = array.harvest_ah.length > 0;
  return (
    <>
      <div className="mb-5 grid grid-cols-2 gap-4 sm:grid-cols-4">
        <BigFigure of={figure(array.watts)} label="on the labels" />
        <BigFigure of={figure(array.harvest_wh[index])} label={`into the bank a day, ${month}`} />
        <BigFigure of={figure(array.harvest_ah[index])} label={`into the bank a day, ${month}`} />
        <BigFigure of={figure(sizing.ratio)} label="array to load" />
      </div>
      <Part title="Strings" note="like panels on one plane behind one controller">
        <Cautions step="array" at="strings" />
        <StringList />
        <TakeFromShelf of={["panel-", "controller-"]} />
      </Part>
      <VoltLadder />
      {known && view.document.draw.loads.length > 0 && <Harvest />}
      <Beside />
      <Chargers />
      <TakeFromShelf of={["charger-", "dc-dc"]} />
      <div className="grid gap-x-8 lg:grid-cols-2">
        <ToKeyIn />
        <AlternatorPart />
      </div>
      <Shelf />
      <div className="grid gap-x-8 lg:grid-cols-2">
        <RulesTable which="array" />
      </div>
      <Disagreements step="array" />
      <p className="text-[12px] text-ink2">
        Harvest follows the panel’s curve at every half-hour’s sun and cell heat: a PWM controller passes its
        current, an MPPT its power. The rules of thumb keep their simple derates.
      </p>
    </>
  );
}
