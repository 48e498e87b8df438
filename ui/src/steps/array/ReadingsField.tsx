import type { Path } from "../../api/edits";
import { RowsField } from "../../kit/RowsField";
import { readingsText, readReadings } from "./readings";

/** What a meter found on each panel; in series the weakest counts, side by side their mean. */
export function ReadingsField({ path }: { path: Path }) {
  return (
    <RowsField
      label="Each panel in sun: mark, Voc, Isc, amps at work"
      path={path}
      placeholder="1 21.3 V 5.8 A, 2 21.0 V 5.5 A 5.1 A"
      write={readingsText}
      read={readReadings}
    />
  );
}
