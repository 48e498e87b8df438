import { useMutation, useQueryClient } from "@tanstack/react-query";
import { Refusal, reasonOf } from "../../api/client";
import { useDesk } from "../../kit/context";
import { freshKey } from "../../kit/freshKey";
import { sendLine, useOutbox } from "../log/outbox";
import { shown, useSession, type View } from "./useCheck";

const INITIALS = "yonderstat.initials";

/** Keep lines in the log; what does not reach the server waits with the page. */
function useKeep() {
  const { view } = useDesk();
  const cache = useQueryClient();
  const keepForLater = useOutbox((outbox) => outbox.add);
  return useMutation({
    mutationFn: async (said: string[]) => {
      for (const line of said) {
        const kept = {
          key: freshKey(),
          designId: view.id,
          said: line.slice(0, 200),
          who: localStorage.getItem(INITIALS) ?? "",
          taken_at: new Date().toISOString(),
        };
        try {
          await sendLine(kept);
        } catch (error) {
          if (error instanceof Refusal && error.problem.status < 500) throw error;
          keepForLater(kept);
        }
      }
    },
    onSuccess: () => void cache.invalidateQueries({ queryKey: ["log", view.site_id] }),
  });
}

const SAID = { fits: "fits", low: "too low", high: "too high", cannot: "cannot be" } as const;

/** What mends the likeliest cause, what it costs, and the log it goes into. */
export function Remedy({ of }: { of: View }) {
  const [, change] = useSession();
  const keep = useKeep();
  const first = of.diagnosis.causes[0];
  if (!first || of.readings.length === 0) return null;
  const lines = of.readings.map(
    ({ point, value, fits }) => `Checked ${point.name}: ${shown(value, point.unit)}, ${SAID[fits]}`,
  );
  const isWell = first.kind === "healthy";
  const done = isWell ? [] : [`Mended: ${first.label}`];
  return (
    <section aria-label="What mends it">
      <h3 className="text-[14px]">{isWell ? "Keep it" : `If it is: ${first.label}`}</h3>
      <p className="my-1">
        {first.remedy} <b>{isWell ? "" : `Costs: ${first.cost}.`}</b>
      </p>
      <div className="flex flex-wrap gap-3">
        <button
          type="button"
          className="btn btn-primary btn-sm min-h-11"
          disabled={keep.isPending}
          onClick={() => keep.mutate([...lines, ...done])}
        >
          {isWell ? "Put it in the log" : "Mended: put it in the log"}
        </button>
        <button
          type="button"
          className="btn btn-sm btn-ghost min-h-11 text-act"
          onClick={() => {
            keep.reset();
            change({ readings: [], symptom: "", of: "", point: "" });
          }}
        >
          Start again
        </button>
      </div>
      <p role="status" className={keep.error ? "text-stop" : "text-good"}>
        {keep.error
          ? reasonOf(keep.error)
          : keep.isSuccess
            ? "It is in the log. Measure the same again to see that it fits."
            : ""}
      </p>
    </section>
  );
}
