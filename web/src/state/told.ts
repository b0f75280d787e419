// What the server tells of a design: all of it, or what has changed since the head that is held here.
import { immutableJSONPatch, type JSONPatchDocument } from "immutable-json-patch";
import type { BuiltOut, ChangedOut, DesignOut, PreviewChangesOut, PreviewOut } from "../api/types";
import type { Doc } from "../lib/document";
import { known } from "./resources";

/** A document with what it gives. */
export type Shown = { doc: Doc; built: BuiltOut };
/** A head, and the tag that the server knows it by; an empty one where none is held. */
export type HeldHead = { doc: Doc | null; head: BuiltOut | null; tag: string };

/** What of an answer need not be sent. */
export function holding(held: HeldHead): { holds: string; have: string[] } {
  return { holds: held.doc && held.head ? held.tag : "", have: known() };
}

/** What an answer shows; null where it tells changes of another head than the one that is held. What has not changed is the same object still. */
export function shownBy(found: DesignOut | ChangedOut | PreviewOut | PreviewChangesOut, held: HeldHead): Shown | null {
  if (!("changes" in found)) return { doc: found.document as unknown as Doc, built: found.built };
  if (found.over !== held.tag || !held.doc || !held.head) return null;
  const whole = { document: held.doc, built: held.head };
  const now = immutableJSONPatch(whole, found.changes as unknown as JSONPatchDocument) as typeof whole;
  return { doc: now.document, built: now.built };
}
