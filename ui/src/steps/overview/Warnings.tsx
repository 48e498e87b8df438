import { Link } from "react-router";
import { useDesk } from "../../kit/context";
import { useShown } from "../../kit/fields";
import { Part } from "../../kit/layout";
import { AlarmRow } from "../live/Alarms";
import { useNow } from "../live/LiveLine";
import { ago, type Now as LiveNow, useLiveEvents, useLiveSite } from "../live/useLive";
import { isDueSoon, Task, useUpkeep } from "../log/Upkeep";

const MOST_DUE = 3;

/** What the site said last. */
function Now({ now }: { now: LiveNow }) {
  const show = useShown();
  const clock = useNow();
  return (
    <p className="mb-1">
      <b className="font-[640]">{show(now.charge_share, "share")}</b> charged, {show(now.volts, "V")},{" "}
      {show(now.charge_a, "A")} in, {show(now.load_a, "A")} out
      <span className="text-ink2">, {ago(now.heard_at, clock)}</span>
    </p>
  );
}

/** What the site says by itself now, and what it warns of. */
function Alarms() {
  const { view } = useDesk();
  useLiveEvents();
  const { data } = useLiveSite(view.site_id, view.id);
  if (!data) return null;
  const open = data.alarms.filter((alarm) => !alarm.cleared_at);
  const listens = data.endpoints.length > 0;
  return (
    <Part title="Alarms" note={listens && open.length === 0 ? "no open alarms" : undefined}>
      {data.now && <Now now={data.now} />}
      <ul aria-label="Open alarms">
        {open.map((alarm) => (
          <AlarmRow key={alarm.id} alarm={alarm} zone={view.document.place?.time_zone} />
        ))}
      </ul>
      {!listens && <p className="text-ink2">No device at this site sends readings yet.</p>}
      <Link className="text-act hover:underline" to="../live" relative="path">
        {listens ? "Live readings and the next ten days" : "Add a device"}
      </Link>
    </Part>
  );
}

/** What upkeep is due within a month. */
function Due() {
  const { data } = useUpkeep();
  if (!data) return null;
  const soon = data.due.filter(isDueSoon);
  return (
    <Part title="Maintenance due" note={soon.length === 0 ? "nothing within a month" : undefined}>
      <ul>
        {soon.slice(0, MOST_DUE).map((item) => (
          <Task key={item.task} item={item} />
        ))}
      </ul>
      <Link className="text-act hover:underline" to="../log?page=upkeep" relative="path">
        {soon.length > MOST_DUE ? `All ${soon.length} that are due` : "All maintenance"}
      </Link>
    </Part>
  );
}

/** What asks for somebody to come: alarms and upkeep. */
export function Warnings() {
  return (
    <>
      <Alarms />
      <Due />
    </>
  );
}
