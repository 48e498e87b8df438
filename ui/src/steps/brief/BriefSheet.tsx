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
  { label: "Coldest night of a year", field: "coldest_c", figure: "weather.cold_c" },
  { label: "Hottest afternoon of a year", field: "hottest_c", figure: "weather.hot_c" },
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
          <ChoiceField label="Preparing for" path={["brief", "preparing_for"]} choices={choices?.preparing} />
          <NumberField
            label="Days to last without sun"
            path={["brief", "asked_days"]}
            dimension="days"
            known
            optional
            fallback={asked}
            hint="Empty takes the usual figure for what you are preparing for."
          />
          <ChoiceField label="Who is there to act" path={["brief", "attended"]} choices={choices?.attended} />
          <MonthsField label="Months in use" path={["brief", "months"]} />
        </div>
      </Part>
      <Part title="Where">
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
              hint="Empty takes it from the packaged relief."
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
              hint="Empty takes our guess from the climate, on the safe side."
            />
          ))}
        </div>
        <PlacePicture />
      </Part>
      <Part title="Money, weight and notes">
        <Cautions step="brief" at="payload" />
        <div className="grid gap-4 sm:grid-cols-2">
          <NumberField
            label="Price of a kWh from the mains"
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
            label="Batteries may weigh"
            path={["brief", "payload_kg"]}
            dimension="weight"
            known
            optional
            hint="What hitch, roof, back or tower will carry of them."
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
