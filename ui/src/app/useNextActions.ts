import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef } from "react";
import { answer, client, type DesignView, type NextAction } from "../api/client";
import { rest } from "./useFindings";

const RESTS_MS = 1200;

/**
 * What to do next about a verdict that is not good. It takes the server a second of its own, so it is asked for once
 * nothing was typed for a while; until it comes, what stood there before can be read and not be pressed.
 */
export function useNextActions(view: DesignView): { steps: NextAction[]; trying: boolean } {
  const { state } = view.report.verdict;
  const wanted = state === "short" || state === "edge";
  const asked = useQuery({
    queryKey: ["next-actions", view.id, view.revision],
    enabled: wanted,
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: async ({ signal }) => {
      await rest(signal, RESTS_MS);
      const params = { path: { design_id: view.id } };
      return answer(client.GET("/api/designs/{design_id}/next-actions", { params, signal }));
    },
  });
  const came = asked.data?.revision === view.revision ? asked.data.next_actions : undefined;
  const known = useRef<NextAction[]>([]);
  useEffect(() => {
    if (came) known.current = came;
  }, [came]);
  if (!wanted) return { steps: [], trying: false };
  if (came) return { steps: came, trying: false };
  // None came: then none are shown, as the old ones may not fit any more.
  return { steps: asked.isError ? [] : known.current, trying: true };
}
