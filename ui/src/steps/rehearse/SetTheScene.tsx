import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { useForm } from "react-hook-form";
import { answer, client, Refusal } from "../../api/client";
import type { components } from "../../api/schema";
import { useDesk } from "../../kit/context";
import { Part } from "../../kit/layout";
import { MONTHS } from "../../kit/MonthStrip";
import { PlainSelect } from "../../kit/PlainSelect";
import { Timeline } from "./Timeline";

type Scene = components["schemas"]["Scene"];
type Report = components["schemas"]["SceneReport"];
type Form = {
  month: string;
  day: string;
  days: string;
  sky: NonNullable<Scene["sky"]>;
  tempo: string;
  start: string;
  comfort: string;
  useful: string;
  buried: string;
};
type Played = { name: string; report: Report };

const SKIES = [
  { value: "typical", label: "typical" },
  { value: "poor", label: "poor, one year in ten" },
  { value: "worst", label: "the worst of all years" },
  { value: "none", label: "no sun at all" },
];
const MONTH_CHOICES = MONTHS.map((label, index) => ({ value: String(index + 1), label }));

function sceneOf(form: Form): Scene {
  const days = Number(form.days);
  return {
    month: Number(form.month),
    day: Number(form.day),
    days,
    sky: form.sky,
    tempos: form.tempo ? [form.tempo] : [],
    start_share: Number(form.start) / 100,
    shed_comfort: Number(form.comfort) / 100,
    shed_useful: Number(form.useful) / 100,
    buried_days: Number(form.buried),
  };
}

function Outcome({ played }: { played: Played }) {
  return (
    <article className="mb-5" aria-label={`Rehearsal: ${played.name}`}>
      <h3 className="text-[14px]">
        <b className="font-[640]">{played.report.sentence}</b>{" "}
        <span className="text-ink2">{played.name}</span>
      </h3>
      <Timeline report={played.report} name={played.name} />
      <ol className="mt-1 grid gap-x-6 sm:grid-cols-2">
        {played.report.events.map((event) => (
          <li key={`${event.hour} ${event.sentence}`}>
            <span className="inline-block w-24 text-ink2">
              day {Math.floor(event.hour / 24) + 1}, {String(event.hour % 24).padStart(2, "0")}:00
            </span>
            {event.sentence}
          </li>
        ))}
      </ol>
    </article>
  );
}

/** The outage you fear, set and played; the one before stays beside it. */
export function SetTheScene() {
  const { view } = useDesk();
  const [played, setPlayed] = useState<Played[]>([]);
  const { register, handleSubmit, setError, formState } = useForm<Form>({
    defaultValues: {
      month: String(view.report.verdict.hard_month),
      day: "10",
      days: "3",
      sky: "typical",
      tempo: "",
      start: "100",
      comfort: "0",
      useful: "0",
      buried: "0",
    },
  });
  const tempos = [
    { value: "", label: "as sized" },
    ...view.document.draw.tempos.map((tempo) => ({ value: tempo.id, label: tempo.name })),
  ];
  const play = useMutation({
    mutationFn: (form: Form) =>
      answer(
        client.POST("/api/designs/{design_id}/rehearse", {
          params: { path: { design_id: view.id } },
          body: sceneOf(form),
        }),
      ),
    onSuccess: (data, form) => {
      if (!data.report) return;
      const name = `${form.days} days from ${form.day} ${MONTHS[Number(form.month) - 1]}, ${form.sky} sky${
        form.tempo ? `, ${tempos.find((tempo) => tempo.value === form.tempo)?.label}` : ""
      }`;
      const report = data.report;
      setPlayed((before) => [{ name, report }, ...before].slice(0, 2));
    },
    onError: (error) => {
      const fields: Record<string, keyof Form> = {
        days: "days",
        day: "day",
        start_share: "start",
        buried_days: "buried",
        shed_comfort: "comfort",
        shed_useful: "useful",
      };
      const faults = error instanceof Refusal ? error.problem.faults : [];
      for (const fault of faults) {
        const field = fields[fault.pointer.slice(1)];
        if (field) setError(field, { message: fault.message });
      }
    },
  });
  const number = (id: keyof Form, label: string) => (
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
        {...register(id, {
          validate: (text) => /^\d+$/.test(text.trim()) || "type a whole number, such as 3",
        })}
      />
      <p id={`scene-${id}-error`} role="alert" className="text-[12px] text-stop">
        {formState.errors[id]?.message}
      </p>
    </div>
  );
  return (
    <Part title="Set the scene" note="from midnight, the bank as full as you say, no mains">
      <form
        aria-label="Scene"
        className="mb-4 grid grid-cols-2 gap-3 sm:grid-cols-5"
        noValidate
        onSubmit={handleSubmit((form) => play.mutate(form))}
      >
        <PlainSelect id="scene-month" label="Month" choices={MONTH_CHOICES} {...register("month")} />
        {number("day", "Day")}
        {number("days", "How many days")}
        <PlainSelect id="scene-sky" label="Weather" choices={SKIES} {...register("sky")} />
        <PlainSelect id="scene-tempo" label="Tempo" choices={tempos} {...register("tempo")} />
        {number("start", "Charge at the start, %")}
        {number("comfort", "Shed Comfort below, %")}
        {number("useful", "Shed Useful below, %")}
        {number("buried", "Days under snow first")}
        <div className="self-start pt-[19px]">
          <button type="submit" className="btn btn-primary btn-sm" disabled={play.isPending}>
            Play it
          </button>
        </div>
      </form>
      {play.error && !(play.error instanceof Refusal && Object.keys(formState.errors).length > 0) && (
        <p role="alert" className="mb-3 text-stop">
          {play.error.message}
        </p>
      )}
      {play.data && !play.data.report && (
        <p role="alert" className="mb-3">
          It cannot be played: a rehearsal needs a place with sun data, and a bank.
        </p>
      )}
      {played.map((item, index) => (
        <Outcome key={`${played.length} ${index} ${item.name}`} played={item} />
      ))}
    </Part>
  );
}
