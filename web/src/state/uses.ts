// What reads a size: each record whose entries name it, with what is selected to see it.

import { type Doc, isFramed, isPlate, ordered } from "../lib/document";
import type { Selection } from "./view";

export type Use = { words: string; selection: NonNullable<Selection> };

/** The records that name a size in an entry of their own, in the document's order. */
export function usesOf(doc: Doc, name: string): Use[] {
  const word = new RegExp(`(^|[^\\p{L}\\p{N}_.])${name}([^\\p{L}\\p{N}_.(]|$)`, "u");
  const reads = (record: unknown, without: string[] = []): boolean => {
    if (!record || typeof record !== "object") return false;
    const own = record as Record<string, unknown>;
    if (typeof own.text === "string" && "unit" in own) return word.test(own.text);
    return Object.entries(own).some(([k, v]) => !without.includes(k) && reads(v, without));
  };
  const found: Use[] = [];
  const add = (record: unknown, words: string, selection: Use["selection"], without?: string[]) => {
    if (reads(record, without)) found.push({ words: words.replaceAll("_", " "), selection });
  };
  for (const [key, size] of ordered(doc.sizes)) if (size.name !== name) add(size, size.name, { kind: "size", key });
  for (const [key, part] of ordered(doc.parts)) {
    add(part, part.name, { kind: "part", key }, ["features", "flanges"]);
    if (!isPlate(part)) continue;
    for (const [k, f] of Object.entries(part.features ?? {}))
      add(f, `${part.name}, ${f.name || k}`, { kind: "feature", part: key, key: k });
    for (const [k, f] of Object.entries(part.folding?.flanges ?? {}))
      add(f, `${part.name}, ${f.name || k}`, { kind: "flange", part: key, key: k });
  }
  const named = (key: string) => doc.parts[key.split("@")[0]]?.name ?? key;
  for (const [key, j] of ordered(doc.joints)) add(j, `${named(j.a)}–${named(j.b)}`, { kind: "joint", key });
  for (const [key, b] of ordered(doc.bores)) add(b, b.name, { kind: "bore", key });
  for (const [key, g] of ordered(doc.groups)) add(g, g.name, { kind: "group", key });
  for (const [key, f] of ordered(doc.frames)) add(f, f.name, { kind: "frame", key });
  for (const [key, c] of ordered(doc.copies)) add(c, c.name, { kind: "copy", key });
  for (const [key, c] of ordered(doc.clearances)) add(c, c.name, { kind: "clearance", key });
  return found;
}

/** The names of the first few uses, and how many there are besides. */
export function usesSaid(uses: Use[], most = 3): string {
  if (!uses.length) return "nothing reads it yet";
  const first = uses.slice(0, most).map((u) => u.words);
  const more = uses.length - first.length;
  return `read by ${first.join(", ")}${more ? ` and ${more} more` : ""}`;
}

/** The originals that read it, or something of which does. */
export function partsOf(uses: Use[], doc: Doc): string[] {
  return [
    ...new Set(
      uses.flatMap(({ selection: s }) => {
        if (s.kind === "part") return [s.key];
        if (s.kind === "feature" || s.kind === "flange") return [s.part];
        if (s.kind === "frame")
          return Object.keys(doc.parts).filter((k) => {
            const part = doc.parts[k];
            return isFramed(part) && part.frame === s.key;
          });
        if (s.kind === "bore") return Object.keys(doc.bores[s.key]?.parts ?? {});
        return [];
      }),
    ),
  ];
}
