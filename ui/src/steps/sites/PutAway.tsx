import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client } from "../../api/client";
import { sitesKey } from "../../api/queries";

type Site = { id: string; name: string };
const putAwayKey = ["put-away"] as const;

function useRefresh() {
  const cache = useQueryClient();
  return () =>
    Promise.all([
      cache.invalidateQueries({ queryKey: sitesKey }),
      cache.invalidateQueries({ queryKey: putAwayKey }),
    ]);
}

/** Putting a site away, asked first. */
export function usePutAway() {
  const [asking, setAsking] = useState<Site>();
  const refresh = useRefresh();
  return {
    asking,
    setAsking,
    putAway: async (site: Site) => {
      await answer(client.DELETE("/api/sites/{site_id}", { params: { path: { site_id: site.id } } }));
      setAsking(undefined);
      await refresh();
    },
  };
}

export function AskPutAway(props: { site: Site; onYes: () => void; onNo: () => void }) {
  return (
    <div
      role="alert"
      className="sticky top-0 z-10 flex flex-wrap items-center gap-3 border-b border-hair bg-ground p-3"
    >
      <p className="flex-1">
        Archive <b>{props.site.name}</b>? Nothing is deleted: you find it under “Archived” below.
      </p>
      <button
        type="button"
        className="btn btn-primary btn-sm"
        // biome-ignore lint/a11y/noAutofocus: the question was just asked for
        autoFocus
        onClick={props.onYes}
      >
        Archive
      </button>
      <button type="button" className="btn btn-sm" onClick={props.onNo}>
        Cancel
      </button>
    </div>
  );
}

/** What was put away, to be brought back whenever. */
export function PutAwayList() {
  const refresh = useRefresh();
  const { data } = useQuery({ queryKey: putAwayKey, queryFn: () => answer(client.GET("/api/put-away")) });
  if (!data || data.length === 0) return null;
  const bringBack = async (id: string) => {
    await answer(client.POST("/api/sites/{site_id}/restore", { params: { path: { site_id: id } } }));
    await refresh();
  };
  return (
    <details className="mt-4">
      <summary className="cursor-pointer text-act">Archived ({data.length})</summary>
      <ul className="mt-1">
        {data.map((site) => (
          <li key={site.id} className="flex items-center gap-3 border-b border-hair2 py-1">
            <span className="flex-1">
              {site.name}{" "}
              <span className="text-[12px] text-ink2">since {new Date(site.since).toLocaleDateString()}</span>
            </span>
            <button
              type="button"
              className="text-act underline"
              aria-label={`Restore ${site.name}`}
              onClick={() => void bringBack(site.id)}
            >
              Restore
            </button>
          </li>
        ))}
      </ul>
    </details>
  );
}
