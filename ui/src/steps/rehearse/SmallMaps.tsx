import { useState } from "react";
import { useCatalogue } from "../../api/queries";
import { useShown } from "../../kit/fields";
import { PlainSelect } from "../../kit/PlainSelect";
import { contour, paint, placeOf } from "./mapShape";
import { type MapAsk, type SizingMap, useSmallMap } from "./useSizingMap";

const SIZE = 120;

type Case = { label: string; change: MapAsk };
const TILTS = [20, 40, 60, 80];
const CONTROLLERS = [
  { label: "PWM", change: { controller: "pwm" as const } },
  { label: "MPPT", change: { controller: "mppt" as const } },
];

function Small({ map, label }: { map: SizingMap; label: string }) {
  const show = useShown();
  const wide = SIZE / map.panels.length;
  const tall = SIZE / map.batteries.length;
  const x = (column: number) => column * wide;
  const y = (row: number) => (map.batteries.length - 1 - row) * tall;
  const here = placeOf(map, map.here);
  const words = map.cheapest
    ? `${show(map.cheapest.watts, "W")} and ${show(map.cheapest.amp_hours, "A·h")}${map.cheapest_state === "good" ? "" : ", a close call"}`
    : "no size on the map is enough";
  return (
    <figure>
      <svg
        viewBox={`0 0 ${SIZE} ${SIZE}`}
        className="w-full max-w-40 border border-hair"
        role="img"
        aria-label={`${label}: ${words}`}
      >
        {map.served.map((cells, row) =>
          cells.map((_, column) => (
            <rect
              key={`${map.batteries[row]} ${map.panels[column]}`}
              x={x(column)}
              y={y(row)}
              width={wide}
              height={tall}
              {...paint(map, row, column)}
            />
          )),
        )}
        <path d={contour(map, map.target, x, y)} className="stroke-good" strokeWidth="2" fill="none" />
        <rect
          x={x(here.column)}
          y={y(here.row)}
          width={wide}
          height={tall}
          fill="none"
          className="stroke-ink"
          strokeWidth="1.5"
        />
      </svg>
      <figcaption>
        <span className="font-semibold">{label}</span>
        <span className="block text-[12px] text-ink2">{words}</span>
      </figcaption>
    </figure>
  );
}

function SmallOf({ ask, one }: { ask: MapAsk; one: Case }) {
  const map = useSmallMap({ ...ask, ...one.change });
  return map ? <Small map={map} label={one.label} /> : <p className="text-ink2">{one.label} …</p>;
}

/** The same map for a third choice, case beside case; a picture's axes are those of the large one. */
export function SmallMaps({ ask }: { ask: MapAsk }) {
  const { data: choices } = useCatalogue();
  const [by, setBy] = useState("");
  const cases: Record<string, Case[]> = {
    tilt: TILTS.map((tilt_deg) => ({ label: `${tilt_deg}°`, change: { tilt_deg } })),
    controller: CONTROLLERS,
    chemistry: (choices?.chemistries ?? []).map((item) => ({
      label: item.label,
      change: { chemistry: item.value as MapAsk["chemistry"] },
    })),
  };
  return (
    <section aria-label="Side by side" className="mt-4">
      <div className="max-w-56">
        <PlainSelect
          id="map-beside"
          label="Compare"
          value={by}
          onChange={(event) => setBy(event.target.value)}
          choices={[
            { value: "", label: "nothing" },
            { value: "tilt", label: "panel tilts" },
            { value: "controller", label: "controllers" },
            { value: "chemistry", label: "battery types" },
          ]}
        />
      </div>
      {by && (
        <div className="mt-3 grid grid-cols-2 gap-3 sm:grid-cols-4">
          {cases[by]?.map((one) => (
            <SmallOf key={one.label} ask={ask} one={one} />
          ))}
        </div>
      )}
    </section>
  );
}
