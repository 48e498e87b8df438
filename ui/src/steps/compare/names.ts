import type { DesignView } from "../../api/client";

export const isOneSite = (views: readonly DesignView[]): boolean =>
  new Set(views.map((view) => view.site_id)).size <= 1;

/** What the designs are called beside each other: with their site where they are of more than one. */
export function namesOf(views: readonly DesignView[]): string[] {
  const oneSite = isOneSite(views);
  return views.map((view) =>
    oneSite ? (view.document.name ?? "") : `${view.site_name}, ${view.document.name}`,
  );
}
