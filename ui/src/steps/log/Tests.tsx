import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { answer, client, Refusal } from "../../api/client";
import type { components } from "../../api/schema";
import { useDesk } from "../../kit/context";
import { useShown } from "../../kit/fields";
import { Part } from "../../kit/layout";
import { useUnits } from "../../kit/settings";
import { type Dimension, fieldUnit, readQuantity } from "../../kit/units";

type Procedure = components["schemas"]["Procedure"];
const INITIALS = "yonderstat.initials";

/** What was typed, read in the person's units; what cannot be read says so beside its field. */
function useFigures(procedure: Procedure) {
  const units = useUnits();
  const [texts, setTexts] = useState<Record<string, string>>({});
  const [faults, setFaults] = useState<Record<string, string>>({});
  const read = () => {
    const values: Record<string, number> = {};
    const wrong: Record<string, string> = {};
    for (const asked of procedure.asks) {
      const text = texts[asked.id]?.trim() ?? "";
      if (text === "") {
        if (!asked.optional) wrong[asked.id] = "is missing";
        continue;
      }
      const found = readQuantity(text, asked.dimension as Dimension, units);
      if ("error" in found) wrong[asked.id] = found.error;
      else values[asked.id] = found.value;
    }
    setFaults(wrong);
    return Object.keys(wrong).length === 0 ? values : undefined;
  };
  return {
    texts,
    faults,
    read,
    setFaults,
    type: (id: string, text: string) => setTexts({ ...texts, [id]: text }),
  };
}

function Form({ procedure }: { procedure: Procedure }) {
  const { view } = useDesk();
  const cache = useQueryClient();
  const show = useShown();
  const units = useUnits();
  const [subject, setSubject] = useState(procedure.subjects[0]?.id ?? "");
  const { texts, faults, read, setFaults, type } = useFigures(procedure);
  const chosen = procedure.subjects.find((item) => item.id === subject) ?? procedure.subjects[0];
  const add = useMutation({
    mutationFn: (values: Record<string, number>) =>
      answer(
        client.POST("/api/designs/{design_id}/tests", {
          params: { path: { design_id: view.id } },
          body: {
            kind: procedure.id,
            subject: chosen?.id ?? "",
            values,
            who: localStorage.getItem(INITIALS) ?? "",
            taken_at: null,
          },
        }),
      ),
    onSuccess: () => cache.invalidateQueries({ queryKey: ["log", view.site_id] }),
    onError: (error) => {
      const told = error instanceof Refusal ? error.problem.faults : [];
      setFaults(
        Object.fromEntries(told.map((fault) => [fault.pointer.replace("/values/", ""), fault.message])),
      );
    },
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    const values = read();
    if (values) add.mutate(values);
  };
  return (
    <form aria-label={procedure.title} onSubmit={submit} noValidate>
      <p className="mb-2 border-l-2 border-stop pl-3">{procedure.caution}</p>
      <ol className="mb-3 list-decimal pl-5">
        {procedure.steps.map((step) => (
          <li key={step}>{step}</li>
        ))}
      </ol>
      {procedure.subjects.length > 1 && (
        <label className="mb-3 flex max-w-80 flex-col">
          <span className="label">What you tested</span>
          <select className="field" value={subject} onChange={(event) => setSubject(event.target.value)}>
            {procedure.subjects.map((item) => (
              <option key={item.id} value={item.id}>
                {item.name}
              </option>
            ))}
          </select>
        </label>
      )}
      <dl aria-label="Expected" className="mb-3 flex flex-wrap gap-x-6">
        {chosen?.expects.map((item) => (
          <div key={item.label}>
            <dt className="text-[12px] text-ink2">{item.label}</dt>
            <dd className="font-[640]">{show(item.value, item.unit)}</dd>
          </div>
        ))}
      </dl>
      <div className="grid gap-3 sm:grid-cols-3">
        {procedure.asks.map((asked) => {
          const id = `${procedure.id}-${asked.id}`;
          const unit = fieldUnit(asked.dimension as Dimension, units);
          return (
            <div key={asked.id}>
              <label htmlFor={id} className="label mb-0.5 block">
                {asked.label}
                {unit && `, ${unit}`}
                {asked.optional && " (if known)"}
              </label>
              <input
                id={id}
                className="field text-right"
                autoComplete="off"
                value={texts[asked.id] ?? ""}
                aria-invalid={faults[asked.id] ? true : undefined}
                aria-describedby={faults[asked.id] ? `${id}-fault` : undefined}
                onChange={(event) => type(asked.id, event.target.value)}
              />
              {faults[asked.id] && (
                <p id={`${id}-fault`} role="alert" className="text-[12px] text-stop">
                  {faults[asked.id]}
                </p>
              )}
            </div>
          );
        })}
      </div>
      {add.error && !(add.error instanceof Refusal) && (
        <p role="alert" className="text-stop">
          The server cannot be reached; what you typed is still here.
        </p>
      )}
      <p className="mt-3">
        <button type="submit" className="btn btn-primary btn-sm" disabled={add.isPending}>
          Save test
        </button>
      </p>
      {add.data && (
        <p role="status" className="mt-2">
          {add.data.words}
        </p>
      )}
    </form>
  );
}

/** Guided tests: cautions and what to expect first, the result after. */
export function Tests() {
  const { view } = useDesk();
  const [open, setOpen] = useState<string>();
  const { data } = useQuery({
    queryKey: ["tests", view.id, view.revision],
    placeholderData: (before) => before,
    queryFn: () =>
      answer(client.GET("/api/designs/{design_id}/tests", { params: { path: { design_id: view.id } } })),
  });
  const chosen = data?.find((procedure) => procedure.id === open);
  return (
    <Part title="Tests" note="step by step: what to expect, then what the result means">
      <p className="mb-3 flex flex-wrap gap-1">
        {data?.map((procedure) => (
          <button
            key={procedure.id}
            type="button"
            aria-expanded={procedure.id === open}
            className={`btn btn-sm ${procedure.id === open ? "" : "btn-ghost text-act"}`}
            onClick={() => setOpen(procedure.id === open ? undefined : procedure.id)}
          >
            {procedure.title}
          </button>
        ))}
      </p>
      {chosen && <Form key={chosen.id} procedure={chosen} />}
    </Part>
  );
}
