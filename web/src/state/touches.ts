// What a board touches, and how it would be joined to it.
import { useQuery } from "@tanstack/react-query";
import { api, got, said } from "../api/client";
import { useDesign } from "./design";
import { workedOut } from "./operations";

/** What a board touches and is not joined to yet, with the joints that are possible there, best first. */
export function useTouches(part: string) {
  const id = useDesign((s) => s.id);
  const revision = useDesign((s) => s.revision);
  return useQuery({
    queryKey: ["touches", id, revision, part],
    queryFn: () => got(api.POST("/api/designs/{design_id}/touches", { params: { path: { design_id: id } }, body: { part } })),
    retry: false,
  });
}

/** The edit that joins pairs of parts (one, the other, the kind of joint), as the core works it out; none while it does, and where there are none. */
export function useJoined(pairs: [string, string, string][]) {
  const id = useDesign((s) => s.id);
  const revision = useDesign((s) => s.revision);
  const found = useQuery({
    queryKey: ["joined", id, revision, pairs],
    queryFn: () => workedOut({ operation: "join_all", pairs }),
    enabled: pairs.length > 0,
    retry: false,
  });
  const made = pairs.length ? found.data : undefined;
  return { label: made?.label ?? "", patch: made?.patch ?? null, fault: pairs.length && found.error ? said(found.error) : "" };
}
