import { Part } from "../../kit/layout";
import { Causes } from "./Causes";
import { MomentChips } from "./MomentChips";
import { NextMeasure } from "./NextMeasure";
import { PointsDiagram } from "./PointsDiagram";
import { ReadingEntry } from "./ReadingEntry";
import { Remedy } from "./Remedy";
import { Symptoms } from "./Symptoms";
import { type Asked, type Checked, shown, useChecked, useSession, useStart, type View } from "./useCheck";

const EXAMPLES =
  "Say it as you would on the air: 11.4 at the HF radio, transmitting · 10.4 A at 11, clear · 13.1 battery · open 19.2";

/** Every reading with what it means, the newest first. */
function Told({ view, onRemove }: { view: View; onRemove: (place: number) => void }) {
  return (
    <ol aria-label="Readings so far" className="my-3 grid gap-2">
      {view.readings
        .map((reading, place) => ({ reading, place }))
        .reverse()
        .map(({ reading, place }) => (
          <li key={`${place} ${reading.point.id}`} className="flex items-start gap-3">
            <span className={`font-[640] ${reading.fits === "fits" ? "text-good" : "text-stop"}`}>
              {place + 1}
            </span>
            <span className="min-w-0 flex-1">
              <b>
                {shown(reading.value, reading.point.unit)} {reading.point.name}.
              </b>{" "}
              {reading.words}
            </span>
            <button
              type="button"
              className="text-act hover:underline"
              aria-label={`Remove reading ${place + 1}`}
              onClick={() => onRemove(place)}
            >
              Remove
            </button>
          </li>
        ))}
    </ol>
  );
}

/** Check a reading: what a meter should show, what is wrong where it does not, and what to measure next. */
export default function CheckSheet() {
  const { data: start, error } = useStart();
  const [session, change] = useSession();
  const { data: view } = useChecked(session, start?.moment);
  if (error) return <p className="text-stop">{error.message}</p>;
  if (!start) return <p className="py-6 text-ink2">Looking at the station…</p>;
  const moment = session.moment ?? start.moment;
  const isBegun = session.symptom !== "" || session.readings.length > 0;
  const chosen = start.points.find((point) => point.id === session.point);
  const add = (asked: Asked, checked: Checked) =>
    change({ readings: [...session.readings, asked], moment: checked.moment, point: "" });
  return (
    <div className="grid gap-x-8 xl:grid-cols-[minmax(0,1.3fr)_minmax(0,1fr)]">
      <h1 className="sr-only">Check a reading</h1>
      <Part title="Check a reading" note="tap where you measured, or say it">
        <Symptoms start={start} session={session} moment={moment} onChange={change} />
        <ReadingEntry
          key={chosen?.id ?? ""}
          moment={moment}
          point={chosen}
          autoFocus={chosen !== undefined}
          label={chosen ? `${chosen.unit === "V" ? "Volts" : "Amps"} ${chosen.name}` : "Reading"}
          hint={chosen ? chosen.caution : EXAMPLES}
          onRead={add}
        />
        <MomentChips
          moment={moment}
          hasCharger={start.has_charger}
          onChange={(next) => change({ moment: next })}
        />
        <div className="mt-4 max-sm:hidden">
          <PointsDiagram
            start={start}
            view={isBegun ? view : undefined}
            chosen={session.point}
            onChoose={(point) => change({ point })}
          />
          <p className="text-[12px] text-ink2">
            Green fits, red does not; empty circles are places you can still measure.
          </p>
        </div>
      </Part>
      {view && isBegun && (
        <Part title={view.diagnosis.headline}>
          <Told
            view={view}
            onRemove={(place) => change({ readings: session.readings.filter((_, row) => row !== place) })}
          />
          <Causes view={view} />
          <NextMeasure view={view} onRead={add} />
          <Remedy of={view} />
        </Part>
      )}
    </div>
  );
}
