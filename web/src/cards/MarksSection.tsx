// Marks that help in the shop: which of them are engraved, and how large.
import { Checkbox } from "@mantine/core";
import { EntryField } from "../fields/EntryField";
import type { HelpMarks } from "../lib/document";
import { useDesign } from "../state/design";

const WORDS: { field: Exclude<keyof HelpMarks, "height">; label: string }[] = [
  { field: "numbers", label: "Part numbers" },
  { field: "mates", label: "Mating marks, A1 to A1" },
  { field: "inside", label: "Which face looks inward" },
  { field: "grain", label: "Grain direction" },
];

export function MarksSection() {
  const doc = useDesign((s) => s.doc)!;
  const commit = useDesign((s) => s.commit);
  const any = WORDS.some((w) => doc.marks[w.field]);
  return (
    <section>
      <h3>Marks that help</h3>
      <div className="soft" style={{ fontSize: 12, marginBottom: 4 }}>
        Engraved where the assembly hides them.
      </div>
      {WORDS.map((w) => (
        <Checkbox
          key={w.field}
          size="xs"
          style={{ marginBottom: 4 }}
          label={w.label}
          checked={doc.marks[w.field]}
          onChange={(e) =>
            void commit(`Marks: ${w.label.toLowerCase()} ${e.currentTarget.checked ? "on" : "off"}`, [
              { op: "add", path: `/marks/${w.field}`, value: e.currentTarget.checked },
            ])
          }
        />
      ))}
      {any && <EntryField path="/marks/height" label="Letter height" edit="Marks, letter height" />}
    </section>
  );
}
