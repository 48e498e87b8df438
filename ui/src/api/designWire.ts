import type { QueryClient } from "@tanstack/react-query";
import { answer, client, type DesignView } from "./client";
import { DocumentEditor, type Wire } from "./editor";
import { designKey, readDesign } from "./queries";

/** An answer that brought only the figures that moved, with those we hold; figures that stayed are the same objects. */
export function whole(view: DesignView, held: DesignView): DesignView {
  if (view.working_since === null || view.working_since === undefined) return view;
  const working = { ...held.report.working, ...view.report.working };
  for (const key of view.working_gone ?? []) delete working[key];
  return { ...view, report: { ...view.report, working }, working_since: null, working_gone: [] };
}

/** A design's way to the server: an edit is answered with the figures that moved, before any remedy is tried. */
export function designWire(id: string): Wire<DesignView> {
  const params = (held: DesignView) => ({
    path: { design_id: id },
    header: { "If-Match": String(held.revision) },
    query: { working: "changed", remedies: "later" },
  });
  return {
    key: designKey(id),
    read: () => readDesign(id),
    patch: async (body, held) =>
      whole(await answer(client.PATCH("/api/designs/{design_id}", { params: params(held), body })), held),
    step: async (way, held) =>
      whole(await answer(client.POST(`/api/designs/{design_id}/${way}`, { params: params(held) })), held),
  };
}

/** Sends a design's edits. */
export class DesignEditor extends DocumentEditor<DesignView> {
  constructor(id: string, cache: QueryClient) {
    super(id, cache, designWire(id));
  }
}
