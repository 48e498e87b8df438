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
    <Part
      title="Swapping batteries"
      note="the second battery runs the station while the main one is out charging"
    >
      {report ? (
        <>
          <p className="mb-2 text-[14px]">{report.sentence}</p>
          <div className="grid grid-cols-2 gap-4 sm:grid-cols-4">
            <BigFigure of={figure(report.carries_h)} label="the second battery runs everything" />
            <BigFigure of={figure(report.refills_h)} label="the main battery takes to recharge" />
            {report.enough_w && (
              <BigFigure of={figure(report.enough_w)} label="of panels in total would be enough" />
            )}
          </div>
        </>
      ) : (
        <p className="text-ink2">
          Needs a second battery (add it in Battery) and panels at a location with sun data.
        </p>
      )}
    </Part>
  );
}
