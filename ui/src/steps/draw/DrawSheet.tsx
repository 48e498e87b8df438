import { Cautions } from "../../kit/Cautions";
import { useDesk, useFigure } from "../../kit/context";
import { Disagreements } from "../../kit/Disagreements";
import { Figure } from "../../kit/Figure";
import { BigFigure, Part } from "../../kit/layout";
import { MONTHS } from "../../kit/MonthStrip";
import { Sections } from "../../kit/Sections";
import { TakeFromShelf } from "../shelf/FromShelf";
import { DayProfile } from "./DayProfile";
import { Ledger } from "./Ledger";
import { LogImport } from "./LogImport";
import { PeakStack } from "./PeakStack";
import { Rails } from "./Rails";
import { ShareBars } from "./ShareBars";
import { TableImport } from "./TableImport";
import { TempoRuntime } from "./TempoRuntime";
import { TurnDown } from "./TurnDown";

/** What warmth for the battery and the longest night take. */
function ColdAndNight() {
  const { view } = useDesk();
  const figure = useFigure();
  const { draw, night } = view.report;
  return (
    <>
      {draw.heating_w && (
        <p className="mb-4">
          Keeping the battery box at 5 °C takes <Figure of={figure(draw.heating_w)} /> day and night in{" "}
          {MONTHS[draw.month - 1]}.
        </p>
      )}
      {night && (
        <p className="mb-4">
          The longest night of {MONTHS[night.month - 1]} takes <Figure of={figure(night.draw_ah)} />
          {night.share && (
            <>
              , <Figure of={figure(night.share)} /> of the usable battery
            </>
          )}
          .
        </p>
      )}
    </>
  );
}

export default function DrawSheet() {
  const { view } = useDesk();
  const figure = useFigure();
  const { draw } = view.report;
  const month = MONTHS[draw.month - 1];
  const hasLoads = view.document.draw.loads.length > 0;
  return (
    <Sections
      label="Loads"
      sections={[
        {
          id: "loads",
          name: "Loads",
          page: (
            <>
              <Part title="Loads" note="amps on the supply line the load runs from; italics mean our guess">
                <Cautions step="draw" at="loads" />
                <Ledger />
              </Part>
              <div className="mb-5 grid grid-cols-2 gap-4 sm:grid-cols-4">
                <BigFigure of={figure(draw.daily_ah)} label={`a day in ${month}`} />
                <BigFigure of={figure(draw.daily_wh)} label={`a day in ${month}`} />
                <BigFigure of={figure(draw.average_a)} label="average" />
                <BigFigure of={figure(draw.peak_a)} label="most at one time" />
              </div>
            </>
          ),
        },
        hasLoads && {
          id: "levels",
          name: "Activity levels",
          page: (
            <>
              <TempoRuntime />
              <TurnDown />
            </>
          ),
        },
        hasLoads && {
          id: "when",
          name: "Use by hour",
          page: (
            <>
              <DayProfile />
              <PeakStack />
              <ShareBars />
              <ColdAndNight />
            </>
          ),
        },
        {
          id: "lines",
          name: "Supply lines",
          page: (
            <>
              <Rails />
              <TakeFromShelf of={["rail-"]} />
            </>
          ),
        },
        {
          id: "import",
          name: "Import",
          page: (
            <>
              <LogImport />
              <TableImport />
            </>
          ),
        },
        { id: "experts", name: "Experts disagree", page: <Disagreements step="draw" /> },
      ]}
    />
  );
}
