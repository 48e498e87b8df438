import { useEffect, useState } from "react";
import { Link } from "react-router";
import { useShown } from "../../kit/fields";
import { Mark, type Severity } from "../../kit/Mark";
import { Trend } from "./Trend";
import { ago, type LiveStrip, type Reader } from "./useLive";

const TICK_MS = 1000;

/** The wall clock, once a second. */
export function useNow(): number {
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), TICK_MS);
    return () => clearInterval(timer);
  }, []);
  return now;
}

/** A site that reports itself, in a line of the list of sites: now, trend, last heard, what it warns of. */
export function LiveLine({ strip, reader }: { strip: LiveStrip; reader: Reader }) {
  const show = useShown();
  const now = useNow();
  const said = strip.now;
  return (
    <div className="flex flex-wrap items-center gap-x-4 gap-y-1 text-[12px] md:col-span-5">
      <Link to={`/designs/${strip.design_id}/live`} className="font-[640] text-act hover:underline">
        Live
      </Link>
      {said ? (
        <>
          <span>
            <b className="text-[14px] font-[640]">{show(said.charge_share, "share")}</b> charged
          </span>
          <span>{show(said.volts, "V")}</span>
          <span>
            {show(said.charge_a, "A")} in, {show(said.load_a, "A")} out
          </span>
          <Trend shares={strip.trend} />
          <span className="text-ink2">last reading {ago(said.heard_at, now)}</span>
        </>
      ) : (
        <span className="text-ink2">No readings yet.</span>
      )}
      {reader.is_down && (
        <span className="text-fix">Live readings have stopped: the reader program is not running.</span>
      )}
      {strip.alarms.map((alarm) => (
        <span key={alarm.id} className="flex items-center gap-1.5">
          <Mark of={alarm.severity as Severity} />
          {alarm.title}
          {alarm.acknowledged_at && <span className="text-ink2">(acknowledged)</span>}
        </span>
      ))}
    </div>
  );
}
