// Whether the cut list and the job card are folded away; kept in this browser.
import { create } from "zustand";
import { persist } from "zustand/middleware";

export type Side = "list" | "card";
type FoldedState = Record<Side, boolean> & { toggle: (side: Side) => void };

export const useFolded = create<FoldedState>()(
  persist(
    (set, get) => ({
      list: false,
      card: false,
      toggle: (side) => set({ [side]: !get()[side] }),
    }),
    { name: "zygon-folded" },
  ),
);
