import type { StepLine } from "../../kit/stepLine";

export const line: StepLine = ({ view, amount }) => {
  const first = view.document.array.strings[0];
  return first ? `${amount(view.report.array.watts)} · ${first.controller.toUpperCase()}` : "no panels yet";
};
