import { Link } from "react-router";
import { Cautions } from "../../kit/Cautions";
import { Part } from "../../kit/layout";
import { Sections } from "../../kit/Sections";
import { Entry } from "./Entry";
import { MeterRecord } from "./MeterRecord";
import { Readings } from "./Readings";
import { Standing } from "./Standing";
import { Tested } from "./Tested";
import { Tests } from "./Tests";
import { Upkeep } from "./Upkeep";
import { useLog } from "./useLog";

/** What the station really does: readings, tests and records of the site, against this design. */
export default function LogSheet() {
  const { data, error } = useLog();
  const told = data
    ? data.total === 0
      ? "No readings yet. Until someone measures, the plan rests on guesses. Start with the battery volts at rest."
      : `${data.total} ${data.total === 1 ? "reading" : "readings"}. ${data.contradicted} of those shown do not match this design.`
    : "";
  return (
    <Sections
      label="Log"
      sections={[
        {
          id: "readings",
          name: "Readings",
          page: (
            <>
              <p className="mb-3 text-[14px]">{told}</p>
              {error && <p className="text-stop">The log could not be loaded. Try again in a moment.</p>}
              <Part title="New reading" note="saved with the site and compared with the open design">
                <Cautions step="log" at="entry" />
                <Entry />
                <p className="mt-1">
                  <Link className="text-act hover:underline" to="../check" relative="path">
                    Is that right? Check a reading, or find what is wrong
                  </Link>
                </p>
              </Part>
              {data && <Standing log={data} />}
              {data && data.readings.length > 0 && <Readings readings={data.readings} />}
            </>
          ),
        },
        {
          id: "tests",
          name: "Tests",
          page: (
            <>
              {data && <Tested log={data} />}
              <Tests />
            </>
          ),
        },
        { id: "record", name: "Plan against measured", page: <MeterRecord /> },
        { id: "upkeep", name: "Upkeep", page: <Upkeep /> },
      ]}
    />
  );
}
