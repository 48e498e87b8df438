import { useQuery } from "@tanstack/react-query";
import { answer, client } from "../../api/client";
import type { components } from "../../api/schema";
import { useDesk } from "../../kit/context";

export type Reading = components["schemas"]["ReadingView"];

/** The site's readings and tests, against the design that is open. */
export function useLog() {
  const { view } = useDesk();
  const params = { path: { design_id: view.id } };
  return useQuery({
    queryKey: ["log", view.site_id, view.id, view.revision],
    placeholderData: (before) => before,
    queryFn: () => answer(client.GET("/api/designs/{design_id}/log", { params })),
  });
}
