import { useQueryClient } from "@tanstack/react-query";
import { Plus } from "lucide-react";
import { Link, useNavigate, useParams } from "react-router";
import { answer, client } from "../api/client";
import { useSite, useSites } from "../api/queries";
import { useDesk } from "../kit/context";
import { freshKey } from "../kit/freshKey";
import { useKey } from "./useKeys";

/** The site, its designs, and a way to another of either. */
export function DesignTabs() {
  const { view } = useDesk();
  const { step } = useParams();
  const navigate = useNavigate();
  const cache = useQueryClient();
  const { data: sites } = useSites();
  const { data: site } = useSite(view.site_id);
  const designs = site?.designs ?? [];
  const here = designs.findIndex((design) => design.id === view.id);
  const go = (offset: number) => {
    const next = designs[(here + offset + designs.length) % designs.length];
    if (next) navigate(`/designs/${next.id}/${step}`);
  };
  useKey("[", () => go(-1), [designs, here, step]);
  useKey("]", () => go(1), [designs, here, step]);
  const copy = async () => {
    const made = await answer(
      client.POST("/api/sites/{site_id}/designs", {
        params: { path: { site_id: view.site_id }, header: { "Idempotency-Key": freshKey() } },
        body: { copy_of: view.id },
      }),
    );
    await cache.invalidateQueries({ queryKey: ["site", view.site_id] });
    navigate(`/designs/${made.id}/${step}`);
  };
  return (
    <div className="flex min-w-0 items-center gap-2">
      <select
        aria-label="Site"
        className="max-w-[13rem] truncate rounded bg-transparent py-1 pr-1 text-[14px] font-[640] max-sm:max-w-[9rem]"
        value={view.site_id}
        onChange={(event) => {
          const chosen = sites?.find((item) => item.id === event.target.value);
          if (chosen) navigate(`/designs/${chosen.design_id}/${step}`);
        }}
      >
        {(sites ?? [{ id: view.site_id, name: view.site_name }]).map((item) => (
          <option key={item.id} value={item.id}>
            {item.name}
          </option>
        ))}
      </select>
      <nav aria-label="Designs" className="flex min-w-0 gap-1 overflow-x-auto">
        {designs.map((design) => (
          <Link
            key={design.id}
            to={`/designs/${design.id}/${step}`}
            aria-current={design.id === view.id ? "page" : undefined}
            title={design.as_built ? `${design.name} (as built)` : design.name}
            className={`max-w-[12rem] truncate rounded px-2.5 py-1 ${design.id === view.id ? "bg-actsoft font-[640] text-act" : "text-ink2 hover:text-ink"}`}
          >
            {design.id === view.id ? view.document.name : design.name}
          </Link>
        ))}
      </nav>
      <button
        type="button"
        aria-label="Copy this design"
        title="Copy this design"
        className="rounded p-1 text-ink2 hover:text-ink"
        onClick={() => void copy()}
      >
        <Plus size={15} />
      </button>
      {designs.length > 1 && (
        <Link to={`/designs/${view.id}/compare`} className="text-[12px] text-act underline max-sm:hidden">
          Compare
        </Link>
      )}
    </div>
  );
}
