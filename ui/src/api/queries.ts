import { useQuery } from "@tanstack/react-query";
import { answer, client, type SiteLine } from "./client";

export const sitesKey = ["sites"] as const;
export const designKey = (id: string) => ["design", id] as const;

const WAITING_MS = 2000;

/** Every site, page by page. */
async function allSites() {
  const sites: SiteLine[] = [];
  for (;;) {
    const params = { query: { offset: sites.length } };
    const call = await client.GET("/api/sites", { params });
    const page = await answer(Promise.resolve(call));
    sites.push(...page);
    const total = Number(call.response.headers.get("X-Total-Count") ?? sites.length);
    if (page.length === 0 || sites.length >= total) return sites;
  }
}

/** The sites. While one of them waits to be judged they are asked for again. */
export function useSites() {
  return useQuery({
    queryKey: sitesKey,
    queryFn: allSites,
    refetchInterval: ({ state }) =>
      state.data?.some((site) => !site.summary && !site.trouble) ? WAITING_MS : false,
  });
}

export function useSite(id: string | undefined) {
  return useQuery({
    queryKey: ["site", id],
    enabled: id !== undefined,
    queryFn: () => answer(client.GET("/api/sites/{site_id}", { params: { path: { site_id: id ?? "" } } })),
  });
}

export function readDesign(id: string) {
  const params = { path: { design_id: id }, query: { remedies: "later" } };
  return answer(client.GET("/api/designs/{design_id}", { params }));
}

export function useDesign(id: string) {
  return useQuery({ queryKey: designKey(id), queryFn: () => readDesign(id) });
}

export function useCatalogue() {
  return useQuery({
    queryKey: ["catalogue"],
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: () => answer(client.GET("/api/catalogue")),
  });
}
