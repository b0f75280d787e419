// Whether the cut list, the job card and the first steps are folded away; kept in this browser.
import { create } from "zustand";
import { persist } from "zustand/middleware";

export type Side = "list" | "card";
type FoldedState = Record<Side, boolean> & { steps: boolean; toggle: (side: Side) => void; putStepsAway: () => void };

export const useFolded = create<FoldedState>()(
  persist(
    (set, get) => ({
      list: false,
      card: false,
      steps: false,
      putStepsAway: () => set({ steps: true }),
      toggle: (side) => set({ [side]: !get()[side] }),
    }),
    { name: "zygon-folded" },
  ),
);
