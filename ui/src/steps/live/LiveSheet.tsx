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
  if (error && !live) return <p className="text-stop">What the site says cannot be had just now.</p>;
  if (!live) return <p className="text-ink2">Asking…</p>;
  const reports = live.endpoints.length > 0;
  return (
    <>
      {live.reader.is_down && reports && (
        <p role="alert" className="mb-3 text-fix">
          The reader is down: nothing new comes in, and no alarm is raised. What is below is what was heard
          last. <code>./start</code> starts it; its log says why it stopped.
        </p>
      )}
      {!reports && (
        <p className="mb-3 text-[14px]">
          Nothing reports itself here yet. Name a controller or a battery monitor below that can be asked over
          the network: it is only ever read.
        </p>
      )}
      {live.now && (
        <NowFigures now={live.now} reader={live.reader} zone={zone} speed={live.settings.speed ?? 1} />
      )}
      {reports && !view.as_built && (
        <p className="mb-3 text-ink2">
          Alarms and the next ten days are held to the design as built, not to {view.document.name}.
        </p>
      )}
      {reports && !live.now && <p className="mb-3 text-ink2">Nothing heard yet.</p>}
      {reports && <Alarms alarms={live.alarms} zone={zone} />}
      {live.forecast && live.forecast_at && (
        <NextDays forecast={live.forecast} at={live.forecast_at} zone={zone} />
      )}
      {live.now && <Past zone={zone} />}
      <Part title="Devices" note="asked, and never told anything">
        <Devices endpoints={live.endpoints} />
      </Part>
      {reports && <Telling settings={live.settings} />}
    </>
  );
}
