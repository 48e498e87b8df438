import type { components } from "../../api/schema";
import { useShown } from "../../kit/fields";
import { Mark } from "../../kit/Mark";

type Log = components["schemas"]["LogView"];

/** What the log as a whole says, and how long what is left lasts. */
export function Standing({ log }: { log: Log }) {
  const show = useShown();
  const span = (low: number | null, high: number | null) =>
    low === null || high === null
      ? "no end"
      : low === high
        ? show(low, "h")
        : `${show(low, "h")} to ${show(high, "h")}`;
  return (
    <>
      {log.notices.length > 0 && (
        <ul aria-label="What to notice" className="mb-3">
          {log.notices.map((notice) => (
            <li key={notice.words} className="flex items-center gap-2 py-0.5">
              <Mark of={notice.severity} /> {notice.words}
            </li>
          ))}
        </ul>
      )}
      {log.left && (
        <section aria-label="Time left" className="mb-4">
          <p>{log.left.words}</p>
          <dl className="flex flex-wrap gap-x-6">
            {log.left.tempos.map((row) => (
              <div key={row.tempo}>
                <dt className="text-[12px] text-ink2">{row.tempo}, with nothing coming in</dt>
                <dd className="font-[640]">{span(row.low_h, row.high_h)}</dd>
              </div>
            ))}
          </dl>
        </section>
      )}
    </>
  );
}
