import { useCatalogue } from "../../api/queries";
import { Cautions } from "../../kit/Cautions";
import { useDesk } from "../../kit/context";
import { Disagreements } from "../../kit/Disagreements";
import { ChoiceField, NumberField, TextField } from "../../kit/fields";
import { Part } from "../../kit/layout";
import { MonthsField } from "../../kit/Months";
import { AsBuiltLine } from "./AsBuiltLine";
import { PlaceField } from "./PlaceField";
import { PlacePicture } from "./PlacePicture";
import { ZoneField } from "./ZoneField";

const EXTREMES = [
  { label: "Coldest night of the year", field: "coldest_c", figure: "weather.cold_c" },
  { label: "Hottest afternoon of the year", field: "hottest_c", figure: "weather.hot_c" },
] as const;

export default function BriefSheet() {
  const { view } = useDesk();
  const { data: choices } = useCatalogue();
  const asked = view.report.working[view.report.asked_days]?.value;
  return (
    <>
      <Part title="What it is for">
        <Cautions step="brief" at="purpose" />
        <div className="grid gap-4 sm:grid-cols-2">
          <ChoiceField label="Kind of station" path={["brief", "kind"]} choices={choices?.kinds} />
          <ChoiceField label="Purpose" path={["brief", "purpose"]} choices={choices?.purposes} />
          <ChoiceField
            label="What you prepare for"
            path={["brief", "preparing_for"]}
            choices={choices?.preparing}
          />
          <NumberField
            label="Days to last without sun"
            path={["brief", "asked_days"]}
            dimension="days"
            known
            optional
            fallback={asked}
            hint="Leave empty to use the usual figure for what you prepare for."
          />
          <ChoiceField label="Who is on site" path={["brief", "attended"]} choices={choices?.attended} />
          <MonthsField label="Months in use" path={["brief", "months"]} />
        </div>
      </Part>
      <Part title="Location">
        <div className="grid gap-4 sm:grid-cols-2">
          <PlaceField />
          {view.document.place && (
            <NumberField
              label="Elevation"
              path={["place", "elevation_m"]}
              dimension="height"
              known
              optional
              fallback={
                view.report.sun.elevation_m ? view.report.working[view.report.sun.elevation_m]?.value : null
              }
              hint="Leave empty to take it from the built-in terrain map."
            />
          )}
          {view.document.place && <ZoneField />}
          {EXTREMES.map(({ label, field, figure }) => (
            <NumberField
              key={field}
              label={label}
              path={["brief", field]}
              dimension="temperature"
              known
              optional
              fallback={view.report.working[figure]?.value}
              hint="Leave empty to use our cautious guess from the local climate."
            />
          ))}
        </div>
        <PlacePicture />
      </Part>
      <Part title="Money, weight and notes">
        <Cautions step="brief" at="payload" />
        <div className="grid gap-4 sm:grid-cols-2">
          <NumberField
            label="Price per kWh from the mains"
            path={["brief", "price_per_kwh"]}
            dimension="price"
            known
            optional
          />
          <TextField label="Currency" path={["brief", "currency"]} />
          <NumberField
            label="One US dollar is"
            path={["brief", "usd_rate"]}
            dimension="price"
            known
            optional
            hint="In your currency: our guesses of prices are in dollars."
          />
          <NumberField
            label="Freight, duty and tax"
            path={["brief", "on_top"]}
            dimension="share"
            known
            optional
            hint="On top of what parts cost."
          />
          <NumberField
            label="Weight limit for the batteries"
            path={["brief", "payload_kg"]}
            dimension="weight"
            known
            optional
            hint="What the hitch, the roof, your back or the tower can carry."
          />
          <TextField label="Name of this design" path={["name"]} />
          <AsBuiltLine />
          <div className="sm:col-span-2">
            <TextField label="Notes" path={["brief", "note"]} lines={3} />
          </div>
        </div>
      </Part>
      <Disagreements step="brief" />
    </>
  );
}
