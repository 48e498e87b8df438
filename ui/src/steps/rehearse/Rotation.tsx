import { useQuery } from "@tanstack/react-query";
import { answer, client } from "../../api/client";
import { useAside, useDesk } from "../../kit/context";
import { BigFigure, Part } from "../../kit/layout";

/** Does the swapped-out bank refill before the layer left behind is spent? */
export function Rotation() {
  const { view } = useDesk();
  const { data } = useQuery({
    queryKey: ["rotation", view.id, view.revision],
    placeholderData: (before) => before,
    queryFn: () =>
      answer(client.GET("/api/designs/{design_id}/rotation", { params: { path: { design_id: view.id } } })),
  });
  const report = data?.report ?? undefined;
  const figure = useAside(report?.working, "rotation.");
  if (!data) return null;
  return (
    <Part title="Rotation" note="the main bank out to charge, the layers carrying the station">
      {report ? (
        <>
          <p className="mb-2 text-[14px]">{report.sentence}</p>
          <div className="grid grid-cols-2 gap-4 sm:grid-cols-4">
            <BigFigure of={figure(report.carries_h)} label="the layers carry everything" />
            <BigFigure of={figure(report.refills_h)} label="the bank takes to refill" />
            {report.enough_w && <BigFigure of={figure(report.enough_w)} label="of panel would close it" />}
          </div>
        </>
      ) : (
        <p className="text-ink2">
          Needs a layer behind the main bank (Store), and panels whose sun is known.
        </p>
      )}
    </Part>
  );
}
