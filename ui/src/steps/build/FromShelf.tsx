import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { answer, client } from "../../api/client";
import type { components } from "../../api/schema";
import { useDesk } from "../../kit/context";
import { Part } from "../../kit/layout";
import { editsOf } from "../../kit/remedy";

type Pick = components["schemas"]["Pick"];

export function usePicks() {
  const { view } = useDesk();
  return useQuery({
    queryKey: ["picks", view.id, view.revision],
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
          {pick.fits ? "Take it" : "Use it instead"}
          <span className="sr-only">
            : {pick.part_name} for {pick.name}
          </span>
        </button>
      )}
    </li>
  );
}

/** What of the club's shelf this design could take, line by line, and what it lacks while kit is away. */
export function FromShelf() {
  const { data } = usePicks();
  const lines = [...new Set(data?.picks.map((pick) => pick.line))];
  return (
    <Part
      title="From the shelf"
      note={
        <Link to="/shelf" className="text-act hover:underline">
          The club’s shelf
        </Link>
      }
    >
      {data && data.missing.length > 0 && (
        <p role="status" className="mb-2 text-fix">
          Out just now: {data.missing.join(", ")}. What is left: {data.headline_without}
        </p>
      )}
      {!data && <p className="text-ink2">Looking what would do …</p>}
      {data && lines.length === 0 && (
        <p className="text-ink2">Nothing there that this design has a use for. Put on it what lies about.</p>
      )}
      {lines.map((line) => {
        const picks = data?.picks.filter((pick) => pick.line === line) ?? [];
        return (
          <section key={line} aria-label={picks[0]?.name} className="mb-2">
            <h3 className="text-[12px] text-ink2">{picks[0]?.name}</h3>
            <ul>
              {picks.map((pick) => (
                <Row key={pick.part} pick={pick} />
              ))}
            </ul>
          </section>
        );
      })}
    </Part>
  );
}
