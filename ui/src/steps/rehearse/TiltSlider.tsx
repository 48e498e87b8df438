type Props = { tilt: number | null; onChange: (tilt: number | null) => void };

/** A tilt to try on the map, dragged; none leaves every string as it stands. */
export function TiltSlider({ tilt, onChange }: Props) {
  return (
    <div>
      <label htmlFor="map-tilt" className="label mb-0.5 block">
        {tilt === null ? "Tilt as now" : `Tilt ${tilt}° instead`}
      </label>
      <input
        id="map-tilt"
        type="range"
        className="w-full accent-act"
        min={0}
        max={90}
        step={5}
        value={tilt ?? 45}
        aria-valuetext={tilt === null ? "as they are" : `${tilt}°`}
        onChange={(event) => onChange(Number(event.target.value))}
      />
      {tilt !== null && (
        <button type="button" className="link text-[12px]" onClick={() => onChange(null)}>
          Reset to present tilt
        </button>
      )}
    </div>
  );
}
