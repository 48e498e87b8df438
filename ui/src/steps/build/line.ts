import type { StepLine } from "../../kit/stepLine";

export const line: StepLine = ({ view }) => {
  const { build } = view.report;
  return `${build.lines.length} kinds of parts, ${build.done} of ${build.done + build.to_do} ticked`;
};
