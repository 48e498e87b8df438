import type { StepLine } from "../../kit/stepLine";

export const line: StepLine = ({ view, amount }) => {
  const { bus } = view.report;
  return bus.lowest_v
    ? `${amount(bus.lowest_v)} at the lowest radio, transmitting`
    : `${bus.runs.length} ${bus.runs.length === 1 ? "run" : "runs"}`;
};
