import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useId, useState } from "react";
import { answer, client, Refusal } from "../../api/client";
import { useDesk } from "../../kit/context";
import { Part } from "../../kit/layout";
import type { LiveView } from "./useLive";

type Settings = LiveView["settings"];
type Field = "webhook" | "mail_to" | "quiet_from_h" | "quiet_to_h" | "interval_s";
const FIELDS: { id: Field; label: string; placeholder: string }[] = [
  { id: "interval_s", label: "Read every (seconds)", placeholder: "60" },
  { id: "webhook", label: "Send alarms to web address", placeholder: "http://192.168.4.2:8080/alarms" },
  { id: "mail_to", label: "Send alarms to email", placeholder: "keeper@example.org" },
  { id: "quiet_from_h", label: "Quiet hours from", placeholder: "22" },
  { id: "quiet_to_h", label: "to", placeholder: "7" },
];
const NUMBERS: Field[] = ["quiet_from_h", "quiet_to_h", "interval_s"];

/** Empty is nothing, and a word that is no number stays one, for the server to refuse beside its field. */
function asGiven(field: Field, text: string): unknown {
  if (!NUMBERS.includes(field)) return text.trim();
  if (text.trim() === "") return null;
  const number = Number(text);
  return Number.isNaN(number) ? text : number;
}

/** Who is told of alarms, and when not. */
export function Telling({ settings }: { settings: Settings }) {
  const { view } = useDesk();
  const cache = useQueryClient();
  const id = useId();
  const [typed, setTyped] = useState<Partial<Record<Field, string>>>({});
  const text = (field: Field) => typed[field] ?? String(settings[field] ?? "");
  const keep = useMutation({
    mutationFn: () => {
      const given = Object.fromEntries(FIELDS.map(({ id: field }) => [field, asGiven(field, text(field))]));
      return answer(
        client.PUT("/api/sites/{site_id}/live", {
          params: { path: { site_id: view.site_id } },
          body: { ...settings, ...given } as Settings,
        }),
      );
    },
    onSuccess: () => {
      setTyped({});
      void cache.invalidateQueries({ queryKey: ["live"] });
    },
  });
  const faults = keep.error instanceof Refusal ? keep.error.problem.faults : [];
  const submit = (event: FormEvent) => {
    event.preventDefault();
    keep.mutate();
  };
  return (
    <Part title="Alarm messages" note="in addition to this page; a Stop is sent even in quiet hours">
      <form onSubmit={submit} className="grid max-w-[46rem] items-start gap-3 sm:grid-cols-5">
        {FIELDS.map(({ id: field, label, placeholder }) => {
          const fault = faults.find((item) => item.pointer === `/${field}`)?.message;
          return (
            <div key={field} className={NUMBERS.includes(field) ? "" : "sm:col-span-2"}>
              <label htmlFor={`${id}-${field}`} className="label mb-0.5 block">
                {label}
              </label>
              <input
                id={`${id}-${field}`}
                className="field w-full"
                value={text(field)}
                placeholder={placeholder}
                autoComplete="off"
                aria-invalid={fault ? true : undefined}
                onChange={(event) => setTyped({ ...typed, [field]: event.target.value })}
              />
              {fault && (
                <p role="alert" className="text-[12px] text-stop">
                  {fault}
                </p>
              )}
            </div>
          );
        })}
        <div className="sm:pt-5">
          <button
            type="submit"
            className="btn btn-sm btn-ghost text-act"
            disabled={Object.keys(typed).length === 0 || keep.isPending}
          >
            Save
          </button>
        </div>
        {keep.error && faults.length === 0 && (
          <p role="alert" className="text-stop sm:col-span-5">
            {(keep.error as Error).message}
          </p>
        )}
      </form>
    </Part>
  );
}
