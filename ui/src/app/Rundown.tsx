import { useEffect, useRef } from "react";
import { NavLink, useParams } from "react-router";
import { useCatalogue } from "../api/queries";
import { useDesk, useFigure } from "../kit/context";
import { useShown } from "../kit/fields";
import { Mark, worstOf } from "../kit/Mark";
import type { LineOf } from "../kit/stepLine";
import { openOf } from "../kit/told";
import { CHECK, LIVE, OVERVIEW, STEPS } from "./steps";

/** What the steps' lines are made from. */
function useLineOf(): LineOf {
  const { view } = useDesk();
  const figure = useFigure();
  const show = useShown();
  const { data: catalogue } = useCatalogue();
  const amount = (key: string | null | undefined) => {
    const quantity = figure(key);
    return show(quantity?.value, quantity?.unit ?? "");
  };
  return { view, catalogue, amount };
}

function lineClass({ isActive }: { isActive: boolean }): string {
  return `flex gap-2 border-transparent px-3 py-2 md:border-l-3 max-md:min-w-[4.2rem] max-md:flex-1 max-md:flex-col max-md:items-center max-md:gap-0 max-md:border-t-3 max-md:px-1 ${
    isActive ? "border-act! bg-actsoft font-[640] text-act" : ""
  }`;
}

type PageProps = { page: { id: string; name: string }; mark?: string; hint: string };

/** A page of the frame that is no step of the job. */
function PageLine({ page, mark, hint }: PageProps) {
  return (
    <NavLink to={`../${page.id}`} relative="path" className={lineClass}>
      <span aria-hidden="true" className="w-5 text-[12px] font-normal text-ink2 max-md:hidden">
        {mark}
      </span>
      <span className="min-w-0 flex-1">
        {page.name}
        <span className="block text-[12px] font-normal text-ink2 max-md:hidden">{hint}</span>
      </span>
    </NavLink>
  );
}

/** The steps in the order people work, with their key, what they come to, and their worst finding. */
export function Rundown() {
  const { view } = useDesk();
  const of = useLineOf();
  const { step: now } = useParams();
  const bar = useRef<HTMLElement>(null);
  // On a phone the bar may be longer than the screen is wide: the step one is at is in view.
  useEffect(() => {
    bar.current
      ?.querySelector("[aria-current=page]")
      ?.scrollIntoView?.({ block: "nearest", inline: "center" });
  }, [now]);
  return (
    <nav
      ref={bar}
      aria-label="Steps"
      className="no-print border-hair bg-ground md:w-[176px] md:shrink-0 md:overflow-y-auto md:border-r md:pt-2 max-md:fixed max-md:inset-x-0 max-md:bottom-0 max-md:z-20 max-md:flex max-md:overflow-x-auto max-md:border-t"
    >
      <PageLine page={OVERVIEW} mark="0" hint="jobs and readings" />
      {STEPS.map((step) => {
        const mine = view.report.findings.filter((finding) => finding.step === step.id);
        const worst = worstOf(mine);
        const open = openOf(mine);
        return (
          <NavLink key={step.id} to={`../${step.id}`} relative="path" className={lineClass}>
            <span aria-hidden="true" className="w-5 text-[12px] font-normal text-ink2 max-md:hidden">
              {step.key}
            </span>
            <span className="min-w-0 flex-1">
              {step.name}
              <span className="block text-[12px] font-normal text-ink2 max-md:hidden">{step.line(of)}</span>
            </span>
            {worst && (
              <span className="flex items-center gap-1 self-start pt-0.5 text-[11px] font-normal text-ink2 max-md:self-center max-md:pt-0">
                <span title={open === 1 ? "1 finding" : `${open} findings`}>{open}</span>
                <Mark of={worst} />
              </span>
            )}
          </NavLink>
        );
      })}
      <PageLine page={LIVE} hint="live readings" />
      <PageLine page={CHECK} mark="r" hint="a meter in hand, or something is wrong" />
    </nav>
  );
}
