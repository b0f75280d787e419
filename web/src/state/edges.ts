// The straight edges of a board on which flanges may stand, as the core names them.
import { useQuery } from "@tanstack/react-query";
import { api, got } from "../api/client";
import type { EdgeOut } from "../api/types";
import { useDesign } from "./design";

const NONE: EdgeOut[] = [];

/** Of one part; the last known while they are asked for again. */
export function useEdges(part: string): EdgeOut[] {
  const id = useDesign((s) => s.id);
  const revision = useDesign((s) => s.revision);
  const found = useQuery({
    queryKey: ["edges", id, revision, part],
    queryFn: () => got(api.POST("/api/designs/{design_id}/edges", { params: { path: { design_id: id } }, body: { part } })),
    enabled: Boolean(part),
    placeholderData: (before, query) => (query?.queryKey[3] === part ? before : undefined),
    retry: false,
  });
  return found.data ?? NONE;
}
