import type { StepLine } from "../../kit/stepLine";

export const line: StepLine = ({ view, amount }) =>
  view.document.draw.loads.length ? `${amount(view.report.draw.daily_ah)} a day` : "no loads yet";
