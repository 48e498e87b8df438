import { useMutation, useQueryClient } from "@tanstack/react-query";
import { Link } from "react-router";
import { answer, client, reasonOf } from "../../api/client";
import { Part } from "../../kit/layout";
import { Mark, type Severity } from "../../kit/Mark";
import { type Alarm, clockTime } from "./useLive";

const INITIALS = "yonderstat.initials";
/** Where the design says what such a fault does to the station. */
const SHEETS: Record<string, { to: string; name: string }> = {
  not_charging: { to: "rehearse?page=lost", name: "If something breaks" },
  regulation: { to: "rehearse?page=lost", name: "If something breaks" },
  cold_lock: { to: "store", name: "Battery" },
  temperature: { to: "store", name: "Battery" },
  low_charge: { to: "rehearse?page=last", name: "Stretch the battery" },
  volts: { to: "bus", name: "Wiring" },
  disagree: { to: "log", name: "Log" },
};

/** An alarm: when, what, where the design speaks of it, and a press for having seen it. */
export function AlarmRow({ alarm, zone }: { alarm: Alarm; zone: string | null | undefined }) {
  const cache = useQueryClient();
  const sheet = SHEETS[alarm.kind];
  const seen = useMutation({
    mutationFn: () =>
      answer(
        client.POST("/api/alarms/{alarm_id}/acknowledge", {
          params: { path: { alarm_id: alarm.id } },
          body: { who: localStorage.getItem(INITIALS) ?? "" },
        }),
      ),
    onSuccess: () => void cache.invalidateQueries({ queryKey: ["live"] }),
  });
  const open = !alarm.cleared_at;
  return (
    <li className="grid gap-x-4 border-b border-hair2 py-2 sm:grid-cols-[11rem_1fr_auto]">
      <span className="text-[12px] text-ink2">
        {clockTime(alarm.raised_at, zone)}
        {alarm.cleared_at && ` to ${clockTime(alarm.cleared_at, zone)}`}
      </span>
      <span>
        <span className="mr-1.5 inline-block align-middle">
          <Mark of={open ? (alarm.severity as Severity) : "good"} />
        </span>
        <b className="font-[640]">{alarm.title}.</b> {alarm.words}
        {open && sheet && (
          <Link to={`../${sheet.to}`} relative="path" className="ml-2 text-act hover:underline">
            {sheet.name}
          </Link>
        )}
        {seen.error && <span className="block text-stop">{reasonOf(seen.error)}</span>}
      </span>
      {alarm.acknowledged_at ? (
        <span className="text-[12px] text-ink2">
          acknowledged{alarm.acknowledged_by && ` by ${alarm.acknowledged_by}`}
        </span>
      ) : (
        open && (
          <button
            type="button"
            className="btn btn-sm btn-ghost text-act"
            aria-label={`Acknowledge: ${alarm.title}`}
            disabled={seen.isPending}
            onClick={() => seen.mutate()}
          >
            Acknowledge
          </button>
        )
      )}
    </li>
  );
}

const OVER_SHOWN = 8;

/** What the site warns of, the open first; what is over stays told for a while. */
export function Alarms({ alarms, zone }: { alarms: readonly Alarm[]; zone: string | null | undefined }) {
  const open = alarms.filter((alarm) => !alarm.cleared_at);
  const over = alarms.filter((alarm) => alarm.cleared_at).slice(0, OVER_SHOWN);
  return (
    <Part
      title="Alarms"
      note={
        open.length === 0
          ? "no open alarms"
          : open.length === 1
            ? "1 open alarm"
            : `${open.length} open alarms`
      }
    >
      <ul aria-live="polite" aria-label="Open alarms">
        {open.map((alarm) => (
          <AlarmRow key={alarm.id} alarm={alarm} zone={zone} />
        ))}
      </ul>
      {over.length > 0 && (
        <details className="mt-2">
          <summary className="cursor-pointer text-ink2">Cleared alarms: {over.length}</summary>
          <ul>
            {over.map((alarm) => (
              <AlarmRow key={alarm.id} alarm={alarm} zone={zone} />
            ))}
          </ul>
        </details>
      )}
    </Part>
  );
}
