import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { answer, client } from "../../api/client";
import type { components } from "../../api/schema";
import { useDesk } from "../../kit/context";
import { Part } from "../../kit/layout";
import { editsOf } from "../../kit/remedy";

type Pick = components["schemas"]["Pick"];

function usePicks(wanted: boolean) {
  const { view } = useDesk();
  return useQuery({
    queryKey: ["picks", view.id, view.revision],
    enabled: wanted,
    placeholderData: (before) => before,
    queryFn: () =>
      answer(client.GET("/api/designs/{design_id}/from-shelf", { params: { path: { design_id: view.id } } })),
  });
}

function Row({ pick }: { pick: Pick }) {
  const { editor } = useDesk();
  return (
    <li className="flex flex-wrap items-baseline gap-x-3 py-0.5">
      <span className="min-w-0">
        <b className="font-[640]">{pick.part_name}</b> {pick.words}
      </span>
      {pick.taken && <span className="text-[12px] text-good">taken</span>}
      {pick.patch.length > 0 && !pick.taken && (
        <button
          type="button"
          className="btn btn-xs btn-ghost text-act"
          onClick={() => editor.edit(...editsOf(pick.patch))}
        >
          {pick.fits ? "Take it" : "Use this instead"}
          <span className="sr-only">
            : {pick.part_name} for {pick.name}
          </span>
        </button>
      )}
    </li>
  );
}

type Picks = components["schemas"]["PicksView"];

function Lines({ data, of }: { data: Picks | undefined; of?: readonly string[] }) {
  if (!data) return <p className="text-ink2">Looking for parts that fit…</p>;
  const picks = data.picks.filter((pick) => !of || of.some((start) => pick.line.startsWith(start)));
  const lines = [...new Set(picks.map((pick) => pick.line))];
  if (lines.length === 0) {
    return (
      <p className="text-ink2">Nothing in the club stores fits here. Add the spare parts the club owns.</p>
    );
  }
  return lines.map((line) => {
    const mine = picks.filter((pick) => pick.line === line);
    return (
      <section key={line} aria-label={mine[0]?.name} className="mb-2">
        <h3 className="text-[12px] text-ink2">{mine[0]?.name}</h3>
        <ul>
          {mine.map((pick) => (
            <Row key={pick.part} pick={pick} />
          ))}
        </ul>
      </section>
    );
  });
}

const theShelf = (
  <Link to="/shelf" className="text-act hover:underline">
    The club stores
  </Link>
);

/** What of the club's shelf this design could take, line by line, and what it lacks while kit is away. */
export function FromShelf() {
  const { data } = usePicks(true);
  return (
    <Part title="From the club stores" note={theShelf}>
      {data && data.missing.length > 0 && (
        <p role="status" className="mb-2 text-fix">
          Away on an outing: {data.missing.join(", ")}. Without these parts: {data.headline_without}
        </p>
      )}
      <Lines data={data} />
    </Part>
  );
}

/** The same within a step, for the lines of its own; looked for once it is opened. */
export function TakeFromShelf({ of }: { of: readonly string[] }) {
  const [open, setOpen] = useState(false);
  const { data } = usePicks(open);
  return (
    <details className="mb-4" onToggle={(event) => setOpen(event.currentTarget.open)}>
      <summary className="cursor-pointer text-act">Use parts from the club stores</summary>
      <div className="mt-2">{open && <Lines data={data} of={of} />}</div>
    </details>
  );
}
