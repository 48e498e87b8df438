import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useEffect, useId, useState } from "react";
import { Refusal } from "../../api/client";
import { useDesk } from "../../kit/context";
import { freshKey } from "../../kit/freshKey";
import { sendLine, sendWaiting, useOutbox } from "./outbox";

const INITIALS = "yonderstat.initials";
const TRY_EVERY_MS = 5000;
const EXAMPLES = [
  "12.62 rest 3h",
  "11.9 at 20 A",
  "in 31 Ah out 28",
  "box 34 C",
  "sg 1.225",
  "test 78 Ah",
  "ran 4h30",
];

/** What waits for the server, sent as soon as it is back. */
function Outbox() {
  const { view } = useDesk();
  const cache = useQueryClient();
  const { lines, refused } = useOutbox();
  useEffect(() => {
    if (lines.length === 0) return;
    const send = async () => {
      if ((await sendWaiting()) > 0) void cache.invalidateQueries({ queryKey: ["log", view.site_id] });
    };
    void send();
    const timer = setInterval(() => void send(), TRY_EVERY_MS);
    return () => clearInterval(timer);
  }, [lines.length, cache, view.site_id]);
  return (
    <>
      {lines.length > 0 && (
        <p role="status" className="text-fix">
          {lines.length === 1 ? "One entry waits" : `${lines.length} entries wait`} for the server:{" "}
          {lines.map((line) => line.said).join("; ")}
        </p>
      )}
      {refused && (
        <p role="alert" className="text-stop">
          {refused}
        </p>
      )}
    </>
  );
}

/** One line, as it is said. */
export function Entry() {
  const { view } = useDesk();
  const cache = useQueryClient();
  const id = useId();
  const [said, setSaid] = useState("");
  const [at, setAt] = useState("");
  const keepForLater = useOutbox((outbox) => outbox.add);
  const add = useMutation({
    mutationFn: async () => {
      const line = {
        key: freshKey(),
        designId: view.id,
        said,
        who: localStorage.getItem(INITIALS) ?? "",
        taken_at: (at ? new Date(at) : new Date()).toISOString(),
      };
      try {
        await sendLine(line);
      } catch (error) {
        // On the hill there is often no server: the line waits with the page, and keeps its time.
        if (error instanceof Refusal && error.problem.status < 500) throw error;
        keepForLater(line);
      }
    },
    onSuccess: () => {
      setSaid("");
      // The next one is of now again, not of the day that was typed for this one.
      setAt("");
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
      : add.error && "The server does not answer. What you typed is still here.";
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
      </div>
      <div>
        <label htmlFor={`${id}-at`} className="label mb-0.5 block">
          Time of reading (empty means now)
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
        Save reading
      </button>
      <p id={`${id}-help`} className="-mt-2 text-[12px] text-ink2 sm:col-span-3">
        Type it as you would say it: {EXAMPLES.join(" · ")}. Anything else is kept as a note.
      </p>
      <div className="sm:col-span-3">
        <Outbox />
      </div>
    </form>
  );
}
