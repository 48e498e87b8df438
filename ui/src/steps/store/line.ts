import type { StepLine } from "../../kit/stepLine";

export const line: StepLine = ({ view, amount }) => {
  const { store } = view.report;
  return store ? `${amount(store.label_ah)} label, ${amount(store.usable_ah)} usable` : "no battery yet";
};
