import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef } from "react";
import { answer, client } from "../../api/client";
import { useDesk } from "../../kit/context";
import { Part, Wide } from "../../kit/layout";
import { useUnits } from "../../kit/settings";

/** The one-line diagram, drawn by the server from the design. */
export function OneLine() {
  const { view } = useDesk();
  const { length } = useUnits();
  const place = useRef<HTMLDivElement>(null);
  const { data, error } = useQuery({
    queryKey: ["drawing", view.id, view.revision, length],
    placeholderData: (before) => before,
    queryFn: () =>
      answer(
        client.GET("/api/designs/{design_id}/drawing", {
          params: { path: { design_id: view.id }, query: { length } },
          parseAs: "text",
        }),
      ),
  });
  useEffect(() => {
    if (typeof data !== "string" || !place.current) return;
    const drawn = new DOMParser().parseFromString(data, "image/svg+xml").documentElement;
    drawn.setAttribute("class", "min-w-[740px] w-full h-auto print:min-w-0");
    place.current.replaceChildren(document.importNode(drawn, true));
  }, [data]);
  const address = `/api/designs/${view.id}/drawing?length=${length}`;
  return (
    <Part
      title="One-line diagram"
      note={
        <a className="text-act hover:underline" href={address} download>
          Download SVG
        </a>
      }
    >
      {error && <p className="text-stop">The diagram could not be loaded. Try again in a moment.</p>}
      <Wide picture label="The diagram">
        <div ref={place} />
      </Wide>
    </Part>
  );
}
