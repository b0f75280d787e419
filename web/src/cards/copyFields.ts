// What a copy is of, and the record that a draft of one makes.
import type { Form, FormField } from "../api/types";
import type { Axis, CopyKind, Doc, Entry } from "../lib/document";
import { AXES } from "../lib/document";
import { readOwner } from "../lib/owner";
import { fresh } from "../state/design";
import { words } from "../state/shape";

/** What a copy is of, in words. */
export function ofWords(doc: Doc, of: string[]): string {
  const names = of.map((reference) => {
    const { kind, key } = readOwner(reference);
    const records: Record<string, Record<string, { name: string }>> = { part: doc.parts, group: doc.groups, copy: doc.copies };
    return words(records[kind]?.[key]?.name ?? key);
  });
  return names.length > 3 ? `${names.slice(0, 2).join(", ")} and ${names.length - 2} more` : names.join(", ");
}

/** The fields of a form that are asked for: of a row either its number and spacing, or the length that it fills. */
export function fieldsOf(form: Form, filling: boolean): FormField[] {
  return form.fields.filter((f) => !f.section || (f.section === "fill") === filling);
}

/** What a field of a draft has where nothing was chosen or typed. */
export function first(field: FormField): unknown {
  return field.type === "entry" ? fresh(field.begin) : field.type === "flag" ? field.begin === "true" : field.begin;
}

/** The record that a draft's answers make; a ring's line passes the two other axes. */
export function copyRecord(
  form: Form,
  base: { name: string; of: string[]; order: number; filling: boolean },
  said: { [field: string]: unknown },
): { [field: string]: unknown } {
  const kind = form.kind as CopyKind;
  const fields = fieldsOf(form, base.filling).map((f) => [f.name, said[f.name] ?? first(f)]);
  const record: { [field: string]: unknown } = {
    kind,
    name: base.name,
    of: base.of,
    order: base.order,
    ...Object.fromEntries(fields),
  };
  if (kind === "ring") record.at = Object.fromEntries(othersOf(record.axis as Axis).map((a) => [a, lineAt(said, a)]));
  return record;
}

/** The axes that a line along one passes. */
export function othersOf(axis: Axis): Axis[] {
  return AXES.filter((a) => a !== axis);
}

/** Where a ring's line passes an axis. */
export function lineAt(said: { [field: string]: unknown }, axis: Axis): Entry {
  return (said[`at.${axis}`] as Entry | undefined) ?? fresh("0");
}

/** The axes that a field of a copy does not offer: round which line a ring goes stays, and of a grid's two ways neither is the other. */
export function waysTaken(copy: { [field: string]: unknown }): (field: string) => readonly string[] {
  return (field) => {
    if (copy.kind === "ring") return othersOf(copy.axis as Axis);
    if (copy.kind === "grid") return [String(field === "axis" ? copy.axis_2 : copy.axis)];
    return [];
  };
}
