import { Link } from "react-router";
import { useCatalogue } from "../../api/queries";
import { MonthBars } from "../../charts/MonthBars";
import { useDesk, useFigure } from "../../kit/context";
import { Figure } from "../../kit/Figure";
import { ChoiceField } from "../../kit/fields";
import { Part } from "../../kit/layout";
import { MONTHS } from "../../kit/MonthStrip";
import { PlainSelect } from "../../kit/PlainSelect";
import { HorizonField } from "./HorizonField";
import { TiltMap } from "./TiltMap";
import { TwelveFields } from "./TwelveFields";

const OWN = ["sun", "own_hours"] as const;

function SourceFields() {
  const { view, editor } = useDesk();
  const { data: choices } = useCatalogue();
  const { source, own_hours } = view.document.sun;
  const choose = (next: string) => {
    // Own figures start from nothing better than four hours a day; the person then types their own.
    if (next === "own" && !own_hours) editor.edit({ kind: "set", path: OWN, value: Array(12).fill(4) });
    editor.edit({ kind: "set", path: ["sun", "source"], value: next });
  };
  return (
    <div className="grid gap-4 sm:grid-cols-2">
      <PlainSelect
        id="sun-source"
        label="Source"
        choices={choices?.sun_sources}
        value={source}
        onChange={(event) => choose(event.target.value)}
      />
      {source === "reanalysis" && (
        <ChoiceField
          label="Allowance"
          path={["sun", "allowance"]}
          choices={choices?.allowances}
          hint="The reanalysis reads high by about 8 %; cloudy places and high latitudes vary. Planning takes 88 % of it."
        />
      )}
      {source === "own" && own_hours && (
        <div className="sm:col-span-2">
          <TwelveFields title="Sun-hours a day on the flat" path={OWN} dimension="number" />
        </div>
      )}
    </div>
  );
}

function Source() {
  const { view } = useDesk();
  const figure = useFigure();
  const sun = view.report.sun;
  return (
    <Part title="Where the figures come from">
      <p className="mb-3">
        {sun.provenance}{" "}
        {sun.distance_km && (
          <>
            The nearest cell is <Figure of={figure(sun.distance_km)} /> away.{" "}
          </>
        )}
        The ground lies at <Figure of={figure(sun.elevation_m)} />; <Figure of={figure(sun.allowance)} /> of
        the figures is planned on.
      </p>
      <SourceFields />
    </Part>
  );
}

function InTheWay() {
  return (
    <Part title="What stands in its way" note="skyline, ground and snow">
      <div className="mb-4">
        <HorizonField />
      </div>
      <TwelveFields
        title="Ground reflection, percent"
        hint="20 bare, 60 and more under snow"
        path={["sun", "albedo"]}
        dimension="share"
      />
      <TwelveFields title="Days the panels lie under snow" path={["sun", "snow_days"]} dimension="number" />
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
        , such as RE56tv.
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
      , or give twelve figures of your own.
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
          <TiltMap />
          <InTheWay />
          <Source />
        </>
      ) : (
        <>
          <Missing state={sun.state} />
          {sun.state === "no_cell" && <SourceFields />}
        </>
      )}
      {hard && (
        <p>
          The longest night of {MONTHS[verdict.hard_month - 1]} lasts <Figure of={hard} />.
        </p>
      )}
    </>
  );
}
