import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { useForm, useWatch } from "react-hook-form";
import { answer, client, Refusal } from "../../api/client";
import type { components } from "../../api/schema";
import { useDesk } from "../../kit/context";
import { Part } from "../../kit/layout";
import { MONTHS } from "../../kit/MonthStrip";
import { PlainSelect } from "../../kit/PlainSelect";
import { Happenings } from "./Happenings";
import { Outcome } from "./Outcome";
import { fieldOf, MONTH_CHOICES, type SceneForm, SKIES, sceneOf, wholeNumber } from "./sceneForm";

type Played = { id: number; name: string; report: components["schemas"]["SceneReport"] };
type NumberName = "day" | "days" | "start" | "comfort" | "useful";
const DAYS_WITH_TEMPOS = 10;
const NO_MAINS = ["standby", "deployment", "mobile"];

function sceneName(form: SceneForm): string {
  const count = form.happenings.length;
  const more = count === 0 ? "" : count === 1 ? ", one thing happens" : `, ${count} things happen`;
  return `${form.days} days from ${form.day} ${MONTHS[Number(form.month) - 1]}, ${form.sky} sky${more}`;
}

/** The outage you fear, set and played; the one before stays beside it. */
export function SetTheScene() {
  const { view } = useDesk();
  const [played, setPlayed] = useState<Played[]>([]);
  const form = useForm<SceneForm>({
    defaultValues: {
      month: String(view.report.verdict.hard_month),
      day: "10",
      days: "3",
      sky: "typical",
      tempos: [],
      start: "100",
      comfort: "0",
      useful: "0",
      happenings: [],
    },
  });
  const { register, handleSubmit, setError, formState, control } = form;
  const tempos = [
    { value: "", label: "as sized" },
    ...view.document.draw.tempos.map((tempo) => ({ value: tempo.id, label: tempo.name })),
  ];
  const play = useMutation({
    mutationFn: (scene: SceneForm) =>
      answer(
        client.POST("/api/designs/{design_id}/rehearse", {
          params: { path: { design_id: view.id } },
          body: sceneOf(scene),
        }),
      ),
    onSuccess: ({ report }, scene) => {
      if (!report) return;
      setPlayed((before) =>
        [{ id: (before[0]?.id ?? 0) + 1, name: sceneName(scene), report }, ...before].slice(0, 2),
      );
    },
    onError: (error) => {
      const faults = error instanceof Refusal ? (error.problem.faults ?? []) : [];
      for (const fault of faults) {
        const field = fieldOf(fault.pointer);
        if (field) setError(field, { message: fault.message });
      }
    },
  });
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
      title="Set the scene"
      note={`from midnight, the bank as full as you say${NO_MAINS.includes(view.document.brief.purpose ?? "") ? ", the mains gone" : ""}`}
    >
      <form
        aria-label="Scene"
        className="mb-4"
        noValidate
        onSubmit={handleSubmit((scene) => play.mutate(scene))}
      >
        <div className="mb-3 grid grid-cols-2 gap-3 sm:grid-cols-4">
          <PlainSelect id="scene-month" label="Month" choices={MONTH_CHOICES} {...register("month")} />
          {number("day", "Day")}
          {number("days", "How many days")}
          <PlainSelect id="scene-sky" label="Weather" choices={SKIES} {...register("sky")} />
          {number("start", "Charge at the start, %")}
          {number("comfort", "Shed Comfort below, %")}
          {number("useful", "Shed Useful below, %")}
        </div>
        <fieldset className="mb-3">
          <legend className="label mb-0.5">Tempo, day by day; the last goes on</legend>
          <div className="flex flex-wrap gap-2">
            {Array.from({ length: days }, (_, day) => (
              <select
                key={day}
                aria-label={`Tempo on day ${day + 1}`}
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
        <button type="submit" className="btn btn-primary btn-sm" disabled={play.isPending}>
          Play it
        </button>
      </form>
      {play.error && !(play.error instanceof Refusal && Object.keys(formState.errors).length > 0) && (
        <p role="alert" className="mb-3 text-stop">
          {play.error.message}
        </p>
      )}
      {play.data && !play.data.report && (
        <p role="alert" className="mb-3">
          It cannot be played: a rehearsal needs a place with sun data and a bank, and the weather file’s own
          days need a weather file.
        </p>
      )}
      {played.map((item) => (
        <Outcome key={item.id} name={item.name} report={item.report} prefix={`scene${item.id}.`} />
      ))}
    </Part>
  );
}
