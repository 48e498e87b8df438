import { MonthBars } from "../../charts/MonthBars";
import { Cautions } from "../../kit/Cautions";
import { useDesk, useFigure } from "../../kit/context";
import { Disagreements } from "../../kit/Disagreements";
import { BigFigure, Part } from "../../kit/layout";
import { MONTHS } from "../../kit/MonthStrip";
import { RulesTable } from "../../kit/RulesTable";
import { Sections } from "../../kit/Sections";
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
      title="Charge per day, and what you use"
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
    <Sections
      label="Panels"
      sections={[
        {
          id: "strings",
          name: "Strings",
          page: (
            <>
              <Part title="Strings" note="same panels, same direction, one controller">
                <Cautions step="array" at="strings" />
                <StringList />
                <TakeFromShelf of={["panel-", "controller-"]} />
              </Part>
              <div className="mb-5 grid grid-cols-2 gap-4 sm:grid-cols-4">
                <BigFigure of={figure(array.watts)} label="label watts" />
                <BigFigure
                  of={figure(array.harvest_wh[index])}
                  label={`into the battery per day, ${month}`}
                />
                <BigFigure
                  of={figure(array.harvest_ah[index])}
                  label={`into the battery per day, ${month}`}
                />
                <BigFigure of={figure(sizing.ratio)} label="solar compared with use" />
              </div>
            </>
          ),
        },
        { id: "voltages", name: "Voltages", page: <VoltLadder /> },
        {
          id: "yield",
          name: "Yield by month",
          page: (
            <>
              {known && view.document.draw.loads.length > 0 && <Harvest />}
              <Beside />
              <p className="text-[12px] text-ink2">
                We calculate the solar yield every half hour, from sun and cell temperature. A PWM controller
                passes the panel’s current; an MPPT controller passes its power. The rules of thumb use simple
                derating factors instead.
              </p>
            </>
          ),
        },
        {
          id: "chargers",
          name: "Other chargers",
          page: (
            <>
              <Chargers />
              <TakeFromShelf of={["charger-", "dc-dc"]} />
              <AlternatorPart />
            </>
          ),
        },
        { id: "settings", name: "Controller settings", page: <ToKeyIn /> },
        { id: "on-hand", name: "Strings from what I have", page: <Shelf /> },
        { id: "rules", name: "Rules of thumb", page: <RulesTable which="array" /> },
        { id: "experts", name: "Experts disagree", page: <Disagreements step="array" /> },
      ]}
    />
  );
}
