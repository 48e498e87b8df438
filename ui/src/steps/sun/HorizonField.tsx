import { useField } from "../../kit/context";
import { useDraft } from "../../kit/useDraft";
import type { Point } from "./skyline";

/** The skyline as pairs of direction and height. */
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
    </div>
  );
}
