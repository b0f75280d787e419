// What the core knows of joints: which two boards could have, and the figure of one of them.
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { api, got } from "../api/client";
import type { FigureOut, OfferOut } from "../api/types";
import { useDesign } from "./design";

/** A joint drawn to its real values, also while they are being tried. */
export function useJointFigure(joint: string): FigureOut | null {
  const id = useDesign((s) => s.id);
  const revision = useDesign((s) => s.revision);
  const patch = useDesign((s) => (s.trying ? s.tryPatch : null)) ?? [];
  const found = useQuery({
    queryKey: ["joint-figure", id, revision, joint, JSON.stringify(patch)],
    queryFn: () =>
      got(api.POST("/api/designs/{design_id}/joints/figure", { params: { path: { design_id: id } }, body: { joint, patch } })),
    placeholderData: keepPreviousData,
    retry: false,
    gcTime: 30_000,
  });
  return found.data ?? null;
}

/** The joints that two boards could have, also instead of the one that they have; with the fault where they cannot be asked for. */
export function useOffers(a: string | undefined, b: string | undefined, insteadOf = ""): { offers: OfferOut[]; fault: string } {
  const id = useDesign((s) => s.id);
  const revision = useDesign((s) => s.revision);
  const found = useQuery({
    queryKey: ["offers", id, revision, a, b, insteadOf],
    queryFn: () =>
      got(
        api.POST("/api/designs/{design_id}/joints/possible", {
          params: { path: { design_id: id } },
          body: { a: a ?? "", b: b ?? "", instead_of: insteadOf },
        }),
      ),
    enabled: Boolean(a && b),
    retry: false,
  });
  return { offers: found.data ?? NONE, fault: found.error instanceof Error ? found.error.message : "" };
}

/** The same, once. */
export function possibleJoints(a: string, b: string): Promise<OfferOut[]> {
  const path = { design_id: useDesign.getState().id };
  return got(api.POST("/api/designs/{design_id}/joints/possible", { params: { path }, body: { a, b } }));
}

const NONE: OfferOut[] = [];
