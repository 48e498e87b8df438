import { useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { answer, client } from "../../api/client";
import { designKey, sitesKey, useSite } from "../../api/queries";
import { useDesk } from "../../kit/context";

/** Which design stands there; and the file to take away, and the way to remove a design that does not. */
export function AsBuiltLine() {
  const { view } = useDesk();
  const cache = useQueryClient();
  const navigate = useNavigate();
  const { data: site } = useSite(view.site_id);
  const params = { path: { design_id: view.id } };
  const refresh = async () => {
    await cache.invalidateQueries({ queryKey: ["site", view.site_id] });
    await cache.invalidateQueries({ queryKey: sitesKey });
  };
  const mark = async () => {
    const marked = await answer(
      client.POST("/api/designs/{design_id}/as-built", { params, body: { as_built: true } }),
    );
    cache.setQueryData(designKey(view.id), marked);
    await refresh();
  };
  const remove = async () => {
    if (!window.confirm(`Delete the design “${view.document.name}”? You cannot undo this.`)) return;
    await answer(client.DELETE("/api/designs/{design_id}", { params }));
    await refresh();
    const next = site?.designs.find((design) => design.id !== view.id);
    navigate(next ? `/designs/${next.id}/brief` : "/");
  };
  return (
    <div>
      <p className="label mb-1">This design</p>
      <p className="flex flex-wrap items-center gap-2">
        {view.as_built ? (
          <span>This design is the station as built.</span>
        ) : (
          <>
            <button type="button" className="btn btn-sm" onClick={() => void mark()}>
              Mark as built
            </button>
            <button type="button" className="btn btn-sm btn-ghost text-stop" onClick={() => void remove()}>
              Remove
            </button>
          </>
        )}
        <a className="btn btn-sm btn-ghost" href={`/api/designs/${view.id}/file`} download>
          Download the file
        </a>
      </p>
    </div>
  );
}
