import type { StepLine } from "../../kit/stepLine";

export const line: StepLine = () => "readings and tests";
