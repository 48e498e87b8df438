import { useEffect } from "react";
import { useForm, useWatch } from "react-hook-form";
import { Refusal } from "../../api/client";
import { useDesk } from "../../kit/context";
import { Part } from "../../kit/layout";
import { MONTHS } from "../../kit/MonthStrip";
import { PlainSelect } from "../../kit/PlainSelect";
import { Happenings } from "./Happenings";
import { Outcome } from "./Outcome";
import { fieldOf, firstScene, formOf, MONTH_CHOICES, type SceneForm, SKIES, wholeNumber } from "./sceneForm";
import { useScene, useScenes } from "./scenes";

type NumberName = "day" | "days" | "start" | "comfort" | "useful";
const DAYS_WITH_TEMPOS = 10;
const NO_MAINS = ["standby", "deployment", "mobile"];

function sceneName(form: SceneForm): string {
  const count = form.happenings.length;
  const more = count === 0 ? "" : count === 1 ? ", 1 event" : `, ${count} events`;
  return `${form.days} days from ${form.day} ${MONTHS[Number(form.month) - 1]}, ${form.sky} sky${more}`;
}

/** A scene that is played, told in words and hour by hour. */
function PlayedScene(props: { scene: SceneForm; isBefore: boolean; onPlay: (scene: SceneForm) => void }) {
  const { scene, isBefore, onPlay } = props;
  const { data, error, isPlaceholderData } = useScene(scene);
  if (error instanceof Refusal && error.problem.faults.some((fault) => fieldOf(fault.pointer))) return null;
  if (error) {
    return (
      <p role="alert" className="mb-3 text-stop">
        {error.message}
      </p>
    );
  }
  if (!data) return <p aria-live="polite">Running…</p>;
  if (!data.report) {
    return (
      <p role="alert" className="mb-3">
        This outage cannot run yet. It needs a location with sun data and a battery. “The weather file’s own
        days” also needs a weather file.
      </p>
    );
  }
  return (
    <div aria-busy={isPlaceholderData}>
      <Outcome
        name={isBefore ? `${sceneName(scene)}, previous run` : sceneName(scene)}
        report={data.report}
        prefix={`scene ${JSON.stringify(scene)} `}
        onPlay={(found) => onPlay(formOf(found))}
      />
    </div>
  );
}

/** The outage you fear, set and played; the one before stays beside it. Both follow the design as it changes. */
export function SetTheScene() {
  const { view } = useDesk();
  const kept = useScenes((scenes) => scenes.of[view.id]);
  const keep = useScenes((scenes) => scenes.play);
  const asked = view.report.working[view.report.asked_days]?.value;
  const played = kept ?? [firstScene(view.report.verdict.hard_month, asked)];
  const newest = played[0] as SceneForm;
  const form = useForm<SceneForm>({ values: newest });
  const { register, handleSubmit, setError, formState, control } = form;
  const tempos = [
    { value: "", label: "as in the design" },
    ...view.document.draw.tempos.map((tempo) => ({ value: tempo.id, label: tempo.name })),
  ];
  const { error } = useScene(newest);
  useEffect(() => {
    const faults = error instanceof Refusal ? error.problem.faults : [];
    for (const fault of faults) {
      const field = fieldOf(fault.pointer);
      if (field) setError(field, { message: fault.message });
    }
  }, [error, setError]);
  const play = (scene: SceneForm) => keep(view.id, scene);
  const number = (id: NumberName, label: string) => (
    <div>
      <label htmlFor={`scene-${id}`} className="label mb-0.5 block">
        {label}
      </label>
      <input
        id={`scene-${id}`}
        className="field"
        inputMode="numeric"
        aria-invalid={formState.errors[id] ? true : undefined}
        aria-describedby={`scene-${id}-error`}
        {...register(id, { validate: wholeNumber })}
      />
      <p id={`scene-${id}-error`} role="alert" className="text-[12px] text-stop">
        {formState.errors[id]?.message}
      </p>
    </div>
  );
  const days = Math.min(Number(useWatch({ control, name: "days" })) || 0, DAYS_WITH_TEMPOS);
  return (
    <Part
      title="Choose the outage"
      note={`starts at midnight with the charge you set${NO_MAINS.includes(view.document.brief.purpose ?? "") ? ", without mains" : ""}`}
    >
      <form aria-label="Scene" className="mb-4" noValidate onSubmit={handleSubmit(play)}>
        <div className="mb-3 grid grid-cols-2 gap-3 sm:grid-cols-4">
          <PlainSelect id="scene-month" label="Month" choices={MONTH_CHOICES} {...register("month")} />
          {number("day", "Day")}
          {number("days", "How many days")}
          <PlainSelect id="scene-sky" label="Weather" choices={SKIES} {...register("sky")} />
          {number("start", "Charge at the start, %")}
          {number("comfort", "Nice-to-have loads off below, %")}
          {number("useful", "Useful loads off below, %")}
        </div>
        <fieldset className="mb-3">
          <legend className="label mb-0.5">Activity level each day (the last one continues)</legend>
          <div className="flex flex-wrap gap-2">
            {Array.from({ length: days }, (_, day) => (
              <select
                key={day}
                aria-label={`Activity level on day ${day + 1}`}
                className="field w-32"
                {...register(`tempos.${day}`)}
              >
                {tempos.map((tempo) => (
                  <option key={tempo.value} value={tempo.value}>
                    {day + 1}: {tempo.label}
                  </option>
                ))}
              </select>
            ))}
          </div>
        </fieldset>
        <Happenings form={form} />
        <div className="flex flex-wrap items-center gap-x-4">
          <button type="submit" className="btn btn-primary btn-sm">
            Run it
          </button>
          {formState.isDirty && (
            <p className="text-ink2">You changed the settings. Press Run it to update the result below.</p>
          )}
        </div>
      </form>
      {played.map((scene, index) => (
        <PlayedScene key={JSON.stringify(scene)} scene={scene} isBefore={index > 0} onPlay={play} />
      ))}
    </Part>
  );
}
