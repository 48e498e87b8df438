import { useState } from "react";
import { useParams } from "react-router";
import type { Verdict } from "../api/client";
import { useAttention } from "../kit/attention";
import { useDesk, useFigure } from "../kit/context";
import { Figure } from "../kit/Figure";
import { Mark, worstOf } from "../kit/Mark";
import { MonthStrip } from "../kit/MonthStrip";
import { NextActions } from "./NextActions";

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

/** Where the margin is not beside the sheet: how many findings wait in it, and the way to them. */
function FindingsButton() {
  const { view } = useDesk();
  const show = useAttention((attention) => attention.show);
  const open = view.report.findings.filter((finding) => finding.severity !== "good" && !finding.muted);
  const worst = worstOf(open);
  return (
    <button
      type="button"
      className="no-print my-1 flex items-center gap-1.5 rounded border border-hair px-2 py-1 lg:hidden"
      onClick={() => show("findings")}
    >
      {worst && <Mark of={worst} />} {open.length === 1 ? "1 finding" : `${open.length} findings`}
    </button>
  );
}

/** The verdict: a headline, one short line, its figures, and the twelve months. */
export function VerdictLine() {
  const { view } = useDesk();
  const { verdict, working } = view.report;
  const { step } = useParams();
  const [open, setOpen] = useState(false);
  // On a phone it folds to headline and months; in the Brief it is what one came for.
  const folded = step === "brief" || open ? "" : "max-sm:hidden";
  return (
    <section aria-label="Verdict" className="mb-4">
      <h1 className="text-[19px] leading-[1.35] font-[560] [font-stretch:92%]" aria-live="polite">
        <b className="font-[700]">{verdict.headline}</b> <span className={folded}>{verdict.rest}</span>
      </h1>
      {folded !== "" && (
        <button type="button" className="no-print text-act underline sm:hidden" onClick={() => setOpen(true)}>
          More of the verdict
        </button>
      )}
      {verdict.figures.length > 0 && (
        <dl className={`${folded} my-2 flex flex-wrap gap-x-8 gap-y-2`} aria-label="Figures of the verdict">
          {verdict.figures.map((figure) => (
            <VerdictFigure key={figure.key} of={figure} />
          ))}
        </dl>
      )}
      <p className={`${folded} mt-0.5 mb-2 text-[12px] text-ink2`}>{verdict.judged_on}</p>
      <MonthStrip verdict={verdict} figures={working} />
      <div className={folded}>
        <NextActions />
      </div>
      <FindingsButton />
    </section>
  );
}
