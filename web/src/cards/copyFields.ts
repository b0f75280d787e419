// The entries of each kind of copy, and what they begin with when one is drafted.
import { AXIS_WORDS, type Axis, type CopyKind, type Doc, type Entry } from "../lib/document";
import { readOwner } from "../lib/owner";
import { fresh } from "../state/design";
import { words } from "../state/shape";

export const COPY_WORDS: Record<CopyKind, string> = {
  mirror: "Mirror, handed",
  row: "Repeat in a row",
  grid: "Repeat in a grid",
  ring: "Repeat round a ring",
};

export type CopyEntry = { field: string; label: string; kind?: string; first: string; optional?: boolean; placeholder?: string };

export const AXES: { value: Axis; label: string }[] = (["x", "y", "z"] as Axis[]).map((value) => ({
  value,
  label: AXIS_WORDS[value],
}));

export const AXIS_LABEL: Record<CopyKind, string> = { mirror: "Across", row: "Along", grid: "Along", ring: "Round a line" };

/** The plain entries of a kind; a ring's line and a mirror's plane come besides. */
export function fieldsOf(kind: CopyKind, filling: boolean): CopyEntry[] {
  if (kind === "row")
    return filling
      ? [
          { field: "length", label: "Fill a length of", first: "500 mm" },
          { field: "largest", label: "Spacing at most", first: "150 mm" },
        ]
      : [
          { field: "number", label: "How many in all", kind: "count", first: "3" },
          { field: "spacing", label: "Spacing", first: "100 mm" },
        ];
  if (kind === "grid")
    return [
      { field: "number", label: "How many in all", kind: "count", first: "3" },
      { field: "spacing", label: "Spacing", first: "100 mm" },
      { field: "number_2", label: "Rows", kind: "count", first: "2" },
      { field: "spacing_2", label: "From row to row", first: "100 mm" },
    ];
  if (kind === "ring")
    return [
      { field: "number", label: "How many in all", kind: "count", first: "6" },
      { field: "angle", label: "Over an angle of", kind: "angle", first: "360 deg" },
    ];
  return [];
}

/** What a copy is of, in words. */
export function ofWords(doc: Doc, of: string[]): string {
  const names = of.map((reference) => {
    const { kind, key } = readOwner(reference);
    const records: Record<string, Record<string, { name: string }>> = { part: doc.parts, group: doc.groups, copy: doc.copies };
    return words(records[kind]?.[key]?.name ?? key);
  });
  return names.length > 3 ? `${names.slice(0, 2).join(", ")} and ${names.length - 2} more` : names.join(", ");
}

export function entryOf(text: string): Entry {
  return fresh(text);
}

/** The record that a draft's answers make. */
export function copyRecord(
  kind: CopyKind,
  base: { name: string; of: string[]; axis: Axis; axis2: Axis; order: number; filling: boolean; upright: boolean },
  entry: (field: string) => Entry,
): Record<string, unknown> {
  const record: Record<string, unknown> = { kind, name: base.name, of: base.of, axis: base.axis, order: base.order };
  for (const f of fieldsOf(kind, base.filling)) record[f.field] = entry(f.field);
  if (kind === "grid") record.axis_2 = base.axis2;
  if (kind === "ring") {
    record.at = Object.fromEntries((["x", "y", "z"] as Axis[]).filter((a) => a !== base.axis).map((a) => [a, entry(`at.${a}`)]));
    record.upright = base.upright;
  }
  return record;
}
