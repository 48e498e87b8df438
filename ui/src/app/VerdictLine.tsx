import { useDesk } from "../kit/context";
import { MonthStrip } from "../kit/MonthStrip";

/** The verdict in a sentence, and the twelve months. */
export function VerdictLine() {
  const { view } = useDesk();
  const { verdict, working } = view.report;
  return (
    <section aria-label="Verdict" className="mb-4">
      <h1 className="text-[19px] leading-[1.35] font-[560] [font-stretch:92%]" aria-live="polite">
        <b className="font-[700]">{verdict.headline}</b> {verdict.rest}
      </h1>
      <p className="mt-0.5 mb-2 text-[12px] text-ink2">{verdict.judged_on}</p>
      <MonthStrip verdict={verdict} figures={working} />
    </section>
  );
}
