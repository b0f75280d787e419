// The parts that a bore's axis passes through, of the design at its head; and a bore as it begins where a face was pressed.
import { useQuery } from "@tanstack/react-query";
import { api, got, said } from "../api/client";
import type { Bore, Entry } from "../lib/document";
import { useDesign } from "./design";
import { workedOut } from "./operations";
import { useView } from "./view";

export type OnAxis = { part: string; how: "square" | "angle" | "edge" };
/** Where a bore runs: as its record has it. */
export type BoreLine = Pick<Bore, "axis" | "at"> & {
  of?: string;
  lean?: Entry | null;
  toward?: Entry | null;
  parts?: string[];
  member?: string;
};

/** What lies on an axis, in order along it, and how it is met; empty while a place is not worked out. */
export function usePartsAlong({ axis, at, of = "", lean, toward, parts = [], member }: BoreLine): OnAxis[] {
  const id = useDesign((s) => s.id);
  const revision = useDesign((s) => s.revision);
  const body = { axis, at: at as Record<string, Entry>, of, lean: lean ?? null, toward: toward ?? null, parts };
  const found = useQuery({
    queryKey: ["along", id, axis, body, revision],
    queryFn: () => got(api.POST("/api/designs/{design_id}/bores/along", { params: { path: { design_id: id } }, body })),
    enabled: Boolean(id) && revision > 0 && !member,
    retry: false,
    placeholderData: (before, query) => (query?.queryKey[2] === axis ? before : undefined),
  });
  return found.isError ? [] : (found.data?.parts ?? []);
}

/** Begins the draft of a bore square to a face at a point of it (mm), as the core works it out; where it cannot be, that is said. */
export async function beginBore(
  part: string,
  face: string,
  at: [number, number, number],
  caught: number,
  step: number,
  screw = false,
) {
  try {
    const { patch } = await workedOut({ operation: "place_bore", part, face, at, catch: caught, step, screw });
    useView
      .getState()
      .setDraft({ kind: "bore", begun: patch[0].value as Bore, pressed: useDesign.getState().doc?.parts[part] ? part : "" });
  } catch (error) {
    useDesign.setState({ fault: said(error) });
  }
}
