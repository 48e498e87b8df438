import { type ComponentType, createElement, lazy } from "react";
import type { Finding } from "../api/client";
import register from "../api/steps.json";
import type { StepLine } from "../kit/stepLine";

export type StepId = Finding["step"];
type Screen = { default: ComponentType };
type StepEntry = { id: StepId; key: string; name: string; screen: ComponentType; line: StepLine };

const screens = import.meta.glob<Screen>("../steps/*/*Sheet.tsx");
const lines = import.meta.glob<StepLine>("../steps/*/line.ts", { eager: true, import: "line" });

function screen(id: string, name: string): ComponentType {
  const load = screens[`../steps/${id}/${name}Sheet.tsx`];
  if (!load) throw new Error(`step ${id} has no screen`);
  const Screen = lazy(load);
  return () => createElement(Screen);
}

function line(id: string): StepLine {
  const found = lines[`../steps/${id}/line.ts`];
  if (!found) throw new Error(`step ${id} has no line for the rundown`);
  return found;
}

/**
 * The steps of the job that exist so far, from the register of the core: each keeps the key of its place among all
 * nine, its screen and its line of the rundown are in its own folder.
 */
export const STEPS: StepEntry[] = register.map((step) => ({
  ...step,
  id: step.id as StepId,
  screen: screen(step.id, `${step.id.charAt(0).toUpperCase()}${step.id.slice(1)}`),
  line: line(step.id),
}));

/** What a site says by itself: a page of the design's frame that is no step of the job. */
export const LIVE = { id: "live", name: "Live", screen: screen("live", "Live") } as const;

/** A meter in hand: a page of the frame as well. */
export const CHECK = { id: "check", name: "Check a reading", screen: screen("check", "Check") } as const;

/** Where a site opens: what is to be done there, and the ways on. */
export const OVERVIEW = { id: "overview", name: "Overview", screen: screen("overview", "Overview") } as const;

export const PAGES = [OVERVIEW, LIVE, CHECK] as const;
export type PageId = (typeof PAGES)[number]["id"];
