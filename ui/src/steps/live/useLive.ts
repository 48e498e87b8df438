import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { answer, client } from "../../api/client";
import type { components } from "../../api/schema";

export type LiveView = components["schemas"]["LiveView"];
export type LiveStrip = components["schemas"]["LiveStrip"];
export type Alarm = components["schemas"]["AlarmView"];
export type Now = components["schemas"]["Now"];
export type Reader = components["schemas"]["ReaderView"];

const LOOK_EVERY_MS = 20_000;
/** Looked at now and then as well: a page that slept, or a reader that died, sends no event. */
const TOGETHER_MS = 250;

/** Ask again for what changed, as soon as the server says so. */
export function useLiveEvents(): void {
  const cache = useQueryClient();
  useEffect(() => {
    if (typeof EventSource === "undefined") return;
    const events = new EventSource("/api/live/events");
    // With many sites there is always some word: they are asked for together, at most so often.
    const changed = new Set<string>();
    let timer: ReturnType<typeof setTimeout> | undefined;
    const askAgain = () => {
      timer = undefined;
      const sites = new Set(changed);
      changed.clear();
      void cache.invalidateQueries({
        predicate: ({ queryKey }) =>
          queryKey[0] === "live-all" || (queryKey[0] === "live" && sites.has(String(queryKey[1]))),
      });
    };
    events.onmessage = (event) => {
      for (const site of String(event.data).split(" ")) changed.add(site);
      timer ??= setTimeout(askAgain, TOGETHER_MS);
    };
    return () => {
      clearTimeout(timer);
      events.close();
    };
  }, [cache]);
}

/** Every site that reports itself. */
export function useLiveSites() {
  return useQuery({
    queryKey: ["live-all"],
    refetchInterval: LOOK_EVERY_MS,
    queryFn: () => answer(client.GET("/api/live")),
  });
}

/** A site's live page. */
export function useLiveSite(siteId: string, designId: string) {
  return useQuery({
    queryKey: ["live", siteId, "page"],
    refetchInterval: LOOK_EVERY_MS,
    placeholderData: (before) => before,
    queryFn: () =>
      answer(client.GET("/api/designs/{design_id}/live", { params: { path: { design_id: designId } } })),
  });
}

/** A moment by a clock of a zone: “12 Jun, 14:05”. */
export function clockTime(at: string, zone: string | null | undefined): string {
  return new Intl.DateTimeFormat("en-GB", {
    timeZone: zone ?? undefined,
    day: "numeric",
    month: "short",
    hour: "2-digit",
    minute: "2-digit",
  }).format(new Date(at));
}

/** How long ago: “3 s ago”, “12 min ago”, “5 h ago”, “9 days ago”. */
export function ago(at: string, now: number): string {
  const seconds = Math.max(0, Math.round((now - Date.parse(at)) / 1000));
  if (seconds < 90) return `${seconds} s ago`;
  if (seconds < 5400) return `${Math.round(seconds / 60)} min ago`;
  if (seconds < 172_800) return `${Math.round(seconds / 3600)} h ago`;
  return `${Math.round(seconds / 86_400)} days ago`;
}
