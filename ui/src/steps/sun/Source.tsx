import { useCatalogue } from "../../api/queries";
import { useDesk, useFigure } from "../../kit/context";
import { Figure } from "../../kit/Figure";
import { ChoiceField } from "../../kit/fields";
import { Part } from "../../kit/layout";
import { PlainSelect } from "../../kit/PlainSelect";
import { TwelveFields } from "./TwelveFields";
import { WeatherFile } from "./WeatherFile";

const OWN = ["sun", "own_hours"] as const;

/** The choice of source with what it needs; a weather file is a source once one is read. */
export function SourceFields() {
  const { view, editor } = useDesk();
  const { data: choices } = useCatalogue();
  const { source, own_hours, record } = view.document.sun;
  const choose = (next: string) => {
    // Own figures start from nothing better than four hours a day; the person then types their own.
    if (next === "own" && !own_hours) editor.edit({ kind: "set", path: OWN, value: Array(12).fill(4) });
    editor.edit({ kind: "set", path: ["sun", "source"], value: next });
  };
  return (
    <>
      <div className="grid gap-4 sm:grid-cols-2">
        <PlainSelect
          id="sun-source"
          label="Source"
          choices={choices?.sun_sources.filter((choice) => choice.value !== "record" || record)}
          value={source}
          onChange={(event) => choose(event.target.value)}
        />
        {source !== "own" && (
          <ChoiceField
            label="Safety margin"
            path={["sun", "allowance"]}
            choices={choices?.allowances}
            hint={
              source === "reanalysis" &&
              "The weather data reads about 8 % too high, and more or less in cloudy places and at high latitudes. For planning we use 88 % of it."
            }
          />
        )}
        {source === "own" && own_hours && (
          <div className="sm:col-span-2">
            <TwelveFields title="Full-sun hours per day on level ground" path={OWN} dimension="number" />
          </div>
        )}
      </div>
      <WeatherFile />
    </>
  );
}

/** Where the sun figures come from, how far to trust them, and the choice of another source. */
export function Source() {
  const { view } = useDesk();
  const figure = useFigure();
  const sun = view.report.sun;
  return (
    <Part title="Where the sun figures come from">
      <p className="mb-1">
        {sun.provenance}{" "}
        {sun.distance_km && (
          <>
            The nearest data point is <Figure of={figure(sun.distance_km)} /> away.{" "}
          </>
        )}
        {sun.record_km && (
          <>
            The file was taken <Figure of={figure(sun.record_km)} /> away.{" "}
          </>
        )}
        Ground elevation: <Figure of={figure(sun.elevation_m)} />. We plan with{" "}
        <Figure of={figure(sun.allowance)} /> of these figures.
      </p>
      <p className="mb-3">{sun.confidence}</p>
      <SourceFields />
    </Part>
  );
}
