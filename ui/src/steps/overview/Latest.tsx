import { Link } from "react-router";
import { useDesk } from "../../kit/context";
import { Part } from "../../kit/layout";
import { useInUnits, useUnits } from "../../kit/settings";
import { Entry } from "../log/Entry";
import { ReadingRow } from "../log/Readings";
import { useLog } from "../log/useLog";
import { useKeptCard } from "./useKeptCard";

/** A reading is typed here, and the last one stands under it. */
export function Latest() {
  const { view } = useDesk();
  const { data } = useLog();
  const units = useUnits();
  const inUnits = useInUnits();
  const paper = units.length === "feet" ? "letter" : "a4";
  const card = `/api/designs/${view.id}/card?paper=${paper}&${inUnits}`;
  useKeptCard(view, card);
  const last = data?.readings[0];
  return (
    <Part title="Readings" note={data && (last ? "the last one below" : "none yet")}>
      <Entry />
      {last && (
        <ul>
          <ReadingRow reading={last} />
        </ul>
      )}
      <p className="mt-1 flex flex-wrap gap-x-4">
        <Link className="text-act hover:underline" to="../check" relative="path">
          Check a reading, or find what is wrong
        </Link>
        {data && data.total > 1 && (
          <Link className="text-act hover:underline" to="../log" relative="path">
            All {data.total} readings
          </Link>
        )}
        {/* Opened as a page, not taken as a download: so it comes from what is kept where the server is away. */}
        <a className="text-act hover:underline" href={card}>
          Wall card (PDF)
        </a>
      </p>
    </Part>
  );
}
