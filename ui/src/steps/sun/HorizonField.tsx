import type { components } from "../../api/schema";
import { useField } from "../../kit/context";
import { useDraft } from "../../kit/useDraft";

type Point = components["schemas"]["HorizonPoint"];
const WIDTH = 360;
const TOP_DEG = 60;

/** Height of the skyline at an azimuth, straight between the points and closed round the compass. */
function outline(points: Point[]): string {
  if (points.length === 0) return `M0 ${TOP_DEG} H${WIDTH}`;
  const first = points[0] as Point;
  const last = points.at(-1) as Point;
  const gap = first.azimuth_deg + 360 - last.azimuth_deg;
  const share = gap > 0 ? (360 - last.azimuth_deg) / gap : 0;
  const seam = last.elevation_deg + share * (first.elevation_deg - last.elevation_deg);
  const corners = [[0, seam], ...points.map((p) => [p.azimuth_deg, p.elevation_deg]), [360, seam]];
  return `M${corners.map(([x, y]) => `${x} ${TOP_DEG - (y ?? 0)}`).join(" L")} V${TOP_DEG} H0 Z`;
}

/** The skyline as pairs of direction and height, with its picture all round the compass. */
export function HorizonField() {
  const field = useField<Point[]>(["sun", "horizon"]);
  const settled = field.value.map((p) => `${p.azimuth_deg} ${p.elevation_deg}`).join(", ");
  const draft = useDraft(settled, (text) => {
    const parts = text.split(",").filter((part) => part.trim() !== "");
    const points: Point[] = [];
    for (const part of parts) {
      const [azimuth, elevation, ...rest] = part.trim().replaceAll("°", "").split(/\s+/).map(Number);
      if (
        azimuth === undefined ||
        elevation === undefined ||
        rest.length > 0 ||
        Number.isNaN(azimuth + elevation)
      ) {
        return `“${part.trim()}” is not a direction and a height; type pairs, as 290 30, 330 30`;
      }
      points.push({ azimuth_deg: azimuth, elevation_deg: elevation });
    }
    field.set(points);
    return undefined;
  });
  const error = draft.error ?? field.fault;
  return (
    <div>
      <label htmlFor="horizon" className="label mb-0.5 block">
        Skyline: direction and height in degrees, from north round
      </label>
      <input
        id="horizon"
        className="field"
        placeholder="290 30, 330 30"
        autoComplete="off"
        aria-invalid={error ? true : undefined}
        aria-describedby={error ? "horizon-error" : undefined}
        value={draft.text}
        onChange={(event) => {
          field.clearFault();
          draft.change(event.target.value);
        }}
        onBlur={draft.commit}
        onKeyDown={(event) => {
          if (event.key === "Enter") draft.commit();
          if (event.key === "Escape") draft.revert();
        }}
      />
      {error && (
        <p id="horizon-error" role="alert" className="text-[12px] text-stop">
          {error}
        </p>
      )}
      <svg
        viewBox={`0 0 ${WIDTH} ${TOP_DEG}`}
        className="mt-2 h-16 w-full border-b border-hair"
        preserveAspectRatio="none"
        aria-hidden="true"
      >
        <path
          d={outline(field.value)}
          className="fill-ink2/35 stroke-ink2"
          vectorEffect="non-scaling-stroke"
        />
      </svg>
      <p className="grid grid-cols-4 text-[11px] text-ink2" aria-hidden="true">
        <span>north</span>
        <span>east</span>
        <span>south</span>
        <span>west</span>
      </p>
    </div>
  );
}
