import { expect, test } from "vitest";
import { added, moved, outline, placed, trackPath, turnFor } from "./skyline";

const hill = [
  { azimuth_deg: 280, elevation_deg: 0 },
  { azimuth_deg: 330, elevation_deg: 30 },
];

test("the equator's side stands in the middle", () => {
  expect(placed(180, turnFor(60))).toBe(180);
  expect(placed(0, turnFor(-43))).toBe(180);
});

test("the skyline closes round the compass", () => {
  expect(outline([], 0)).toBe("M0 90 H360");
  const one = outline([{ azimuth_deg: 90, elevation_deg: 20 }], 0);
  expect(one).toBe("M0 70 L90 70 L360 70 V90 H0 Z");
});

test("a corner moved stays between its neighbours and above the ground", () => {
  expect(moved(hill, 0, { azimuth_deg: 340, elevation_deg: -4 })[0]).toEqual({
    azimuth_deg: 329,
    elevation_deg: 0,
  });
  expect(moved(hill, 1, { azimuth_deg: 400, elevation_deg: 99 })[1]).toEqual({
    azimuth_deg: 359,
    elevation_deg: 85,
  });
});

test("a corner added takes its place in the compass, or another's", () => {
  expect(added(hill, { azimuth_deg: 300, elevation_deg: 5 }).map((point) => point.azimuth_deg)).toEqual([
    280, 300, 330,
  ]);
  expect(added(hill, { azimuth_deg: 330, elevation_deg: 5 })).toHaveLength(2);
});

test("a track is broken where it leaves the drawing", () => {
  expect(trackPath([350, 10], [5, 5], 0)).toBe("M350.0 85.0M10.0 85.0");
  expect(trackPath([350, 10], [5, 5], 180)).toBe("M170.0 85.0L190.0 85.0");
});
