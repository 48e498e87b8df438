import { type ComponentType, createElement, lazy } from "react";
import type { Finding } from "../api/client";

export type StepId = Finding["step"];
type StepEntry = { id: StepId; name: string; screen: ComponentType };

const screen = (load: () => Promise<{ default: ComponentType }>): ComponentType => {
  const Screen = lazy(load);
  return () => createElement(Screen);
};

/** The steps of the job that exist so far, in the order people work. Their place is their key. */
export const STEPS: StepEntry[] = [
  { id: "brief", name: "Brief", screen: screen(() => import("../steps/brief/BriefSheet")) },
  { id: "draw", name: "Draw", screen: screen(() => import("../steps/draw/DrawSheet")) },
  { id: "store", name: "Store", screen: screen(() => import("../steps/store/StoreSheet")) },
  { id: "sun", name: "Sun", screen: screen(() => import("../steps/sun/SunSheet")) },
  { id: "array", name: "Array", screen: screen(() => import("../steps/array/ArraySheet")) },
];
