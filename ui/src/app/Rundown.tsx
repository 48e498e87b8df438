import { NavLink } from "react-router";
import { useCatalogue } from "../api/queries";
import { useDesk, useFigure } from "../kit/context";
import { useShown } from "../kit/fields";
import { Mark, worstOf } from "../kit/Mark";
import { MONTHS } from "../kit/MonthStrip";
import { STEPS, type StepId } from "./steps";

/** One line on each step: what it comes to. */
function useSummaries(): Record<StepId, string> {
  const { view } = useDesk();
  const figure = useFigure();
  const show = useShown();
  const { data: catalogue } = useCatalogue();
  const { report, document } = view;
  const amount = (key: string | null | undefined) => {
    const quantity = figure(key);
    return show(quantity?.value, quantity?.unit ?? "");
  };
  const purpose = catalogue?.purposes.find((item) => item.value === document.brief.purpose)?.label ?? "";
  const plane = report.sun.planes[0];
  const month = report.verdict.hard_month;
  return {
    brief: `${purpose} · ${amount(report.asked_days)} asked`,
    draw: document.draw.loads.length ? `${amount(report.draw.daily_ah)} a day` : "no loads yet",
    store: report.store
      ? `${amount(report.store.label_ah)} label, ${amount(report.store.usable_ah)} usable`
      : "no bank yet",
    sun: plane ? `${amount(plane.hours[month - 1])} in ${MONTHS[month - 1]}` : "not known here",
    array: document.array.strings.length
      ? `${amount(report.array.watts)} · ${document.array.strings[0]?.controller.toUpperCase()}`
      : "no panels yet",
    rehearse: report.store ? "weather years, an outage" : "needs a bank",
  };
}

/** The steps in the order people work, with their key, what they come to, and their worst finding. */
export function Rundown() {
  const { view } = useDesk();
  const summaries = useSummaries();
  return (
    <nav
      aria-label="Steps"
      className="no-print border-hair bg-ground md:w-[176px] md:shrink-0 md:overflow-y-auto md:border-r md:pt-2 max-md:fixed max-md:inset-x-0 max-md:bottom-0 max-md:z-20 max-md:flex max-md:border-t"
    >
      {STEPS.map((step) => {
        const worst = worstOf(view.report.findings.filter((finding) => finding.step === step.id));
        return (
          <NavLink
            key={step.id}
            to={`../${step.id}`}
            relative="path"
            className={({ isActive }) =>
              `flex gap-2 border-transparent px-3 py-2 md:border-l-3 max-md:flex-1 max-md:flex-col max-md:items-center max-md:gap-0 max-md:border-t-3 max-md:px-1 ${
                isActive ? "border-act! bg-actsoft font-[640] text-act" : ""
              }`
            }
          >
            <span aria-hidden="true" className="w-5 text-[12px] font-normal text-ink2 max-md:hidden">
              {step.key}
            </span>
            <span className="min-w-0 flex-1">
              {step.name}
              <span className="block text-[12px] font-normal text-ink2 max-md:hidden">
                {summaries[step.id]}
              </span>
            </span>
            {worst && (
              <span className="pt-1 max-md:pt-0">
                <Mark of={worst} />
              </span>
            )}
          </NavLink>
        );
      })}
    </nav>
  );
}
