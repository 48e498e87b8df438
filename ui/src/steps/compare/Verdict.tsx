import { useMutation, useQueryClient } from "@tanstack/react-query";
import { Link } from "react-router";
import { answer, client, type DesignView } from "../../api/client";
import { Mark, worstOf } from "../../kit/Mark";
import { MonthStrip } from "../../kit/MonthStrip";

const STAGES = { now: "now", next: "next", later: "when money allows" } as const;

/** What a design comes to, and that it is what stands there. */
export function Verdict({ view, name }: { view: DesignView; name: string }) {
  const cache = useQueryClient();
  const { verdict, findings, working } = view.report;
  const worst = worstOf(findings);
  const { stage } = view.document.build;
  const adopt = useMutation({
    mutationFn: () =>
      answer(
        client.POST("/api/designs/{design_id}/as-built", {
          params: { path: { design_id: view.id } },
          body: { as_built: true },
        }),
      ),
    onSuccess: () => cache.invalidateQueries(),
  });
  return (
    <article className="min-w-0">
      <h2 className="text-[16px]">
        <Link to={`/designs/${view.id}/brief`} className="hover:underline">
          {name}
        </Link>
      </h2>
      <p className="text-[12px] text-ink2">
        {view.as_built ? (
          "as built"
        ) : (
          <button
            type="button"
            className="min-h-6 text-act hover:underline"
            aria-label={`Mark as built: ${name}`}
            onClick={() => adopt.mutate()}
          >
            Mark as built
          </button>
        )}
        {stage && ` · to be built ${STAGES[stage]}`}
      </p>
      <p className="my-1 text-[15px]">
        <b className="font-[700]">{verdict.headline}</b> {verdict.rest}
      </p>
      <MonthStrip verdict={verdict} figures={working} />
      {worst && (
        <p className="mt-2 flex items-center gap-2 text-[12px] text-ink2">
          <Mark of={worst} />{" "}
          {findings.find((finding) => finding.severity === worst && !finding.muted)?.sentence}
        </p>
      )}
    </article>
  );
}
