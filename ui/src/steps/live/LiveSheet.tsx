import { useDesk } from "../../kit/context";
import { Part } from "../../kit/layout";
import { Alarms } from "./Alarms";
import { Devices } from "./Devices";
import { NextDays } from "./NextDays";
import { NowFigures } from "./NowFigures";
import { Past } from "./Past";
import { Telling } from "./Telling";
import { useLiveEvents, useLiveSite } from "./useLive";

/** A site that reports itself: what it says now, what it warns of, and how its next days look. */
export default function LiveSheet() {
  const { view } = useDesk();
  const { data: live, error } = useLiveSite(view.site_id, view.id);
  useLiveEvents();
  const zone = view.document.place?.time_zone;
  if (error && !live) return <p className="text-stop">Live readings could not be loaded. Trying again…</p>;
  if (!live) return <p className="text-ink2">Loading…</p>;
  const reports = live.endpoints.length > 0;
  return (
    <>
      {live.reader.is_down && reports && (
        <p role="alert" className="mb-3 text-fix">
          No alarms will come while the reader program is stopped. Below are the last readings. Run{" "}
          <code>./start</code> to start it again; its log file says why it stopped.
        </p>
      )}
      {!reports && (
        <p className="mb-3 text-[14px]">
          No devices yet. Add a charge controller or battery monitor below. Yonderstat reads it over the
          network and never changes its settings.
        </p>
      )}
      {live.now && (
        <NowFigures now={live.now} reader={live.reader} zone={zone} speed={live.settings.speed ?? 1} />
      )}
      {reports && !view.as_built && (
        <p className="mb-3 text-ink2">
          Alarms and the next ten days use the as-built design, not {view.document.name}.
        </p>
      )}
      {reports && !live.now && <p className="mb-3 text-ink2">No readings yet.</p>}
      {reports && <Alarms alarms={live.alarms} zone={zone} />}
      {live.forecast && live.forecast_at && (
        <NextDays forecast={live.forecast} at={live.forecast_at} zone={zone} />
      )}
      {live.now && <Past zone={zone} />}
      <Part title="Devices" note="read only; nothing is ever sent to change them">
        <Devices endpoints={live.endpoints} />
      </Part>
      {reports && <Telling settings={live.settings} />}
    </>
  );
}
