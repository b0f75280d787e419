// Helpers of what is built: which instances are cut from one drawing, and which a selection lights up.
import type { BuiltOut, PartOut } from "../api/types";
import { type Doc, isPlate, legOf, originalOf, type Place, within } from "../lib/document";
import { partsOf, usesOf } from "./uses";
import { litParts, type Selection } from "./view";

/** The parts that a selection lights up on a design. */
export function litOf(selection: Selection, built: BuiltOut | undefined, doc: Doc | null | undefined): string[] {
  if (!built || !doc) return [];
  return litParts(selection, built.joints, doc.bores, built.parts, (part) => within(doc, doc.parts[part]?.group ?? ""));
}

/** The parts that are lit on screen: those that are selected, or of a selected size those that read it. */
export function lightOf(selection: Selection, built: BuiltOut | undefined, doc: Doc | null | undefined): string[] {
  const size = selection?.kind === "size" ? doc?.sizes[selection.key] : undefined;
  return size && doc ? partsOf(usesOf(doc, size.name), doc) : litOf(selection, built, doc);
}

/** One part for each different flat of each record, in order: what is drawn, cut and laid out. */
export function distinctParts(parts: PartOut[]): PartOut[] {
  const seen = new Set<string>();
  return parts.filter((p) => {
    const key = `${p.of}/${p.flat}`;
    if (!p.flat || seen.has(key)) return false;
    seen.add(key);
    return true;
  });
}

/** The instance that stands for a part where equal ones are drawn once. */
export function standFor(parts: PartOut[], key: string): string {
  const own = parts.find((p) => p.key === key);
  return parts.find((p) => own && p.of === own.of && p.flat === own.flat)?.key ?? key;
}

export function words(name: string): string {
  return name.replaceAll("_", " ");
}

/** A part in words, in its own place. */
export function pathWords(built: BuiltOut, key: string): string {
  return words(built.parts.find((p) => p.key === key)?.path ?? key);
}

/** A place that is measured from, in words. */
export function placeWords(place: Place, { doc, built }: { doc: Doc; built: BuiltOut }): string {
  const part = pathWords(built, place.part);
  if (place.what === "part") return part;
  if (place.what === "centre") return `centre of ${part}`;
  if (place.what === "face" && place.name.includes(".")) {
    const { record, side } = legOf(place.name);
    const own = doc.parts[originalOf(place.part)];
    const flange = isPlate(own) ? own.folding?.flanges[record] : undefined;
    return `${side} face of ${words(flange?.name || record)} of ${part}`;
  }
  if (place.what !== "feature") return `${place.name} ${place.what} of ${part}`;
  const record = doc.parts[originalOf(place.part)];
  const feature = isPlate(record) ? record.features?.[place.name] : undefined;
  return `${feature?.name || "hole"} in ${part}`;
}
