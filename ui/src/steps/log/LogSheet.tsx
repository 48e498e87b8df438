import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Trash2 } from "lucide-react";
import { type FormEvent, useId, useState } from "react";
import { answer, client, Refusal } from "../../api/client";
import type { components } from "../../api/schema";
import { Cautions } from "../../kit/Cautions";
import { useDesk } from "../../kit/context";
import { Part } from "../../kit/layout";
import { Mark } from "../../kit/Mark";

type Reading = components["schemas"]["ReadingView"];
const INITIALS = "yonderstat.initials";
const EXAMPLES = [
  "12.62 rest 3h",
  "11.9 at 20 A",
  "in 31 Ah out 28",
  "box 34 C",
  "sg 1.225",
  "test 78 Ah",
  "ran 4h30",
];

function useLog() {
  const { view } = useDesk();
  const params = { path: { design_id: view.id } };
  return useQuery({
    queryKey: ["log", view.site_id, view.id, view.revision],
    placeholderData: (before) => before,
    queryFn: () => answer(client.GET("/api/designs/{design_id}/log", { params })),
  });
}

/** One line, as it is said. */
function Entry() {
  const { view } = useDesk();
  const cache = useQueryClient();
  const id = useId();
  const [said, setSaid] = useState("");
  const [at, setAt] = useState("");
  const add = useMutation({
    mutationFn: () =>
      answer(
        client.POST("/api/designs/{design_id}/log", {
          params: { path: { design_id: view.id } },
          body: {
            said,
            who: localStorage.getItem(INITIALS) ?? "",
            taken_at: at ? new Date(at).toISOString() : null,
          },
        }),
      ),
    onSuccess: () => {
      setSaid("");
      void cache.invalidateQueries({ queryKey: ["log", view.site_id] });
    },
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    add.mutate();
  };
  const fault =
    add.error instanceof Refusal
      ? (add.error.problem.faults?.[0]?.message ?? add.error.problem.title)
      : add.error && "The server cannot be reached; what you typed is still here.";
  return (
    <form onSubmit={submit} className="grid items-start gap-3 sm:grid-cols-[1fr_14rem_auto]">
      <div>
        <label htmlFor={id} className="label mb-0.5 block">
          Reading
        </label>
        <input
          id={id}
          className="field w-full"
          placeholder={EXAMPLES[0]}
          autoComplete="off"
          maxLength={200}
          value={said}
          aria-invalid={fault ? true : undefined}
          aria-describedby={`${id}-help`}
          onChange={(event) => {
            add.reset();
            setSaid(event.target.value);
          }}
        />
        {fault && (
          <p role="alert" className="mt-0.5 text-[12px] text-stop">
            {fault}
          </p>
        )}
        <p id={`${id}-help`} className="mt-0.5 text-[12px] text-ink2">
          As you would say it: {EXAMPLES.join(" · ")}. Anything else is kept as words.
        </p>
      </div>
      <div>
        <label htmlFor={`${id}-at`} className="label mb-0.5 block">
          Taken at (empty is now)
        </label>
        <input
          id={`${id}-at`}
          type="datetime-local"
          className="field w-full"
          value={at}
          onChange={(event) => setAt(event.target.value)}
        />
      </div>
      <button
        type="submit"
        className="btn btn-primary btn-sm mt-5"
        disabled={said.trim() === "" || add.isPending}
      >
        Log it
      </button>
    </form>
  );
}

function Row({ reading }: { reading: Reading }) {
  const { view, editor } = useDesk();
  const cache = useQueryClient();
  const again = () => void cache.invalidateQueries({ queryKey: ["log", view.site_id] });
  const remove = useMutation({
    mutationFn: () =>
      answer(client.DELETE("/api/readings/{reading_id}", { params: { path: { reading_id: reading.id } } })),
    onSuccess: again,
  });
  const { change } = reading;
  return (
    <li className="grid gap-x-4 border-b border-hair2 py-1.5 sm:grid-cols-[11rem_1fr_auto]">
      <span className="text-[12px] text-ink2">
        {new Date(reading.taken_at).toLocaleString()}
        {reading.who && `, ${reading.who}`}
      </span>
      <span>
        <b className="font-[640]">{reading.said}</b>
        {reading.words && (
          <span className="block">
            {reading.contradicts && (
              <span className="mr-1 inline-block align-middle">
                <Mark of="mind" />
              </span>
            )}
            {reading.words}
          </span>
        )}
        {change && (
          <button
            type="button"
            className="btn btn-sm btn-ghost text-act"
            onClick={() =>
              editor.edit(
                ...change.patch.map((one) => ({
                  kind: "set" as const,
                  path: one.path.slice(1).split("/"),
                  value: one.value,
                })),
              )
            }
          >
            {change.label} in {view.document.name}
          </button>
        )}
      </span>
      <button
        type="button"
        className="p-1 text-ink2 hover:text-stop"
        aria-label={`Take out ${reading.said}`}
        title="Take out"
        onClick={() => remove.mutate()}
      >
        <Trash2 size={14} />
      </button>
    </li>
  );
}

/** What the station really does: readings of the site, against this design. */
export default function LogSheet() {
  const { data, error } = useLog();
  const told = data
    ? data.total === 0
      ? "Nothing logged here yet. The plan is a set of guesses until somebody measures: begin with the volts at rest."
      : `${data.total} ${data.total === 1 ? "reading" : "readings"}; ${data.contradicted} of those shown speak against this design.`
    : "";
  return (
    <>
      <p className="mb-3 text-[14px]">{told}</p>
      {error && <p className="text-stop">The log cannot be had just now.</p>}
      <Part title="New reading" note="kept with the site, read against the design that is open">
        <Cautions step="log" at="entry" />
        <Entry />
      </Part>
      {data && data.readings.length > 0 && (
        <Part title="Readings" note="the newest first">
          <ul>
            {data.readings.map((reading) => (
              <Row key={reading.id} reading={reading} />
            ))}
          </ul>
        </Part>
      )}
    </>
  );
}
