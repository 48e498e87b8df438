import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { answer, client } from "../../api/client";
import { Cautions } from "../../kit/Cautions";
import { useDesk } from "../../kit/context";
import { Part } from "../../kit/layout";
import { Entry } from "./Entry";
import { MeterRecord } from "./MeterRecord";
import { Readings } from "./Readings";
import { Standing } from "./Standing";
import { Tested } from "./Tested";
import { Tests } from "./Tests";
import { Upkeep } from "./Upkeep";

function useLog() {
  const { view } = useDesk();
  const params = { path: { design_id: view.id } };
  return useQuery({
    queryKey: ["log", view.site_id, view.id, view.revision],
    placeholderData: (before) => before,
    queryFn: () => answer(client.GET("/api/designs/{design_id}/log", { params })),
  });
}

/** What the station really does: readings, tests and records of the site, against this design. */
export default function LogSheet() {
  const { data, error } = useLog();
  const told = data
    ? data.total === 0
      ? "Nothing logged here yet. The plan is a set of guesses until somebody measures: begin with the volts at rest."
      : `${data.total} ${data.total === 1 ? "reading" : "readings"}; ${data.contradicted} of those shown speak against this design.`
    : "";
  return (
    <>
      <p className="mb-3 text-[14px]">{told}</p>
      {data && <Standing log={data} />}
      {error && <p className="text-stop">The log cannot be had just now.</p>}
      <Part title="New reading" note="kept with the site, read against the design that is open">
        <Cautions step="log" at="entry" />
        <Entry />
        <p className="mt-1">
          <Link className="text-act hover:underline" to="../check" relative="path">
            Is that right? Check a reading, or find what is wrong
          </Link>
        </p>
      </Part>
      {data && data.readings.length > 0 && <Readings readings={data.readings} />}
      {data && <Tested log={data} />}
      <Tests />
      <MeterRecord />
      <Upkeep />
    </>
  );
}
