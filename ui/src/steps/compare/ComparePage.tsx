import { useQueries } from "@tanstack/react-query";
import { useEffect } from "react";
import { Link, useParams, useSearchParams } from "react-router";
import type { DesignView, SiteLine } from "../../api/client";
import { designKey, readDesign, useDesign, useSite, useSites } from "../../api/queries";
import { NotThere } from "../../app/NotThere";
import { Overlays } from "../../app/Overlays";
import { TopBar } from "../../app/TopBar";
import { useCommonKeys } from "../../app/useKeys";
import { Figures } from "./Figures";
import { isOneSite, namesOf } from "./names";
import { Stages } from "./Stages";
import { Verdict } from "./Verdict";
import { WhatDiffers } from "./WhatDiffers";

const MOST = 4;
const WIDTHS = ["", "", "md:grid-cols-2", "md:grid-cols-3", "md:grid-cols-2 xl:grid-cols-4"];

/** The designs, as far as they are read. */
function useDesigns(ids: readonly string[]): DesignView[] | undefined {
  const found = useQueries({
    queries: ids.map((id) => ({ queryKey: designKey(id), queryFn: () => readDesign(id) })),
  });
  const views = found.map((one) => one.data);
  return views.every((view) => view !== undefined) ? views : undefined;
}

const namedOf = (sites: readonly SiteLine[]) => sites.map(({ design_id, name }) => ({ id: design_id, name }));

function SideBySide({ ids }: { ids: readonly string[] }) {
  const views = useDesigns(ids);
  if (!views) return <p className="text-ink2">Loading the designs…</p>;
  return (
    <>
      <div className={`mb-6 grid gap-6 ${WIDTHS[views.length]}`}>
        {views.map((view, index) => (
          <Verdict key={view.id} view={view} name={namesOf(views)[index] ?? ""} />
        ))}
      </div>
      <h2 className="mb-1 text-[15px]">Figures</h2>
      <Figures views={views} />
      {isOneSite(views) && (
        <>
          <h2 className="mt-6 mb-1 text-[15px]">What each design adds</h2>
          <Stages views={views} />
        </>
      )}
      <h2 className="mt-6 mb-1 text-[15px]">Differences</h2>
      <WhatDiffers views={views} />
    </>
  );
}

/** Designs of a site, or of several, side by side: what they come to, what each adds and frees, and every field that is not the same. */
export function ComparePage() {
  const { designId = "" } = useParams();
  const [params, setParams] = useSearchParams();
  const { data: view, error } = useDesign(designId);
  const { data: site } = useSite(view?.site_id);
  const { data: sites } = useSites();
  useCommonKeys();
  useEffect(() => {
    document.title = `Compare, ${view?.site_name ?? ""} – Yonderstat`;
  }, [view?.site_name]);
  if (error) return <NotThere what="There is no such design." />;
  const all = site?.designs.map((design) => design.id) ?? [];
  const elsewhere = sites?.filter((other) => other.id !== view?.site_id) ?? [];
  const known = [...all, ...elsewhere.map((other) => other.design_id)];
  const asked = params.get("with")?.split(",") ?? all.filter((id) => id !== designId).slice(0, 1);
  const others = asked.filter((id) => id !== designId && known.includes(id)).slice(0, MOST - 1);
  const flip = (id: string) => {
    const next = others.includes(id) ? others.filter((other) => other !== id) : [...others, id];
    if (next.length > 0 || site?.designs.length === 1) setParams({ with: next.join(",") }, { replace: true });
  };
  return (
    <div className="flex min-h-full flex-col bg-sheet">
      <TopBar>
        <Link to={`/designs/${designId}/brief`} className="font-[640] hover:underline">
          {view?.site_name}
        </Link>
      </TopBar>
      <main className="mx-auto w-full max-w-[1100px] px-4 py-5 sm:px-6">
        <div className="mb-4 flex flex-wrap items-center gap-3 border-b border-hair pb-3">
          <h1 className="flex-1 text-[22px]">Compare designs</h1>
          {site && (site.designs.length > 2 || others.some((id) => !all.includes(id))) && (
            <fieldset className="flex flex-wrap items-center gap-x-4">
              <legend className="sr-only">With</legend>
              {[...site.designs, ...namedOf(elsewhere.filter((other) => others.includes(other.design_id)))]
                .filter((design) => design.id !== designId)
                .map((design) => (
                  <label key={design.id} className="flex min-h-6 items-center gap-1.5">
                    <input
                      type="checkbox"
                      checked={others.includes(design.id)}
                      disabled={!others.includes(design.id) && others.length >= MOST - 1}
                      onChange={() => flip(design.id)}
                    />
                    {design.name}
                  </label>
                ))}
            </fieldset>
          )}
          {elsewhere.length > 0 && others.length < MOST - 1 && (
            <select
              aria-label="Compare with another site"
              className="field w-52"
              value=""
              onChange={(event) => flip(event.target.value)}
            >
              <option value="">with another site…</option>
              {elsewhere
                .filter((other) => !others.includes(other.design_id))
                .map((other) => (
                  <option key={other.id} value={other.design_id}>
                    {other.name}
                  </option>
                ))}
            </select>
          )}
        </div>
        {site && site.designs.length < 2 && others.length === 0 && (
          <p>
            This site has one design. Press + beside its name to copy it, change the copy, and compare the two
            here.
          </p>
        )}
        {others.length > 0 && <SideBySide ids={[designId, ...others]} />}
      </main>
      <Overlays commands={[]} />
    </div>
  );
}
