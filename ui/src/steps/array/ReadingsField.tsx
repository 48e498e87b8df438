import type { Path } from "../../api/edits";
import { RowsField } from "../../kit/RowsField";
import { readingsText, readReadings } from "./readings";

/** What a meter found on each panel; in series the weakest counts, side by side their mean. */
export function ReadingsField({ path }: { path: Path }) {
  return (
    <RowsField
      label="Measured in sun, each panel: mark, Voc, Isc, working amps"
      path={path}
      placeholder="1 21.3 V 5.8 A, 2 21.0 V 5.5 A 5.1 A"
      write={readingsText}
      read={readReadings}
    />
  );
}
