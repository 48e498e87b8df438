import type { PointerEvent } from "react";
import type { components } from "../../api/schema";

export type Point = components["schemas"]["HorizonPoint"];
export const WIDTH_DEG = 360;
/** Height of the drawing. */
export const TOP_DEG = 90;
const HIGHEST_DEG = 85;

/** Degrees the drawing is turned by, so that the equator's side stands in the middle. */
export const turnFor = (latitude_deg: number) => (latitude_deg < 0 ? 180 : 0);

/** Where a direction stands across the drawing. */
export const placed = (azimuth_deg: number, turn: number) => (azimuth_deg + turn) % WIDTH_DEG;

/** The skyline as a closed path: straight between the corners and round the compass. */
export function outline(points: Point[], turn: number): string {
  const corners = points
    .map((point) => [placed(point.azimuth_deg, turn), point.elevation_deg] as const)
    .sort((a, b) => a[0] - b[0]);
  const first = corners[0];
  const last = corners.at(-1);
  if (!first || !last) return `M0 ${TOP_DEG} H${WIDTH_DEG}`;
  const gap = first[0] + WIDTH_DEG - last[0];
  const share = gap > 0 ? (WIDTH_DEG - last[0]) / gap : 0;
  const seam = last[1] + share * (first[1] - last[1]);
  const all = [[0, seam], ...corners, [WIDTH_DEG, seam]] as const;
  return `M${all.map(([x, y]) => `${x} ${TOP_DEG - y}`).join(" L")} V${TOP_DEG} H0 Z`;
}

/** A track of the sun as a path, broken where it leaves the drawing on one side and comes in on the other. */
export function trackPath(azimuth_deg: number[], elevation_deg: number[], turn: number): string {
  let before: number | undefined;
  const parts = azimuth_deg.map((azimuth, index) => {
    const x = placed(azimuth, turn);
    const joined = before !== undefined && Math.abs(x - before) < WIDTH_DEG / 2;
    before = x;
    return `${joined ? "L" : "M"}${x.toFixed(1)} ${(TOP_DEG - (elevation_deg[index] ?? 0)).toFixed(1)}`;
  });
  return parts.join("");
}

const clamped = (value: number, low: number, high: number) => Math.min(high, Math.max(low, value));

/** The direction and height under the pointer, in whole degrees. */
export function pointAt(event: PointerEvent<SVGSVGElement>, turn: number): Point {
  const box = event.currentTarget.getBoundingClientRect();
  const x = ((event.clientX - box.left) / box.width) * WIDTH_DEG;
  const y = ((event.clientY - box.top) / box.height) * (TOP_DEG + 1);
  return {
    azimuth_deg: (Math.round(clamped(x, 0, WIDTH_DEG - 1)) + turn) % WIDTH_DEG,
    elevation_deg: clamped(Math.round(TOP_DEG - y), 0, HIGHEST_DEG),
  };
}

/** The corners with one more, in order of the compass; one already in that direction is moved. */
export function added(points: Point[], point: Point): Point[] {
  const others = points.filter((other) => other.azimuth_deg !== point.azimuth_deg);
  return [...others, point].sort((a, b) => a.azimuth_deg - b.azimuth_deg);
}

/** The corners with one moved, held between its neighbours so that the skyline goes round once. */
export function moved(points: Point[], index: number, to: Point): Point[] {
  const low = (points[index - 1]?.azimuth_deg ?? -1) + 1;
  const high = (points[index + 1]?.azimuth_deg ?? WIDTH_DEG) - 1;
  const point = {
    azimuth_deg: clamped(to.azimuth_deg, low, Math.max(low, high)),
    elevation_deg: clamped(to.elevation_deg, 0, HIGHEST_DEG),
  };
  return points.map((other, at) => (at === index ? point : other));
}
