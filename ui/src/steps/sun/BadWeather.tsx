import { useDesk, useFigure } from "../../kit/context";
import { Figure } from "../../kit/Figure";
import { BigFigure, Part } from "../../kit/layout";
import { MONTHS } from "../../kit/MonthStrip";
import { MonthTable } from "../../kit/MonthTable";

/** How poor the hard month can be, from synthetic years. */
export function BadWeather() {
  const { view } = useDesk();
  const figure = useFigure();
  const weather = view.report.weather;
  if (!weather?.typical_h) return null;
  const month = MONTHS[weather.month - 1];
  return (
    <Part title={`${month} in ${weather.years} years of weather`} note={weather.takeaway}>
      <div className="mb-2 grid grid-cols-2 gap-4 sm:grid-cols-4">
        <BigFigure of={figure(weather.typical_h)} label={`per day in a typical ${month}`} />
        <BigFigure of={figure(weather.poor_h)} label="in a bad year (1 in 10)" />
        <BigFigure of={figure(weather.worst_h)} label={`in the worst of ${weather.years} years`} />
        <BigFigure of={figure(weather.longest_poor_d)} label="longest run of poor days" />
      </div>
      <p>
        Average per day in the worst run of:{" "}
        {weather.runs.map((run, index) => (
          <span key={run.days}>
            {index > 0 && ", "}
            {run.days} days <Figure of={figure(run.hours)} />
          </span>
        ))}
        .
      </p>
    </Part>
  );
}

/** The air by month, and the cold that strings are checked at. */
export function Air() {
  const { view } = useDesk();
  const figure = useFigure();
  const weather = view.report.weather;
  if (!weather) return null;
  const rows = [
    ["mean", weather.air_c],
    ["swing", weather.swing_k],
  ] as const;
  return (
    <Part title="Air temperature" note={weather.air_basis}>
      <div className="overflow-x-auto">
        <div className="mb-2 min-w-[34rem]">
          <MonthTable
            rows={rows.map(([name, keys]) => [
              name,
              keys.map((key) => <Figure key={key} of={figure(key)} unit={false} />),
            ])}
          />
        </div>
      </div>
      <p>
        Panel voltages are checked at <Figure of={figure(weather.cold_c)} />, the coldest we expect.
      </p>
    </Part>
  );
}
