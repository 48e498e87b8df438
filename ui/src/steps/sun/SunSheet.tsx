import { Link } from "react-router";
import { MonthBars } from "../../charts/MonthBars";
import { Cautions } from "../../kit/Cautions";
import { useDesk, useFigure } from "../../kit/context";
import { Figure } from "../../kit/Figure";
import { NumberField } from "../../kit/fields";
import { Part } from "../../kit/layout";
import { MONTHS } from "../../kit/MonthStrip";
import { Air, BadWeather } from "./BadWeather";
import { HorizonEditor } from "./HorizonEditor";
import { Source, SourceFields } from "./Source";
import { TiltMap } from "./TiltMap";
import { TwelveFields } from "./TwelveFields";

function InTheWay() {
  return (
    <Part title="What stands in its way" note="skyline, trees, ground, snow and dust">
      <div className="mb-4">
        <HorizonEditor />
      </div>
      <TwelveFields
        title="Shade before noon, percent"
        hint="trees and the like; less when the leaves are down"
        path={["sun", "shade_morning"]}
        dimension="share"
      />
      <TwelveFields title="Shade after noon, percent" path={["sun", "shade_afternoon"]} dimension="share" />
      <TwelveFields
        title="Ground reflection, percent"
        hint="20 bare, 60 and more under snow"
        path={["sun", "albedo"]}
        dimension="share"
      />
      <TwelveFields title="Days the panels lie under snow" path={["sun", "snow_days"]} dimension="number" />
      <div className="max-w-64">
        <NumberField
          label="Kept off by dust and droppings"
          path={["sun", "soiling"]}
          dimension="share"
          known
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
          <Cautions step="sun" at="mounting" />
          <BadWeather />
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
      <Air />
    </>
  );
}
