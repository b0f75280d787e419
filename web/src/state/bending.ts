// How folded parts are bent on the chosen brake, of the design at its head.
import { useQuery } from "@tanstack/react-query";
import { api, got } from "../api/client";
import type { BendPlanOut } from "../api/types";
import { useDesign } from "./design";

/** The plan of a folded part; undefined while it is found. */
export function useBendPlan(part: string, flat: string): BendPlanOut | undefined {
  const id = useDesign((s) => s.id);
  const revision = useDesign((s) => s.revision);
  const found = useQuery({
    queryKey: ["bending", id, part, flat, revision],
    queryFn: () =>
      got(api.GET("/api/designs/{design_id}/parts/{key}/bending", { params: { path: { design_id: id, key: part } } })),
    enabled: Boolean(id) && revision > 0 && part !== "",
    retry: false,
    // an order that is still being found is asked for again until it is there
    refetchInterval: (query) => (query.state.data?.finding ? 500 : false),
    placeholderData: (before, query) => (query?.queryKey[2] === part ? before : undefined),
  });
  return found.data;
}

/** The step that makes a bend, by the bend's key; empty while no plan is known. */
export function stepNumbers(plan: BendPlanOut | undefined): Map<string, number> {
  return new Map((plan?.steps ?? []).flatMap((s) => s.keys.map((k) => [k, s.number] as const)));
}
