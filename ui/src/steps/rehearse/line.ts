import type { StepLine } from "../../kit/stepLine";

export const line: StepLine = ({ view }) =>
  view.report.store ? "weather years and outages" : "needs a battery";
