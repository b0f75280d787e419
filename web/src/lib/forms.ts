// What a form of the core asks for, on the part at hand: which fields are shown, in which words, chosen from what; and a record begun with it.
import type { FeatureForm, Form, FormField, Patch } from "../api/types";
import { type Entry, FACES, FRAME, type Plane, pointer } from "./document";

/** What LOW, HIGH, A, B, UWAY and VWAY stand for in a form's words. */
export type Words = { low?: string; high?: string; a?: string; b?: string; u?: string; v?: string };

/** A form's words as they are for what is at hand. */
export function put(text: string, words: Words = {}): string {
  return text
    .replace("LOW", words.low || "low")
    .replace("HIGH", words.high || "high")
    .replace("UWAY", words.u || "along it")
    .replace("VWAY", words.v || "up from the bend")
    .replace(/^A$/, words.a ?? "A")
    .replace(/^B$/, words.b ?? "B");
}

/** Whether a record says something there: of what is asked for only with a choice. */
export function isAsked(form: Form, field: FormField, record: { [field: string]: unknown }): boolean {
  return field.only.every((o) => o.values.includes(String(record[o.field] ?? defaultOf(form, o.field))));
}

/** The fields that a record of this form shows on a cutter of this kind. */
export function shownFields(form: Form, record: { [field: string]: unknown }, cutter = ""): FormField[] {
  return form.fields.filter((f) => (!f.only_cutter || f.only_cutter === cutter) && isAsked(form, f, record));
}

/** What a field is where its record does not say. */
export function defaultOf(form: Form, name: string): string {
  return form.fields.find((f) => f.name === name)?.default ?? "";
}

/** A field's label, which may hang on what another one says. */
export function labelOf(field: FormField, form: Form, record: { [field: string]: unknown }, words: Words = {}): string {
  const on = field.only[0]?.field;
  const said = on ? String(record[on] ?? defaultOf(form, on)) : "";
  return put(field.labels.find((l) => l.value === said)?.label ?? field.label, words);
}

type Choice = { value: string; label: string };

/** The lines of a part's outline that its edges are called by; none for one that is no rectangle, null for one that is. */
export function linesOf(part: { [field: string]: unknown } | undefined): Choice[] | null {
  const outline = part?.outline as { kind: string; drawing?: { curves?: Record<string, Curve> } } | undefined;
  if (!outline) return null;
  const curves = Object.entries(outline.drawing?.curves ?? {}).filter(([, c]) => !c.helping && !c.edge);
  return curves
    .sort(([, a], [, b]) => (a.order ?? 0) - (b.order ?? 0))
    .map(([key, c]) => ({ value: key, label: (c.name || key.replace(/(\d+)$/, " $1")).replaceAll("_", " ") }));
}
type Curve = { name?: string; edge?: string; helping?: boolean; order?: number };

/** What may be chosen; the edges, corners and ways of a part that lies in a plane are its own. */
export function choicesFor(field: FormField, words: Words = {}, plane?: Plane, lines: readonly Choice[] | null = null): Choice[] {
  const none = field.optional ? [{ value: "", label: field.blank }] : [];
  if (!field.among || !plane) return [...none, ...field.choices.map((c) => ({ value: c.value, label: put(c.label, words) }))];
  const { u, v } = FRAME[plane];
  switch (field.among) {
    case "edge":
      return [...FACES[u], ...FACES[v]].map((e) => ({ value: e, label: `${e} edge` }));
    case "outline": {
      const edges = lines ?? [...FACES[u], ...FACES[v]].map((e) => ({ value: e, label: `${e} edge` }));
      return [{ value: "all", label: "all of its outline" }, ...edges];
    }
    case "corner":
      return [
        { value: "all", label: "all corners" },
        ...FACES[v].flatMap((b) => FACES[u].map((a) => ({ value: `${b}-${a}`, label: `${b} ${a} corner` }))),
      ];
    case "halves":
      return [
        { value: "none", label: "stands once" },
        { value: "u", label: `mirrored, ${FACES[u].join(" and ")}` },
        { value: "v", label: `mirrored, ${FACES[v].join(" and ")}` },
      ];
    default:
      return [
        { value: "u", label: FACES[u].join(" to ") },
        { value: "v", label: FACES[v].join(" to ") },
      ];
  }
}

/** Both ways across a part, and the ends of the edge that something lies along. */
export function wordsOn(plane: Plane, edge?: unknown): Words {
  const { u, v } = FRAME[plane];
  return { ...endsOfEdge(plane, edge), u: FACES[u].join(" to "), v: FACES[v].join(" to ") };
}

/** The ends of the edge that something lies along. */
export function endsOfEdge(plane: Plane, edge: unknown): Words {
  const { u, v } = FRAME[plane];
  const [low, high] = FACES[FACES[u].includes(String(edge)) ? v : u];
  return { low, high };
}

/** Along which of u and v a feature has a place of its own. */
export function placedAlong(form: FeatureForm, plane: Plane, feature: { [field: string]: unknown }): ("u" | "v")[] {
  switch (form.placed) {
    case "none":
      return [];
    case "along_edge":
      return FACES[FRAME[plane].u].includes(String(feature.edge)) ? ["v"] : ["u"];
    case "across_way":
      return feature.length ? ["u", "v"] : feature.along === "v" ? ["u"] : ["v"];
    default:
      return ["u", "v"];
  }
}

/** Plain data of a record with its entries as they are typed in the open design. */
export function withEntries(data: unknown, entry: (text: string) => Entry): unknown {
  if (Array.isArray(data)) return data.map((d) => withEntries(d, entry));
  if (typeof data !== "object" || data === null) return data;
  const fields = Object.entries(data);
  if (fields.length === 1 && fields[0][0] === "text") return entry(String(fields[0][1]));
  return Object.fromEntries(fields.map(([k, v]) => [k, withEntries(v, entry)]));
}

/** What goes into the same edit as a choice: flags as they then are, entries only where nothing of the maker's stands in them. */
export function broughtBy(
  field: FormField,
  choice: string,
  path: string[],
  record: { [field: string]: unknown },
  entry: (text: string) => Entry,
): Patch {
  return field.brings
    .filter((b) => b.choice === choice)
    .filter((b) =>
      typeof b.value === "boolean"
        ? Boolean(record[b.field]) !== b.value
        : ((record[b.field] as Entry | undefined)?.text ?? b.default) === b.default,
    )
    .map((b) => ({
      op: "add",
      path: pointer(...path, b.field),
      value: typeof b.value === "boolean" ? b.value : entry(b.value),
    }));
}

/** The fields that a new record begins with, on a board or on a flange. */
export function begun(form: Form, entry: (text: string) => Entry, plane?: Plane, small = false): { [field: string]: unknown } {
  const fields = form.fields
    .filter((f) => !f.optional && (f.begin || f.among))
    .map((f) => {
      if (f.type === "entry") return [f.name, entry(small ? f.small : f.begin)];
      if (f.type === "flag") return [f.name, f.begin === "true"];
      if (f.type === "number") return [f.name, Number(f.begin)];
      return [f.name, f.begin || choicesFor(f, {}, plane)[0]?.value];
    });
  return Object.fromEntries(fields);
}
