import type { StepLine } from "../../kit/stepLine";

export const line: StepLine = ({ view }) => (view.report.store ? "weather years, an outage" : "needs a bank");
