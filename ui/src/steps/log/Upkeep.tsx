import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { answer, client } from "../../api/client";
import type { components } from "../../api/schema";
import { useDesk } from "../../kit/context";
import { Part } from "../../kit/layout";

type Due = components["schemas"]["DueView"];
const INITIALS = "yonderstat.initials";
const SOON_DAYS = 30;

const today = () => {
  const now = new Date();
  return new Date(now.getTime() - now.getTimezoneOffset() * 60_000).toISOString().slice(0, 10);
};

function whenDue({ overdue_days, last, due }: Due): [words: string, tone: string] {
  if (last === null) return ["never done", "text-fix"];
  if (overdue_days > 0) return [`${overdue_days} days overdue`, "text-stop"];
  return [`due ${due}`, overdue_days > -SOON_DAYS ? "text-fix" : "text-ink2"];
}

/** A piece of upkeep: what, why, when, and a press for done. */
export function Task({ item }: { item: Due }) {
  const { view } = useDesk();
  const cache = useQueryClient();
  const who = localStorage.getItem(INITIALS) ?? "";
  const done = useMutation({
    mutationFn: () =>
      answer(
        client.POST("/api/designs/{design_id}/upkeep", {
          params: { path: { design_id: view.id } },
          body: { task: item.task, done_on: today(), who: who || "?", note: "" },
        }),
      ),
    onSuccess: () => cache.invalidateQueries({ queryKey: ["upkeep", view.site_id] }),
  });
  const [words, tone] = whenDue(item);
  return (
    <li className="grid items-baseline gap-x-4 border-b border-hair2 py-1.5 sm:grid-cols-[1fr_9rem_auto]">
      <span>
        <b className="font-[640]">{item.title}</b>
        <span className="block text-[12px] text-ink2">
          {item.why} Every {item.months} months{item.last && `; last ${item.last}`}.
        </span>
      </span>
      <span className={tone}>{words}</span>
      <button
        type="button"
        className="btn btn-xs btn-ghost text-act"
        aria-label={`${item.title}: done today`}
        disabled={done.isPending}
        onClick={() => done.mutate()}
      >
        Done today
      </button>
    </li>
  );
}

/** What is due and what was done, by what the station has. */
export function useUpkeep() {
  const { view } = useDesk();
  return useQuery({
    queryKey: ["upkeep", view.site_id, view.id, view.revision],
    placeholderData: (before) => before,
    queryFn: () =>
      answer(client.GET("/api/designs/{design_id}/upkeep", { params: { path: { design_id: view.id } } })),
  });
}

/** Due within a month, overdue, or never done. */
export const isDueSoon = ({ last, overdue_days }: Due) => last === null || overdue_days > -SOON_DAYS;

/** What is due, by what the station has. */
export function Upkeep() {
  const { view } = useDesk();
  const cache = useQueryClient();
  const { data } = useUpkeep();
  const back = useMutation({
    mutationFn: (id: string) =>
      answer(client.DELETE("/api/upkeep/{done_id}", { params: { path: { done_id: id } } })),
    onSuccess: () => cache.invalidateQueries({ queryKey: ["upkeep", view.site_id] }),
  });
  const titles = Object.fromEntries(data?.due.map((item) => [item.task, item.title]) ?? []);
  return (
    <Part
      title="Maintenance"
      note={
        <a className="text-act hover:underline" href={`/api/designs/${view.id}/upkeep.ics`} download>
          Download calendar
        </a>
      }
    >
      <ul>
        {data?.due.map((item) => (
          <Task key={item.task} item={item} />
        ))}
      </ul>
      {data && data.done.length > 0 && (
        <details className="mt-2">
          <summary className="cursor-pointer text-act">Service history ({data.done.length})</summary>
          <ul>
            {data.done.map((item) => (
              <li key={item.id} className="flex gap-3">
                <span>
                  {item.done_on} {titles[item.task] ?? item.task}, {item.who}
                  {item.note && `: ${item.note}`}
                </span>
                <button
                  type="button"
                  className="text-act hover:underline"
                  aria-label={`Undo: ${titles[item.task] ?? item.task}, ${item.done_on}`}
                  onClick={() => back.mutate(item.id)}
                >
                  Undo
                </button>
              </li>
            ))}
          </ul>
        </details>
      )}
    </Part>
  );
}
