// Where the sizes of the open design govern, as lines in the room.
import { useQuery } from "@tanstack/react-query";
import { api, got } from "../api/client";
import type { SizeLinesOut } from "../api/types";
import { useDesign } from "./design";
import { useView } from "./view";

const NONE: SizeLinesOut[] = [];

/** Every size with its lines; the last known, not `fresh`, while new ones are on their way. */
export function useSizeLines(): { lines: SizeLinesOut[]; fresh: boolean } {
  const id = useDesign((s) => s.id);
  const revision = useDesign((s) => s.revision);
  const seen = useView((s) => s.station === "sizes");
  const found = useQuery({
    queryKey: ["size lines", id, revision],
    queryFn: () => got(api.GET("/api/designs/{design_id}/size-lines", { params: { path: { design_id: id } } })),
    enabled: Boolean(id) && seen,
    placeholderData: (before, query) => (query?.queryKey[1] === id ? before : undefined),
    retry: false,
  });
  return { lines: found.data ?? NONE, fresh: !found.isPlaceholderData };
}
