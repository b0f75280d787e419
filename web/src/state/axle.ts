// An axle as the core works it out, while it is drafted.
import { useQuery } from "@tanstack/react-query";
import { said } from "../api/client";
import { useDesign } from "./design";
import { workedOut } from "./operations";

/** The edit that puts a rod of a bar through all that stands before and behind a face at a point of it (mm). */
export function useAxle(stock: string, part: string, face: string, at: [number, number, number], caught: number, step: number) {
  const id = useDesign((s) => s.id);
  const revision = useDesign((s) => s.revision);
  const found = useQuery({
    queryKey: ["axle", id, revision, stock, part, face, at, caught, step],
    queryFn: () => workedOut({ operation: "place_axle", stock, part, face, at, catch: caught, step }),
    enabled: stock !== "",
    retry: false,
  });
  return { label: found.data?.label ?? "", patch: found.data?.patch ?? null, fault: found.error ? said(found.error) : "" };
}
