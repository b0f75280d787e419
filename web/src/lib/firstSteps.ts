// The steps of a design that has only just begun, and which of them are done.
import { type Doc, isPlaced } from "./document";

export type FirstStep = { words: string; done: boolean; act?: "board" | "joint" | "size"; press?: string };

/** With more parts than that nobody needs to be told any more. */
const YOUNG = 3;

/** What comes next, in order; null for a design that is empty, or well begun. */
export function firstSteps(doc: Doc): FirstStep[] | null {
  const parts = Object.values(doc.parts).filter(isPlaced);
  const placed = parts.length;
  const joints = Object.keys(doc.joints).length;
  // who has named a size, bent a plate, bought or cut something is on the way already
  const begun =
    Object.keys(doc.sizes).length > 0 || parts.some((p) => p.kind !== "board" || Object.keys(p.features ?? {}).length > 0);
  if (!placed || placed > YOUNG || begun) return null;
  const steps: FirstStep[] = [
    { words: "A first board is there: press a face for what can be done on it, pull it by its points.", done: true },
    {
      words: "Place a second one before a face of the first; what touches is joined at once.",
      done: placed > 1,
      act: "board",
      press: "Place a board",
    },
    { words: "Join two boards that touch.", done: joints > 0, act: "joint", press: "Join two parts" },
    {
      words: "Name the measures that matter in Sizes, and all that reads them follows.",
      done: false,
      act: "size",
      press: "To the sizes",
    },
  ];
  return steps;
}
