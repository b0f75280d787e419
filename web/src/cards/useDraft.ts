// A patch that is tried while it is drafted: previewed on every change, taken back when the card goes.
import { useEffect } from "react";
import type { Patch } from "../api/types";
import { useDesign } from "../state/design";

export function useTried(patch: Patch | null): void {
  const text = JSON.stringify(patch);
  useEffect(() => {
    useDesign.getState().preview(JSON.parse(text) as Patch | null);
  }, [text]);
  useEffect(() => () => useDesign.getState().preview(null), []);
}

/** The fault of a drafted record: what the server refused, else the first problem under its pointer or owner. */
export function useDraftFault(prefix: string, owner = ""): { entry: string; message: string } | null {
  const trying = useDesign((s) => s.trying);
  const refused = useDesign((s) => s.tryFault);
  if (refused) return refused;
  const found = trying?.built.problems.find((p) => p.entry.startsWith(prefix) || (owner && p.owner === owner));
  return found ? { entry: found.entry, message: found.message } : null;
}
