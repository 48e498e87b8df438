import { ChoiceField } from "../../kit/fields";

const ZONES = [
  { value: "", label: "solar time", hint: "" },
  ...Intl.supportedValuesOf("timeZone").map((zone) => ({
    value: zone,
    label: zone.replaceAll("_", " "),
    hint: "",
  })),
];

/** The time zone that clock hours are in; taken from the place, and open to change. */
export function ZoneField() {
  return <ChoiceField label="Time zone" path={["place", "time_zone"]} choices={ZONES} emptyIsNull />;
}
