import { Link } from "react-router";
import { MonthBars } from "../../charts/MonthBars";
import { Cautions } from "../../kit/Cautions";
import { useDesk, useFigure } from "../../kit/context";
import { Figure } from "../../kit/Figure";
import { NumberField } from "../../kit/fields";
import { Part } from "../../kit/layout";
import { MONTHS } from "../../kit/MonthStrip";
import { Sections } from "../../kit/Sections";
import { Air, BadWeather } from "./BadWeather";
import { HorizonEditor } from "./HorizonEditor";
import { Source, SourceFields } from "./Source";
import { TiltMap } from "./TiltMap";
import { TwelveFields } from "./TwelveFields";

function InTheWay() {
  return (
    <Part title="Shade, snow and dust" note="what keeps sun off the panels">
      <div className="mb-4">
        <HorizonEditor />
      </div>
      <TwelveFields
        title="Shade before noon, percent"
        hint="from trees and similar; less in winter without leaves"
        path={["sun", "shade_morning"]}
        dimension="share"
      />
      <TwelveFields title="Shade after noon, percent" path={["sun", "shade_afternoon"]} dimension="share" />
      <TwelveFields
        title="Ground reflection, percent"
        hint="bare ground 20, snow 60 and more"
        path={["sun", "albedo"]}
        dimension="share"
      />
      <TwelveFields title="Days with snow on the panels" path={["sun", "snow_days"]} dimension="number" />
      <div className="max-w-64">
        <NumberField label="Loss from dust and droppings" path={["sun", "soiling"]} dimension="share" known />
      </div>
    </Part>
  );
}

function Missing({ state }: { state: string }) {
  if (state === "no_place") {
    return (
      <p className="py-4 text-[14px]">
        We need the location to know the sun.{" "}
        <Link className="text-act underline" to="../brief" relative="path">
          Enter a locator in Brief
        </Link>
        , such as RE56tv.
      </p>
    );
  }
  return (
    <p className="py-4 text-[14px]">
      The built-in sun data covers land and coasts. Its nearest point is more than 200 km from here, which is
      too far. Check the coordinates in{" "}
      <Link className="text-act underline" to="../brief" relative="path">
        Brief
      </Link>
      , or type your own figures for the twelve months.
    </p>
  );
}

export default function SunSheet() {
  const { view } = useDesk();
  const figure = useFigure();
  const { sun, verdict } = view.report;
  const nights = sun.longest_night_h.map(figure);
  const hard = nights[verdict.hard_month - 1];
  const night = hard && (
    <p className="mb-4">
      The longest night of {MONTHS[verdict.hard_month - 1]} lasts <Figure of={hard} />.
    </p>
  );
  if (sun.state !== "known") {
    return (
      <>
        <Missing state={sun.state} />
        {sun.state === "no_cell" && <SourceFields />}
        {night}
        <Air />
      </>
    );
  }
  return (
    <Sections
      label="Sun"
      sections={[
        {
          id: "hours",
          name: "Sun-hours",
          page: (
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
              <Cautions step="sun" at="mounting" />
              {night}
            </>
          ),
        },
        { id: "tilt", name: "Best tilt", page: <TiltMap /> },
        { id: "weather", name: "Bad weather", page: <BadWeather /> },
        { id: "shade", name: "Shade, snow and dust", page: <InTheWay /> },
        { id: "air", name: "Temperatures", page: <Air /> },
        { id: "data", name: "Source of the data", page: <Source /> },
      ]}
    />
  );
}
