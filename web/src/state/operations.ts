// Operations that the core works out: an edit's words and its patch.
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { api, got, said } from "../api/client";
import type { paths } from "../api/schema";
import type { Patch } from "../api/types";
import type { Axis, Entry } from "../lib/document";
import { useDesign } from "./design";

export type Operation = NonNullable<
  paths["/api/designs/{design_id}/operations"]["post"]["requestBody"]
>["content"]["application/json"];

/** The words and the patch of an operation on the open design, which is left as it is. */
export async function workedOut(body: Operation): Promise<{ label: string; patch: Patch }> {
  const found = await got(
    api.POST("/api/designs/{design_id}/operations", { params: { path: { design_id: useDesign.getState().id } }, body }),
  );
  return { label: found.label, patch: found.patch as Patch };
}

/** Asks the core for an operation's patch and makes it one edit; the fault as a sentence, '' where all went well. */
export async function operate(body: Operation): Promise<string> {
  try {
    const found = await workedOut(body);
    await useDesign.getState().commit(found.label, found.patch);
    return "";
  } catch (error) {
    return said(error);
  }
}

/** An operation as the core works it out while it is drafted: its words and patch, or why it cannot be. */
export function useWorkedOut(body: Operation | null): { label: string; patch: Patch | null; fault: string; fresh: boolean } {
  const id = useDesign((s) => s.id);
  const revision = useDesign((s) => s.revision);
  const found = useQuery({
    queryKey: ["worked out", id, revision, body],
    queryFn: () => workedOut(body!),
    enabled: body !== null,
    placeholderData: keepPreviousData,
    retry: false,
  });
  const made = body && !found.error ? found.data : undefined;
  // while the next answer is on its way the last one is still shown, but it is not what is asked for
  const fresh = Boolean(made) && !found.isPlaceholderData;
  return { label: made?.label ?? "", patch: made?.patch ?? null, fault: body && found.error ? said(found.error) : "", fresh };
}

/** A mirror as the core works it out: its plane where none is typed, and the handed parts' names. */
export function useMirrored(of: string[], axis: Axis, plane: string, unit?: Entry["unit"]) {
  const id = useDesign((s) => s.id);
  const revision = useDesign((s) => s.revision);
  const found = useQuery({
    queryKey: ["mirror", id, revision, of, axis, plane, unit],
    queryFn: () => workedOut({ operation: "mirror", of, axis, text: plane || undefined, unit }),
    enabled: of.length > 0,
    placeholderData: keepPreviousData,
    retry: false,
  });
  return { mirror: found.data ?? null, refused: found.error ? said(found.error) : "" };
}
