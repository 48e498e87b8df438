import { LazyMap } from "../../charts/LazyMap";
import { useDesk, useFigure } from "../../kit/context";
import { Figure } from "../../kit/Figure";
import { MonthTable } from "../../kit/MonthTable";

/** The place on the map, with the sun it gets in each month. */
export function PlacePicture() {
  const { view } = useDesk();
  const figure = useFigure();
  const place = view.document.place;
  if (!place) return null;
  const { latitude_deg, longitude_deg } = place;
  const plane = view.report.sun.planes[0];
  return (
    <div className="mt-4 grid items-center gap-4 sm:grid-cols-[14rem_1fr]">
      <LazyMap
        spots={[{ id: "here", name: view.site_name, latitude_deg, longitude_deg }]}
        label={`Map of the land around ${view.site_name}`}
        around_deg={22}
      />
      {plane && (
        <div className="min-w-0">
          <p className="mb-1">{plane.takeaway}</p>
          <div className="overflow-x-auto">
            <div className="min-w-[30rem]">
              <MonthTable
                hardMonth={view.report.verdict.hard_month}
                rows={[
                  ["hours", plane.hours.map((key) => <Figure key={key} of={figure(key)} unit={false} />)],
                ]}
              />
            </div>
          </div>
        </div>
      )}
    </div>
  );
}
