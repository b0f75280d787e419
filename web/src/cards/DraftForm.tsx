// The fields of a record that is being drafted, drawn from the core's form of it; nothing is saved before it is added.
import { Checkbox } from "@mantine/core";
import type { Form } from "../api/types";
import { ChoiceField, TextField } from "../fields/PlainField";
import type { Axis, Entry, Plane } from "../lib/document";
import { choicesFor, labelOf, type linesOf, shownFields, type Words } from "../lib/forms";
import { fresh, useDesign } from "../state/design";
import { DraftEntry } from "./DraftEntry";

type Props = {
  form: Form;
  /** Where the record will be. */
  path: string;
  record: { [field: string]: unknown };
  words?: Words;
  plane?: Plane;
  /** The lines of its outline, where it is no rectangle. */
  lines?: ReturnType<typeof linesOf>;
  /** Choices of a field that there are not here. */
  without?: (field: string) => readonly string[];
  fault?: { entry: string; message: string } | null;
  onChange: (field: string, value: unknown) => void;
};

export function DraftForm({ form, path, record, words = {}, plane, lines, without, fault, onChange }: Props) {
  const doc = useDesign((s) => s.doc)!;
  // rows are set once it stands
  const asked = shownFields(form, record, doc.cutters[doc.cutter]?.kind).filter((f) => f.section !== "rows");
  return asked.map((f) => {
    const label = labelOf(f, form, record, words);
    if (f.type === "flag")
      return (
        <Checkbox
          key={f.name}
          size="xs"
          label={label}
          description={f.note || undefined}
          checked={record[f.name] === true}
          onChange={(e) => onChange(f.name, e.currentTarget.checked)}
        />
      );
    if (f.type === "text")
      return (
        <TextField
          key={f.name}
          label={label}
          value={String(record[f.name] ?? "")}
          maxLength={f.most ?? undefined}
          live
          onSave={(t) => t && onChange(f.name, t)}
        />
      );
    if (f.type === "choice")
      return (
        <ChoiceField
          key={f.name}
          label={label}
          value={String(record[f.name] ?? f.default ?? "")}
          data={choicesFor(f, words, plane, lines).filter((c) => !without?.(f.name).includes(c.value))}
          onSave={(v) => onChange(f.name, v)}
        />
      );
    return (
      <DraftEntry
        key={f.name}
        label={label}
        placeholder={f.blank}
        kind={f.value_kind}
        axis={f.along ? (String(record[f.along]) as Axis) : undefined}
        entry={(record[f.name] as Entry | undefined) ?? fresh("")}
        path={`${path}/${f.name}`}
        fault={fault}
        onChange={(entry) => onChange(f.name, entry)}
      />
    );
  });
}
