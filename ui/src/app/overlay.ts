import { create } from "zustand";

type Overlay = {
  which: "keys" | "palette" | undefined;
  show: (which: "keys" | "palette") => void;
  close: () => void;
};

/** What lies over the page, if anything: the list of keys or the palette. */
export const useOverlay = create<Overlay>()((set) => ({
  which: undefined,
  show: (which) => set({ which }),
  close: () => set({ which: undefined }),
}));
