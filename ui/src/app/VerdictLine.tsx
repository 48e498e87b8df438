import type { Verdict } from "../api/client";
import { useDesk, useFigure } from "../kit/context";
import { Figure } from "../kit/Figure";
import { MonthStrip } from "../kit/MonthStrip";

type Shown = Verdict["figures"][number];

/** One figure of the verdict: its name, the number, and the range that guesses leave open. */
function VerdictFigure({ of }: { of: Shown }) {
  const figure = useFigure();
  return (
    <div className="min-w-0">
      <dt className="text-[12px] text-ink2">{of.label}</dt>
      <dd className="flex flex-wrap items-baseline gap-x-1.5">
        <span className="text-[19px] font-[640]">
          <Figure of={figure(of.key)} label={of.label} />
        </span>
        {of.low && of.high && (
          <span className="text-[12px] text-ink2">
            <Figure of={figure(of.low)} unit={false} /> to <Figure of={figure(of.high)} />
          </span>
        )}
        {of.beside && <span className="text-[12px] text-ink2">{of.beside}</span>}
      </dd>
    </div>
  );
}

/** The verdict: a headline, one short line, its figures, and the twelve months. */
export function VerdictLine() {
  const { view } = useDesk();
  const { verdict, working } = view.report;
  return (
    <section aria-label="Verdict" className="mb-4">
      <h1 className="text-[19px] leading-[1.35] font-[560] [font-stretch:92%]" aria-live="polite">
        <b className="font-[700]">{verdict.headline}</b> {verdict.rest}
      </h1>
      {verdict.figures.length > 0 && (
        <dl className="my-2 flex flex-wrap gap-x-8 gap-y-2" aria-label="Figures of the verdict">
          {verdict.figures.map((figure) => (
            <VerdictFigure key={figure.key} of={figure} />
          ))}
        </dl>
      )}
      <p className="mt-0.5 mb-2 text-[12px] text-ink2">{verdict.judged_on}</p>
      <MonthStrip verdict={verdict} figures={working} />
    </section>
  );
}
