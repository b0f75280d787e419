// How the design goes together, as the core found it, and where each part is at a step.
import { useQuery } from "@tanstack/react-query";
import { api, got } from "../api/client";
import type { AssemblyOut } from "../api/types";
import { useDesign } from "./design";

export function useAssembly(wanted: boolean): AssemblyOut | null {
  const id = useDesign((s) => s.id);
  const revision = useDesign((s) => s.revision);
  const found = useQuery({
    queryKey: ["assembly", id, revision],
    queryFn: () => got(api.GET("/api/designs/{design_id}/assembly", { params: { path: { design_id: id } } })),
    enabled: wanted && Boolean(id) && revision > 0,
    retry: false,
    gcTime: 60_000,
  });
  return found.data ?? null;
}

/**
 * Where a part is at a step: its shift from its place in mm, or null while it is not there yet.
 *
 * Step 0 shows what the assembly begins with; between n - 1 and n the n-th group slides home.
 */
export function shiftAt(assembly: AssemblyOut, part: string, step: number): [number, number, number] | null {
  const moves = assembly.steps.map((s, i) => ({ ...s, i })).filter((s) => s.parts.includes(part));
  if (!moves.length) return [0, 0, 0];
  const first = firstSeen(assembly, part);
  if (step <= first) return null;
  const shift: [number, number, number] = [0, 0, 0];
  for (const move of moves) {
    const left = 1 - Math.min(1, Math.max(0, step - move.i));
    for (let k = 0; k < 3; k++) shift[k] += move.start[k] * left;
  }
  return shift;
}

/** From which step on a part is seen: when it moves, or when the group that it waits in is begun. */
function firstSeen(assembly: AssemblyOut, part: string): number {
  const own = assembly.steps.findIndex((s) => s.parts.includes(part));
  const group = assembly.steps[own];
  if (group.parts.length === 1) return own;
  // what a group begins with comes in sight with the first part that joins it
  const joins = assembly.steps.findIndex((s) => s.parts.every((p) => group.parts.includes(p)));
  return Math.min(own, joins);
}
