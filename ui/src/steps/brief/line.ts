import type { StepLine } from "../../kit/stepLine";

export const line: StepLine = ({ view, catalogue, amount }) => {
  const chosen = catalogue?.purposes.find((item) => item.value === view.document.brief.purpose);
  return `${chosen?.label ?? ""} · ${amount(view.report.asked_days)} asked`;
};
