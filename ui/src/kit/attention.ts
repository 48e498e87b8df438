import { create } from "zustand";
import type { Quantity } from "../api/client";

export type MarginTab = "findings" | "working" | "cautions";
type Attention = {
  tab: MarginTab;
  open: boolean;
  /** Opened by somebody: it then stays, also where it has nothing to say. */
  asked: boolean;
  /** The figures asked about, the one shown last: walking into an input adds, going back removes. */
  trail: string[];
  /** Figures that are not in the report: of a rehearsal that was played, by key. */
  asides: Record<string, Quantity>;
  show: (tab: MarginTab) => void;
  ask: (key: string) => void;
  into: (key: string) => void;
  back: () => void;
  close: () => void;
  bring: (figures: Record<string, Quantity>) => void;
  /** What was pressed to ask: Escape in the working goes back to it. */
  from: HTMLElement | undefined;
};

const wide = () => typeof window !== "undefined" && window.innerWidth >= 1000;

/** What the margin shows. */
export const useAttention = create<Attention>()((set) => ({
  tab: "findings",
  open: wide(),
  asked: false,
  trail: [],
  asides: {},
  from: undefined,
  show: (tab) => set({ tab, open: true, asked: true }),
  ask: (key) =>
    set({
      tab: "working",
      open: true,
      trail: [key],
      from: document.activeElement as HTMLElement | undefined,
    }),
  into: (key) => set((now) => ({ trail: [...now.trail, key] })),
  back: () => set((now) => ({ trail: now.trail.slice(0, -1) })),
  close: () => set({ open: false, asked: false }),
  bring: (figures) => set((now) => ({ asides: { ...now.asides, ...figures } })),
}));
