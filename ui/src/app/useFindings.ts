import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef } from "react";
import { answer, type Change, client, type DesignView, type Finding } from "../api/client";

const RESTS_MS = 250;

/** Waits until typing rests: what the next key makes stale is not asked for. */
export function rest(signal: AbortSignal, restsMs = RESTS_MS): Promise<void> {
  return new Promise((done, gone) => {
    const timer = setTimeout(done, restsMs);
    signal.addEventListener("abort", () => {
      clearTimeout(timer);
      gone(signal.reason);
    });
  });
}

/**
 * The findings with their remedies. An edit's answer does not wait until those are tried: until they come, each finding
 * keeps those of before, and `trying` says that they are not to be pressed.
 */
export function useFindings(view: DesignView): { findings: Finding[]; trying: boolean } {
  const later = view.report.remedies === "later";
  const asked = useQuery({
    queryKey: ["findings", view.id, view.revision],
    enabled: later,
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: async ({ signal }) => {
      await rest(signal);
      const params = { path: { design_id: view.id } };
      return answer(client.GET("/api/designs/{design_id}/findings", { params, signal }));
    },
  });
  const tried = !later
    ? view.report.findings
    : asked.data?.revision === view.revision
      ? asked.data.findings
      : undefined;
  const known = useRef<Map<string, Change[]>>(new Map());
  useEffect(() => {
    if (tried) known.current = new Map(tried.map((finding) => [finding.id, finding.remedies]));
  }, [tried]);
  if (tried) return { findings: tried, trying: false };
  // None came, or those of somebody's later edit: then none are shown, as the old ones may not fit any more.
  const trying = !asked.isError && asked.data === undefined;
  const remedies = (finding: Finding) => (trying ? (known.current.get(finding.id) ?? []) : []);
  const findings = view.report.findings.map((finding) => ({ ...finding, remedies: remedies(finding) }));
  return { findings, trying };
}
