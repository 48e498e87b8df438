import type { Catalogue, DesignView } from "../api/client";

/** What a step's line of the rundown is made from; `amount` is a figure with its unit, as the person reads it. */
export type LineOf = {
  view: DesignView;
  catalogue: Catalogue | undefined;
  amount: (key: string | null | undefined) => string;
};

/** One line on a step: what it comes to. */
export type StepLine = (of: LineOf) => string;
