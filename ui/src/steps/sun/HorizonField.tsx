import { readPairs } from "../../kit/pairs";
import { RowsField } from "../../kit/RowsField";
import type { Point } from "./skyline";

const WHAT = "a direction and a height. Type pairs, such as 290 30, 330 30";

/** The skyline as pairs of direction and height. */
export function HorizonField() {
  return (
    <RowsField<Point>
      label="Skyline: direction (clockwise from north) and height, in degrees"
      path={["sun", "horizon"]}
      placeholder="290 30, 330 30"
      write={(points) => points.map((point) => `${point.azimuth_deg} ${point.elevation_deg}`).join(", ")}
      read={(text) => readPairs(text, (azimuth_deg, elevation_deg) => ({ azimuth_deg, elevation_deg }), WHAT)}
    />
  );
}
