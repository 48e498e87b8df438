import { useDesk, useFigure } from "../../kit/context";
import { Figure } from "../../kit/Figure";
import { BigFigure, Part } from "../../kit/layout";
import { MONTHS } from "../../kit/MonthStrip";
import { Ledger } from "./Ledger";
import { ShareBars } from "./ShareBars";

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
      <Part title="Loads" note="amps at the battery bus; a figure in italics is our guess">
        <Ledger />
      </Part>
      {view.document.draw.loads.length > 0 && <ShareBars />}
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
    </>
  );
}
