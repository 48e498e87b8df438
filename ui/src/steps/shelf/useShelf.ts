import { type QueryClient, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useMemo } from "react";
import { answer, client, type DesignView } from "../../api/client";
import type { DesignEditor } from "../../api/designWire";
import { DocumentEditor, type Wire } from "../../api/editor";
import type { components } from "../../api/schema";
import type { Desk } from "../../kit/context";

export type ShelfView = components["schemas"]["ShelfView"];
export type ShelfPart = ShelfView["document"]["parts"][number];
export const shelfKey = ["shelf"] as const;

const read = () => answer(client.GET("/api/shelf"));

const wire: Wire<ShelfView> = {
  key: shelfKey,
  read,
  patch: (body, held) =>
    answer(client.PATCH("/api/shelf", { params: { header: { "If-Match": String(held.revision) } }, body })),
  step: (way, held) =>
    answer(client.POST(`/api/shelf/${way}`, { params: { header: { "If-Match": String(held.revision) } } })),
};

export function useShelf() {
  return useQuery({ queryKey: shelfKey, queryFn: read });
}

/** Sends the shelf's edits; leaving the page while some are on their way asks first. */
export function useShelfEditor(known: boolean): DocumentEditor<ShelfView> {
  const cache: QueryClient = useQueryClient();
  const editor = useMemo(() => new DocumentEditor<ShelfView>("shelf", cache, wire), [cache]);
  useEffect(() => {
    if (known) editor.takeUp();
  }, [editor, known]);
  useEffect(() => () => editor.dispose(), [editor]);
  return editor;
}

/**
 * The shelf on the desk, so that its fields are the kit's own: they read a document by path and edit it by path, and
 * ask nothing else of a desk. It has no report, so no figure of it has a working.
 */
export function deskOf(view: ShelfView, editor: DocumentEditor<ShelfView>): Desk {
  const bare = {
    id: "shelf",
    document: view.document,
    revision: view.revision,
    report: { working: {}, findings: [] },
  };
  return { view: bare as unknown as DesignView, editor: editor as unknown as DesignEditor };
}
