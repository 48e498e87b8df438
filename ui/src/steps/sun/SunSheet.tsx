import { Link } from "react-router";
import { useCatalogue } from "../../api/queries";
import { MonthBars } from "../../charts/MonthBars";
import { useDesk, useFigure } from "../../kit/context";
import { Figure } from "../../kit/Figure";
import { ChoiceField } from "../../kit/fields";
import { Part } from "../../kit/layout";
import { MONTHS } from "../../kit/MonthStrip";

function Source() {
  const { view } = useDesk();
  const figure = useFigure();
  const { data: choices } = useCatalogue();
  const sun = view.report.sun;
  return (
    <Part title="Where the figures come from">
      <div className="grid gap-4 sm:grid-cols-2">
        <p>
          NASA MERRA-2 reanalysis, 2011–2015, as a spread of days for each month. The nearest cell is{" "}
          <Figure of={figure(sun.distance_km)} /> away; the ground lies at{" "}
          <Figure of={figure(sun.elevation_m)} />. Five years show how days differ, not how years do.
        </p>
        <ChoiceField
          label="Allowance"
          path={["sun", "allowance"]}
          choices={choices?.allowances}
          hint="The reanalysis reads high by about 8 %; cloudy places and high latitudes vary. Planning takes 88 % of it."
        />
      </div>
    </Part>
  );
}

function Missing({ state }: { state: string }) {
  if (state === "no_place") {
    return (
      <p className="py-4 text-[14px]">
        Sun follows from the place.{" "}
        <Link className="text-act underline" to="../brief" relative="path">
          Give a locator in Brief
        </Link>
        , such as RE66tv.
      </p>
    );
  }
  return (
    <p className="py-4 text-[14px]">
      The packaged sun data covers land and near coasts; its nearest cell is more than 200 km from here, too
      far to stand for it. Check the coordinates in{" "}
      <Link className="text-act underline" to="../brief" relative="path">
        Brief
      </Link>
      .
    </p>
  );
}

export default function SunSheet() {
  const { view } = useDesk();
  const figure = useFigure();
  const { sun, verdict } = view.report;
  const nights = sun.longest_night_h.map(figure);
  const hard = nights[verdict.hard_month - 1];
  return (
    <>
      {sun.state === "known" ? (
        <>
          {sun.planes.map((plane) => (
            <MonthBars
              key={plane.string_id}
              title={`Sun-hours on ${plane.name}`}
              takeaway={plane.takeaway}
              values={plane.hours.map(figure)}
              whiskers={{ low: plane.dull.map(figure), high: plane.bright.map(figure) }}
              unit="hours"
              hardMonth={verdict.hard_month}
              months={view.document.brief.months}
            />
          ))}
          <Source />
        </>
      ) : (
        <Missing state={sun.state} />
      )}
      {hard && (
        <p>
          The longest night of {MONTHS[verdict.hard_month - 1]} lasts <Figure of={hard} />.
        </p>
      )}
    </>
  );
}
