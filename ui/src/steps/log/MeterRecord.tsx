import { useQuery } from "@tanstack/react-query";
import { answer, client } from "../../api/client";
import { useDesk } from "../../kit/context";
import { Part } from "../../kit/layout";
import { BroughtFiles } from "./BroughtFiles";
import { PlanAgainst } from "./PlanAgainst";
import { RecordImport } from "./RecordImport";

/** What meters recorded, and the plan against it. */
export function MeterRecord() {
  const { view } = useDesk();
  const { data } = useQuery({
    queryKey: ["record", view.site_id, view.id, view.revision],
    placeholderData: (before) => before,
    queryFn: () =>
      answer(client.GET("/api/designs/{design_id}/record", { params: { path: { design_id: view.id } } })),
  });
  return (
    <Part title="Plan against measured" note="from a monitor’s or controller’s log file, at any interval">
      {data && <PlanAgainst record={data} />}
      <RecordImport />
      <BroughtFiles />
    </Part>
  );
}
