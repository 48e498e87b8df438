import { useState } from "react";
import { useParams } from "react-router";
import type { Verdict } from "../api/client";
import { useAttention } from "../kit/attention";
import { useDesk, useFigure } from "../kit/context";
import { Figure } from "../kit/Figure";
import { Mark, worstOf } from "../kit/Mark";
import { MonthStrip } from "../kit/MonthStrip";
import { openOf } from "../kit/told";
import { NextActions } from "./NextActions";

type Shown = Verdict["figures"][number];

/** One figure of the verdict: its name, the number, and the range that guesses leave open. */
function VerdictFigure({ of }: { of: Shown }) {
  const figure = useFigure();
  return (
    <div className="min-w-0">
      <dt className="text-[11px] leading-4 text-ink2">{of.label}</dt>
      <dd className="flex flex-wrap items-baseline gap-x-1.5">
        <span className="text-[16px] font-[640]">
          <Figure of={figure(of.key)} label={of.label} />
        </span>
        {of.low && of.high && (
          <span className="text-[12px] text-ink2">
            <Figure of={figure(of.low)} unit={false} /> to <Figure of={figure(of.high)} />
          </span>
        )}
        {of.beside && <span className="text-[12px] text-ink2 sm:max-2xl:sr-only">{of.beside}</span>}
      </dd>
    </div>
  );
}

/** Where the margin is not beside the sheet: how many findings wait in it, and the way to them. */
function FindingsButton() {
  const { view } = useDesk();
  const show = useAttention((attention) => attention.show);
  const count = openOf(view.report.findings);
  const worst = worstOf(view.report.findings);
  return (
    <button
      type="button"
      className="no-print my-1 flex items-center gap-1.5 rounded border border-hair px-2 py-0.5 lg:hidden"
      onClick={() => show("findings")}
    >
      {worst && <Mark of={worst} />} {count === 1 ? "1 finding" : `${count} findings`}
    </button>
  );
}

/** The verdict above every step: the answer, how sure it is, the twelve months, and what to do next. Scrolled, one line. */
export function VerdictLine({ short }: { short: boolean }) {
  const { view } = useDesk();
  const { verdict, working } = view.report;
  const { step } = useParams();
  const [open, setOpen] = useState(false);
  // On a phone it folds to headline and months; in the Brief it is what one came for.
  const folded = step === "brief" || open ? "" : "max-sm:hidden";
  const more = short ? "hidden" : folded;
  const sure = `${verdict.rest} ${verdict.judged_on}`;
  return (
    <section
      aria-label="Verdict"
      className="flex flex-wrap items-start gap-x-6 border-b border-hair bg-sheet px-4 py-1.5 lg:py-1 max-lg:max-h-[45vh] max-lg:overflow-y-auto sm:px-5 lg:flex-nowrap print:block"
    >
      <div className="min-w-0 flex-1">
        <h1
          className={`text-[15px] leading-[1.3] font-[560] [font-stretch:92%] sm:text-[17px] ${short ? "truncate" : ""}`}
          aria-live="polite"
        >
          <b className="font-[700]">{verdict.headline}</b>
          <span
            className={`block text-[13px] font-normal [font-stretch:100%] lg:truncate ${more}`}
            title={sure}
          >
            {verdict.rest} <span className="text-ink2">{verdict.judged_on}</span>
          </span>
        </h1>
        <div className={`mt-1 flex flex-wrap items-end gap-x-4 gap-y-1 ${more}`}>
          {verdict.figures.length > 0 && (
            <dl className="flex flex-wrap gap-x-4" aria-label="Figures of the verdict">
              {verdict.figures.map((figure) => (
                <VerdictFigure key={figure.key} of={figure} />
              ))}
            </dl>
          )}
          <div className="max-w-[17rem] min-w-[9rem] flex-1">
            <MonthStrip verdict={verdict} figures={working} />
          </div>
        </div>
        <p className="no-print flex flex-wrap items-center gap-x-4 lg:hidden">
          <FindingsButton />
          {folded !== "" && !short && (
            <button type="button" className="text-act underline sm:hidden" onClick={() => setOpen(true)}>
              Show more
            </button>
          )}
        </p>
      </div>
      <NextActions className={more} />
    </section>
  );
}
