import { MONTHS } from "../../kit/MonthStrip";
import type { StepLine } from "../../kit/stepLine";

export const line: StepLine = ({ view, amount }) => {
  const plane = view.report.sun.planes[0];
  const month = view.report.verdict.hard_month;
  return plane ? `${amount(plane.hours[month - 1])} in ${MONTHS[month - 1]}` : "no sun data here";
};
