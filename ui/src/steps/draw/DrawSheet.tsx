import { Cautions } from "../../kit/Cautions";
import { useDesk, useFigure } from "../../kit/context";
import { Disagreements } from "../../kit/Disagreements";
import { Figure } from "../../kit/Figure";
import { BigFigure, Part } from "../../kit/layout";
import { MONTHS } from "../../kit/MonthStrip";
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

export default function DrawSheet() {
  const { view } = useDesk();
  const figure = useFigure();
  const { draw, night } = view.report;
  const month = MONTHS[draw.month - 1];
  return (
    <>
      <div className="mb-5 grid grid-cols-2 gap-4 sm:grid-cols-4">
        <BigFigure of={figure(draw.daily_ah)} label={`a day in ${month}`} />
        <BigFigure of={figure(draw.daily_wh)} label={`a day in ${month}`} />
        <BigFigure of={figure(draw.average_a)} label="on average" />
        <BigFigure of={figure(draw.peak_a)} label="at most at once" />
      </div>
      <Part title="Loads" note="amps at the rail a load hangs on; a figure in italics is our guess">
        <Cautions step="draw" at="loads" />
        <Ledger />
      </Part>
      {view.document.draw.loads.length > 0 && (
        <>
          <TempoRuntime />
          <DayProfile />
          <TurnDown />
          <PeakStack />
          <ShareBars />
        </>
      )}
      <Rails />
      <TakeFromShelf of={["rail-"]} />
      <LogImport />
      <TableImport />
      {draw.heating_w && (
        <p className="mb-4">
          Holding the bank’s box at 5 °C takes <Figure of={figure(draw.heating_w)} /> day and night in {month}
          .
        </p>
      )}
      {night && (
        <p className="mb-4">
          The longest night of {MONTHS[night.month - 1]} takes <Figure of={figure(night.draw_ah)} />
          {night.share && (
            <>
              , <Figure of={figure(night.share)} /> of what the bank holds for use
            </>
          )}
          .
        </p>
      )}
      <Disagreements step="draw" />
    </>
  );
}
