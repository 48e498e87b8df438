import { type ComponentType, createElement, lazy } from "react";
import type { Finding } from "../api/client";

export type StepId = Finding["step"];
type StepEntry = { id: StepId; key: string; name: string; screen: ComponentType };

const screen = (load: () => Promise<{ default: ComponentType }>): ComponentType => {
  const Screen = lazy(load);
  return () => createElement(Screen);
};

/** The steps of the job that exist so far, in the order people work; each keeps the key of its place among all nine. */
export const STEPS: StepEntry[] = [
  { id: "brief", key: "1", name: "Brief", screen: screen(() => import("../steps/brief/BriefSheet")) },
  { id: "draw", key: "2", name: "Draw", screen: screen(() => import("../steps/draw/DrawSheet")) },
  { id: "store", key: "3", name: "Store", screen: screen(() => import("../steps/store/StoreSheet")) },
  { id: "sun", key: "4", name: "Sun", screen: screen(() => import("../steps/sun/SunSheet")) },
  { id: "array", key: "5", name: "Array", screen: screen(() => import("../steps/array/ArraySheet")) },
  {
    id: "rehearse",
    key: "7",
    name: "Rehearse",
    screen: screen(() => import("../steps/rehearse/RehearseSheet")),
  },
];
