import type { components } from "../../api/schema";
import { useAside, useDesk } from "../../kit/context";
import { BigFigure } from "../../kit/layout";
import { editsOf } from "../../kit/remedy";
import { hourWords } from "./happenings";
import { Timeline } from "./Timeline";

type Report = components["schemas"]["SceneReport"];
type Scene = components["schemas"]["Scene"];
type Props = { name: string; report: Report; prefix: string; onPlay?: (scene: Scene) => void };

/** What happened, in the order of the hours; what falls into one hour stands in one line. */
function Events({ events }: { events: Report["events"] }) {
  const hours = [...new Set(events.map((event) => event.hour))];
  return (
    <ol className="mt-1">
      {hours.map((hour) => (
        <li key={hour} className="flex gap-x-3">
          <span className="w-24 shrink-0 text-ink2">{hourWords(hour)}</span>
          <span>
            {events
              .filter((event) => event.hour === hour)
              .map((event) => event.sentence)
              .join("; ")}
          </span>
        </li>
      ))}
    </ol>
  );
}

function Savers({ name, report, onPlay }: Pick<Props, "name" | "report" | "onPlay">) {
  const { editor } = useDesk();
  if (report.mitigations.length === 0) return null;
  return (
    <section aria-label={`What would have saved it: ${name}`} className="mt-3">
      <h4 className="text-[13px] font-[640]">What would have kept it on the air in the same weather</h4>
      <ul>
        {report.mitigations.map((change) => (
          <li
            key={change.label}
            className="flex flex-wrap items-baseline justify-between gap-x-4 border-t border-hair2 py-1"
          >
            <span>
              {change.label}: <b className="font-[640]">{change.effect}</b>
            </span>
            {change.scene && onPlay && (
              <button
                type="button"
                className="text-act hover:underline"
                aria-label={`Run with this: ${change.label}`}
                onClick={() => change.scene && onPlay(change.scene)}
              >
                Run with this
              </button>
            )}
            {change.patch.length > 0 && (
              <button
                type="button"
                className="text-act hover:underline"
                aria-label={`Change the design: ${change.label}`}
                onClick={() => editor.edit(...editsOf(change.patch))}
              >
                Change the design
              </button>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}

/** A rehearsal that was played: how it went, hour by hour, in words, and what would have saved it. */
export function Outcome({ name, report, prefix, onPlay }: Props) {
  const figure = useAside(report.working, prefix);
  return (
    <article className="mb-6" aria-label={`Rehearsal: ${name}`}>
      <h3 className="text-[14px]">
        <b className="font-[640]">{report.sentence}</b> <span className="text-ink2">{name}</span>
      </h3>
      <div className="my-2 grid grid-cols-2 gap-3 sm:grid-cols-3 lg:grid-cols-6">
        <BigFigure of={figure(report.dark_hours)} label="hours without power, vital loads" />
        <BigFigure of={figure(report.left_share)} label="usable charge left" />
        <BigFigure of={figure(report.drawn_ah)} label="used by the loads" />
        <BigFigure of={figure(report.brought_ah)} label="from sun and chargers" />
        <BigFigure of={figure(report.lowest_v)} label="fewest volts at the battery" />
        {report.lowest_set_v && (
          <BigFigure of={figure(report.lowest_set_v)} label="fewest volts at a transmitting radio" />
        )}
      </div>
      <Timeline report={report} name={name} />
      <Events events={report.events} />
      <Savers name={name} report={report} onPlay={onPlay} />
    </article>
  );
}
