// The fields of a record that is there, drawn from the core's form of it: each change is one edit.
import { Checkbox, ColorInput } from "@mantine/core";
import type { Form, FormField } from "../api/types";
import { EntryField } from "../fields/EntryField";
import { ChoiceField, NumberField, TextField } from "../fields/PlainField";
import { type Axis, type Plane, pointer } from "../lib/document";
import { value } from "../lib/figures";
import { broughtBy, choicesFor, defaultOf, labelOf, type linesOf, shownFields, type Words } from "../lib/forms";
import { fresh, useDesign } from "../state/design";

type Props = {
  form: Form;
  /** Where the record is in the document, and what its edits are said to be of. */
  path: string[];
  record: { [field: string]: unknown };
  title: string;
  words?: (field: FormField) => Words;
  plane?: Plane;
  /** The lines of its outline, where it is no rectangle. */
  lines?: ReturnType<typeof linesOf>;
  skip?: readonly string[];
  /** Choices of a field that there are not here. */
  without?: (field: string) => readonly string[];
  /** The part of the card, of forms that have more than one. */
  section?: string;
  /** Values in effect where nothing is typed, by field, or as they were typed elsewhere. */
  inEffect?: { [field: string]: number | string };
};

const everything = (): readonly string[] => [];

export function RecordForm({
  form,
  path,
  record,
  title,
  words = () => ({}),
  plane,
  lines,
  skip = [],
  inEffect = {},
  section = "",
  without = everything,
}: Props) {
  const doc = useDesign((s) => s.doc)!;
  const shown = shownFields(form, record, doc.cutters[doc.cutter]?.kind).filter(
    (f) => f.section === section && !skip.includes(f.name),
  );
  return shown.map((f) => (
    <RecordField
      key={f.name}
      field={f}
      at={[...path, f.name]}
      now={record[f.name] ?? defaultOf(form, f.name)}
      axis={f.along ? (String(record[f.along] ?? defaultOf(form, f.along)) as Axis) : undefined}
      label={labelOf(f, form, record, words(f))}
      words={words(f)}
      record={record}
      without={without(f.name)}
      inEffect={inEffect[f.name]}
      title={title}
      plane={plane}
      lines={lines}
    />
  ));
}

type FieldProps = {
  field: FormField;
  at: string[];
  now: unknown;
  axis?: Axis;
  label: string;
  words: Words;
  /** What else the record says, of which a choice may bring something along. */
  record: { [field: string]: unknown };
  without: readonly string[];
  inEffect?: number | string;
  title: string;
  plane?: Plane;
  lines?: ReturnType<typeof linesOf>;
  /** In a table, whose head says the unit, and where the label is only read out. */
  bare?: string;
};

/** Texts that may be so long are written in lines. */
const LINES = 400;

export function RecordField(props: FieldProps) {
  const { field, at, now, axis, label, words, record, without, inEffect, title, plane, lines, bare } = props;
  const { display, currency } = useDesign((s) => s.doc)!;
  const commit = useDesign((s) => s.commit);
  const path = pointer(...at);
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
  if (field.type === "number")
    return (
      <NumberField
        label={bare ?? label}
        bare={Boolean(bare)}
        value={now === "" || now === undefined ? undefined : Number(now)}
        path={path}
        edit={`${title}, ${label.toLowerCase()}`}
        placeholder={field.optional ? field.blank : undefined}
        suffix={bare ? undefined : now === 0 && field.zero ? field.zero : field.suffix.replace("CURRENCY", currency)}
        min={field.least ?? 0}
        max={field.most ?? undefined}
        step={field.step}
      />
    );
  if (field.type === "text")
    return (
      <TextField
        label={bare ?? label}
        value={String(now)}
        maxLength={field.most ?? undefined}
        lines={(field.most ?? 0) >= LINES}
        onSave={(text) => (text || field.default === "") && save(text.split("\n", 1)[0].slice(0, 60) || "nothing", text)}
      />
    );
  if (field.type === "colour")
    return (
      <div className="entry">
        <label htmlFor={path}>{label}</label>
        <ColorInput
          id={path}
          aria-label={bare ?? label}
          value={String(now)}
          onChangeEnd={(v) => /^#[0-9a-f]{6}$/i.test(v) && v !== now && save(v, v)}
          withEyeDropper={false}
        />
      </div>
    );
  if (field.type === "choice") {
    const data = choicesFor(field, words, plane, lines).filter((c) => !without.includes(c.value));
    return (
      <ChoiceField
        label={bare ?? label}
        value={String(now || (field.optional ? "" : data[0]?.value))}
        data={data}
        onSave={(v) =>
          void commit(`${title}: ${label.toLowerCase()} ${data.find((c) => c.value === v)?.label ?? v}`, [
            v ? { op: "add", path, value: v } : { op: "remove", path },
            ...broughtBy(field, v, at.slice(0, -1), record, fresh),
          ])
        }
      />
    );
  }
  return (
    <EntryField
      path={path}
      label={bare ?? label}
      hideLabel={Boolean(bare)}
      kind={field.value_kind}
      axis={axis}
      optional={field.optional}
      placeholder={
        typeof inEffect === "string"
          ? inEffect
          : inEffect === undefined
            ? field.blank
            : value({ value: inEffect, kind: field.value_kind }, display)
      }
      edit={`${title}, ${label.toLowerCase()}`}
    />
  );
}
