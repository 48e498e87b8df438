import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { answer, client, type Problem } from "../api/client";
import { designKey } from "../api/queries";

type Props = { designId: string; problem: Problem; revision: number };

/** A design that is kept but cannot be shown: what is wrong, and the ways out that lose nothing. */
export function InTrouble({ designId, problem, revision }: Props) {
  const cache = useQueryClient();
  const [refusal, setRefusal] = useState<string>();
  const undo = async () => {
    const params = { path: { design_id: designId }, header: { "If-Match": String(revision) } };
    try {
      await answer(client.POST("/api/designs/{design_id}/undo", { params }));
    } catch (error) {
      setRefusal((error as Error).message);
    }
    await cache.invalidateQueries({ queryKey: designKey(designId) });
  };
  return (
    <main className="grid min-h-full place-content-center gap-3 bg-sheet p-8">
      <h1 className="text-[19px]">{problem.title}.</h1>
      <p role="alert" className="max-w-[40rem] text-ink2">
        {problem.detail}
      </p>
      <p className="max-w-[40rem] text-ink2">The design is safe: revision {revision} is stored.</p>
      {refusal && (
        <p role="alert" className="text-stop">
          {refusal}
        </p>
      )}
      <p className="flex flex-wrap gap-3">
        <button type="button" className="btn btn-sm btn-primary" onClick={() => void undo()}>
          Undo the last edit
        </button>
        <a className="btn btn-sm" href={`/api/designs/${designId}/file`} download>
          Download the design file
        </a>
        <Link to="/" className="btn btn-ghost btn-sm">
          Back to Sites
        </Link>
      </p>
    </main>
  );
}
