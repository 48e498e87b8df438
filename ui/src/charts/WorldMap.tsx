import { useMemo } from "react";
import { feature } from "topojson-client";
import type { GeometryCollection, Topology } from "topojson-specification";
import land from "world-atlas/land-110m.json";

export type Spot = { id: string; name: string; latitude_deg: number; longitude_deg: number };
type Props = {
  spots: Spot[];
  label: string;
  /** Degrees shown to either side of the first spot; the whole world without. */
  around_deg?: number;
};

/** Beyond the date line the land goes on. */
const TURNS_DEG = [-360, 0, 360];
const TOP_DEG = 84;
const BOTTOM_DEG = -60;

/** Corners of a ring that goes on over the date line instead of jumping back across the map. */
function unbroken(ring: number[][]): string[] {
  let turn = 0;
  let before: number | undefined;
  return ring.map(([x = 0, y = 0]) => {
    if (before !== undefined && Math.abs(x - before) > 180) turn += x < before ? 360 : -360;
    before = x;
    return `${(x + turn).toFixed(1)} ${(-y).toFixed(1)}`;
  });
}

/** The land as one SVG path in degrees, east to the right and south down. */
function landPath(): string {
  const topology = land as unknown as Topology<{ land: GeometryCollection }>;
  const { features } = feature(topology, topology.objects.land);
  const rings = features.flatMap(({ geometry }) => {
    if (geometry.type === "Polygon") return geometry.coordinates;
    return geometry.type === "MultiPolygon" ? geometry.coordinates.flat() : [];
  });
  return rings.map((ring) => `M${unbroken(ring).join("L")}Z`).join("");
}

function frame(spots: Spot[], around_deg: number | undefined): [number, number, number, number] {
  const at = spots[0];
  if (around_deg === undefined || !at) return [-180, -TOP_DEG, 360, TOP_DEG - BOTTOM_DEG];
  const high = around_deg * 1.2;
  return [at.longitude_deg - around_deg, -at.latitude_deg - high / 2, 2 * around_deg, high];
}

/** A plain map of the land with marks on it. Shipped with the app: nothing is fetched. */
export default function WorldMap({ spots, label, around_deg }: Props) {
  const path = useMemo(landPath, []);
  const [x, y, width, height] = frame(spots, around_deg);
  const dot = width / 110;
  return (
    <svg
      viewBox={`${x} ${y} ${width} ${height}`}
      className="w-full rounded border border-hair bg-ground"
      role="img"
      aria-label={label}
    >
      {TURNS_DEG.map((turn) => (
        <path key={turn} d={path} transform={`translate(${turn} 0)`} className="fill-ink2/25" />
      ))}
      <path
        d={`M${x} 0h${width}`}
        className="stroke-ink2/50"
        strokeWidth={width / 700}
        strokeDasharray={`${width / 140}`}
      />
      {spots.map((spot) => (
        <circle
          key={spot.id}
          cx={spot.longitude_deg}
          cy={-spot.latitude_deg}
          r={dot}
          className="fill-sun stroke-ink"
          strokeWidth={width / 500}
        >
          <title>{spot.name}</title>
        </circle>
      ))}
    </svg>
  );
}
