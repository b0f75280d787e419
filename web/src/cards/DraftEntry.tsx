// An entry of something that is being drafted; its result comes from the preview.
import { readingsOf } from "../fields/EntryField";
import { EntryInput } from "../fields/EntryInput";
import type { Axis, Entry } from "../lib/document";
import { useDesign, useShown } from "../state/design";

type Props = {
  label: string;
  entry: Entry;
  path: string;
  axis?: Axis;
  kind?: string;
  fits?: boolean;
  placeholder?: string;
  fault?: { entry: string; message: string } | null;
  onChange: (entry: Entry) => void;
};

export function DraftEntry({ label, entry, path, axis, kind, fits, placeholder, fault, onChange }: Props) {
  const doc = useDesign((s) => s.doc)!;
  const shown = useShown()!;
  const result = shown.built.values[path];
  return (
    <EntryInput
      label={label}
      entry={entry}
      doc={doc}
      values={shown.built.values}
      axis={axis}
      kind={kind}
      fits={fits}
      placeholder={placeholder}
      result={result && !result.stale ? result : undefined}
      readings={fault?.entry === path ? readingsOf(shown.built.problems.find((p) => p.entry === path)) : []}
      fault={fault && fault.entry === path ? fault.message : undefined}
      onChange={onChange}
      onDone={onChange}
      onCancel={() => undefined}
    />
  );
}
