import type { Path } from "../../api/edits";
import type { components } from "../../api/schema";
import { readPairs } from "../../kit/pairs";
import { RowsField } from "../../kit/RowsField";

type Point = components["schemas"]["CyclePoint"];
const WHAT = "a depth and a number of cycles. Type pairs, such as 50 1500, 80 800";

/** The part's own cycle table as pairs of depth and cycles. */
export function CycleField({ path }: { path: Path }) {
  return (
    <RowsField<Point>
      label="Cycle life from the data sheet: percent depth and cycles"
      path={path}
      placeholder="usual for the kind; 50 1500, 80 800"
      write={(points) => points.map((point) => `${Math.round(point.depth * 100)} ${point.cycles}`).join(", ")}
      read={(text) => readPairs(text, (percent, cycles) => ({ depth: percent / 100, cycles }), WHAT)}
    />
  );
}
