// The fields of a record that is there, drawn from the core's form of it: each change is one edit.
import { Checkbox } from "@mantine/core";
import type { Form, FormField } from "../api/types";
import { EntryField } from "../fields/EntryField";
import { ChoiceField, TextField } from "../fields/PlainField";
import { type Axis, type Plane, pointer } from "../lib/document";
import { value } from "../lib/figures";
import { choicesFor, defaultOf, put, shownFields, type Words } from "../lib/forms";
import { useDesign } from "../state/design";

type Props = {
  form: Form;
  /** Where the record is in the document, and what its edits are said to be of. */
  path: string[];
  record: { [field: string]: unknown };
  title: string;
  words?: (field: FormField) => Words;
  plane?: Plane;
  skip?: readonly string[];
  /** Values in effect where nothing is typed, by field. */
  inEffect?: { [field: string]: number };
};

export function RecordForm({ form, path, record, title, words = () => ({}), plane, skip = [], inEffect = {} }: Props) {
  const doc = useDesign((s) => s.doc)!;
  const shown = shownFields(form, record, doc.cutters[doc.cutter]?.kind).filter((f) => !skip.includes(f.name));
  return shown.map((f) => (
    <RecordField
      key={f.name}
      field={f}
      at={[...path, f.name]}
      now={record[f.name] ?? defaultOf(form, f.name)}
      axis={f.along ? (String(record[f.along] ?? defaultOf(form, f.along)) as Axis) : undefined}
      words={words(f)}
      inEffect={inEffect[f.name]}
      title={title}
      plane={plane}
    />
  ));
}

type FieldProps = {
  field: FormField;
  at: string[];
  now: unknown;
  axis?: Axis;
  words: Words;
  inEffect?: number;
  title: string;
  plane?: Plane;
};

function RecordField({ field, at, now, axis, words, inEffect, title, plane }: FieldProps) {
  const display = useDesign((s) => s.doc)!.display;
  const commit = useDesign((s) => s.commit);
  const path = pointer(...at);
  const label = put(field.label, words);
  const save = (said: string, value: unknown) =>
    void commit(`${title}: ${label.toLowerCase()} ${said}`, [{ op: "add", path, value }]);
  if (field.type === "flag")
    return (
      <Checkbox
        size="xs"
        style={{ margin: "4px 0 8px" }}
        label={label}
        description={field.note || undefined}
        checked={now === true || now === "true"}
        onChange={(e) => save(e.currentTarget.checked ? "on" : "off", e.currentTarget.checked)}
      />
    );
  if (field.type === "text") return <TextField label={label} value={String(now)} onSave={(text) => text && save(text, text)} />;
  if (field.type === "choice") {
    const data = choicesFor(field, words, plane);
    return (
      <ChoiceField
        label={label}
        value={String(now || data[0]?.value)}
        data={data}
        onSave={(v) => save(data.find((c) => c.value === v)?.label ?? v, v)}
      />
    );
  }
  return (
    <EntryField
      path={path}
      label={label}
      kind={field.value_kind}
      axis={axis}
      optional={field.optional}
      placeholder={inEffect === undefined ? field.blank : value({ value: inEffect, kind: field.value_kind }, display)}
      edit={`${title}, ${label.toLowerCase()}`}
    />
  );
}
