import { useQueries } from "@tanstack/react-query";
import { answer, client, type DesignView } from "../../api/client";
import type { components } from "../../api/schema";
import { useShown } from "../../kit/fields";

type Step = components["schemas"]["Step"];

/** Some of a part in a few words. */
function useCounted() {
  const show = useShown();
  return ({ name, quantity, unit }: Step) =>
    unit === "m" ? `${show(quantity, "m")} of ${name}` : `${Number(quantity.toPrecision(4))} × ${name}`;
}

function Steps({ title, steps, none }: { title: string; steps: Step[]; none: string }) {
  const counted = useCounted();
  return (
    <div className="min-w-0">
      <h4 className="text-[12px] text-ink2">{title}</h4>
      {steps.length === 0 ? (
        <p>{none}</p>
      ) : (
        <ul>
          {steps.map((step) => (
            <li key={`${step.name} ${step.unit}`}>{counted(step)}</li>
          ))}
        </ul>
      )}
    </div>
  );
}

/** From each design to the next: what is added, and what of the one before is free for the shelf. */
export function Stages({ views }: { views: DesignView[] }) {
  const pairs = views.slice(1).flatMap((view, index) => {
    const before = views[index];
    return before ? [{ before, view }] : [];
  });
  const found = useQueries({
    queries: pairs.map(({ before, view }) => ({
      queryKey: ["parts-from", before.id, before.revision, view.id, view.revision],
      queryFn: () =>
        answer(
          client.GET("/api/designs/{design_id}/parts-from", {
            params: { path: { design_id: view.id }, query: { from: before.id } },
          }),
        ),
    })),
  });
  return pairs.map(({ before, view }, index) => {
    const data = found[index]?.data;
    return (
      <section key={view.id} className="mb-3" aria-label={`${before.document.name} to ${view.document.name}`}>
        <h3 className="text-[13px] font-[640]">
          {before.document.name} → {view.document.name}
        </h3>
        {data ? (
          <div className="grid gap-x-6 sm:grid-cols-2">
            <Steps title="Added" steps={data.added} none="Nothing." />
            <Steps title="Back to the club stores" steps={data.freed} none="Nothing." />
          </div>
        ) : (
          <p className="text-ink2">Counting parts…</p>
        )}
      </section>
    );
  });
}
