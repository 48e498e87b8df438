import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client } from "../../api/client";
import type { components } from "../../api/schema";
import { useDesk } from "../../kit/context";
import { Part } from "../../kit/layout";
import { PlainSelect } from "../../kit/PlainSelect";
import { Outcome } from "./Outcome";
import { MONTH_CHOICES } from "./sceneForm";
import { TrainerLog } from "./TrainerLog";

type Evening = components["schemas"]["Evening"];
type Keep = NonNullable<Evening["keep"]>;
const KEEPS: { value: Keep; label: string }[] = [
  { value: "all", label: "everything on" },
  { value: "no_comfort", label: "nice-to-have loads off" },
  { value: "vital_only", label: "vital loads only" },
];
const LENGTHS = [3, 5, 7, 10, 14].map((days) => ({ value: String(days), label: `${days} days` }));
const POWERS = [
  { value: "", label: "full power" },
  { value: "50", label: "50 W" },
  { value: "25", label: "25 W" },
  { value: "10", label: "10 W" },
];

/** An outage day by day with the weather hidden: what will tomorrow be worked like? */
export function Trainer() {
  const { view } = useDesk();
  const [setup, setSetup] = useState({
    month: String(view.report.verdict.hard_month),
    days: "5",
    generator: "0",
  });
  const [secret, setSecret] = useState(() => Math.floor(Math.random() * 1_000_000));
  const [evenings, setEvenings] = useState<Evening[]>([]);
  const first = view.document.draw.tempos[0]?.id ?? "";
  const [choice, setChoice] = useState({ tempo: first, keep: "all" as Keep, power: "", generator: "0" });
  const play = useMutation({
    mutationFn: (decided: Evening[]) =>
      answer(
        client.POST("/api/designs/{design_id}/trainer", {
          params: { path: { design_id: view.id } },
          body: {
            month: Number(setup.month),
            days: Number(setup.days),
            secret,
            generator_a: Number(setup.generator) || 0,
            evenings: decided,
          },
        }),
      ),
    onSuccess: (_, decided) => setEvenings(decided),
  });
  const report = play.data?.report;
  const begun = report !== undefined && report !== null;
  const again = () => {
    setSecret(Math.floor(Math.random() * 1_000_000));
    setEvenings([]);
    play.reset();
  };
  const decide = () =>
    play.mutate([
      ...evenings,
      {
        tempo: choice.tempo,
        keep: choice.keep,
        low_power_w: choice.power ? Number(choice.power) : null,
        generator_h: Number(choice.generator),
      },
    ]);
  return (
    <Part
      title="Train for an outage"
      note="you don’t know the weather: decide each evening how to work the next day"
    >
      {!begun && (
        <form
          aria-label="Training outage"
          className="flex flex-wrap items-end gap-3"
          onSubmit={(event) => {
            event.preventDefault();
            play.mutate([]);
          }}
        >
          <PlainSelect
            id="trainer-month"
            label="Month"
            choices={MONTH_CHOICES}
            value={setup.month}
            onChange={(event) => setSetup({ ...setup, month: event.target.value })}
          />
          <PlainSelect
            id="trainer-days"
            label="How long"
            choices={LENGTHS}
            value={setup.days}
            onChange={(event) => setSetup({ ...setup, days: event.target.value })}
          />
          <PlainSelect
            id="trainer-generator"
            label="Generator available"
            choices={["0", "10", "20", "40"].map((value) => ({
              value,
              label: value === "0" ? "none" : `${value} A into the battery`,
            }))}
            value={setup.generator}
            onChange={(event) => setSetup({ ...setup, generator: event.target.value })}
          />
          <button type="submit" className="btn btn-primary btn-sm" disabled={play.isPending}>
            Start the outage
          </button>
        </form>
      )}
      {play.isPending && (
        <p role="status" className="my-2 text-ink2">
          {report ? "Running the day, hour by hour…" : "Choosing the weather for this outage…"}
        </p>
      )}
      {play.error && (
        <p role="alert" className="my-2 text-stop">
          {play.error.message}
        </p>
      )}
      {play.data && !report && <p role="alert">Training needs a location with sun data and a battery.</p>}
      {report && (
        <>
          <p className="mb-2 text-[16px]" aria-live="polite">
            {report.sentence}
          </p>
          <TrainerLog report={report} evenings={evenings} tempos={view.document.draw.tempos} keeps={KEEPS} />
          {!report.over && (
            <form
              aria-label={`Day ${report.days_played + 1}`}
              className="mt-3 flex flex-wrap items-end gap-3"
              onSubmit={(event) => {
                event.preventDefault();
                decide();
              }}
            >
              <PlainSelect
                id="trainer-tempo"
                label={`Activity level on day ${report.days_played + 1}`}
                choices={view.document.draw.tempos.map((tempo) => ({ value: tempo.id, label: tempo.name }))}
                value={choice.tempo}
                onChange={(event) => setChoice({ ...choice, tempo: event.target.value })}
              />
              <PlainSelect
                id="trainer-keep"
                label="What stays on"
                choices={KEEPS}
                value={choice.keep}
                onChange={(event) => setChoice({ ...choice, keep: event.target.value as Keep })}
              />
              <PlainSelect
                id="trainer-power"
                label="Transmit power"
                choices={POWERS}
                value={choice.power}
                onChange={(event) => setChoice({ ...choice, power: event.target.value })}
              />
              {Number(setup.generator) > 0 && (
                <PlainSelect
                  id="trainer-generator-h"
                  label="Generator in the evening"
                  choices={["0", "1", "2", "4"].map((value) => ({
                    value,
                    label: value === "0" ? "off" : `${value} h`,
                  }))}
                  value={choice.generator}
                  onChange={(event) => setChoice({ ...choice, generator: event.target.value })}
                />
              )}
              <button type="submit" className="btn btn-primary btn-sm" disabled={play.isPending}>
                Run this day
              </button>
            </form>
          )}
          {report.over && (
            <button type="button" className="btn btn-sm my-3" onClick={again}>
              Start again with other weather
            </button>
          )}
          {report.whole && (
            <Outcome name="The actual weather" report={report.whole} prefix={`trainer${secret}.`} />
          )}
        </>
      )}
    </Part>
  );
}
