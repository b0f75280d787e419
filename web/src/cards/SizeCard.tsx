// The card of a size: its entry, its range, and what reads it.
import { Button } from "@mantine/core";
import { useState } from "react";
import { EntryField } from "../fields/EntryField";
import { ChoiceField, TextField } from "../fields/PlainField";
import { AXIS_WORDS, pointer, type Size } from "../lib/document";
import { value } from "../lib/figures";
import { typed, useDesign, useShown } from "../state/design";
import { operate } from "../state/operations";
import { placeWords } from "../state/shape";
import { usesOf } from "../state/uses";
import { useView } from "../state/view";
import { CardHead } from "./CardHead";
import { removeSelected } from "./edits";
import { ProblemSection } from "./Problem";

type Between = Extract<NonNullable<Size["measured"]>, { along: unknown }>;

export function SizeCard({ sizeKey }: { sizeKey: string }) {
  const shown = useShown()!;
  const doc = useDesign((s) => s.doc)!;
  const commit = useDesign((s) => s.commit);
  const [fault, setFault] = useState("");
  const size = doc.sizes[sizeKey];
  if (!size) return <p className="soft">This size is gone.</p>;
  const p = (...k: string[]) => pointer("sizes", sizeKey, ...k);
  const problems = shown.built.problems.filter((x) => x.entry.startsWith(`${p()}/`));
  const readers = usesOf(doc, size.name);
  const { select } = useView.getState();
  return (
    <>
      <CardHead
        title={size.name.replaceAll("_", " ")}
        remove="Remove size"
        onRemove={() => void removeSelected({ kind: "size", key: sizeKey })}
      />
      <section>
        <h3>Size</h3>
        <TextField
          label="Name"
          value={size.name}
          maxLength={40}
          onSave={async (name) => setFault(await operate({ operation: "rename", group: "sizes", key: sizeKey, name }))}
        />
        {fault && <div className="error">{fault}</div>}
        <ChoiceField
          label="Kind"
          value={size.kind}
          data={["length", "angle", "count", "number"].map((v) => ({ value: v, label: v }))}
          onSave={(kind) => void commit(`${size.name}: a ${kind}`, [{ op: "replace", path: p("kind"), value: kind }])}
        />
        {size.measured ? (
          <Measured sizeKey={sizeKey} />
        ) : (
          <EntryField path={p("entry")} label="Value" kind={size.kind} edit={size.name} />
        )}
        <EntryField
          path={p("low")}
          label="At least"
          kind={size.kind}
          optional
          placeholder="no limit"
          edit={`${size.name}, at least`}
        />
        <EntryField
          path={p("high")}
          label="At most"
          kind={size.kind}
          optional
          placeholder="no limit"
          edit={`${size.name}, at most`}
        />
        <TextField
          label="Note"
          value={size.note}
          maxLength={200}
          onSave={(note) => void commit(`${size.name}: note`, [{ op: "add", path: p("note"), value: note }])}
        />
      </section>
      <section>
        <h3>Read by</h3>
        {readers.length ? (
          <ul className="readers">
            {readers.map((r) => (
              <li key={JSON.stringify(r.selection)}>
                <button type="button" className="linkrow" onClick={() => select(r.selection)}>
                  {r.words}
                </button>
              </li>
            ))}
          </ul>
        ) : (
          <div className="soft">Nothing reads it yet.</div>
        )}
      </section>
      <ProblemSection problems={problems} />
    </>
  );
}

/** Between which places a size is measured, in words. */
function between({ a, b, along }: Between, shown: Parameters<typeof placeWords>[1]): string {
  const how = along === "straight" ? "the straight way" : along === "angle" ? "as an angle" : AXIS_WORDS[along];
  return `Measured ${how}, from the ${placeWords(a, shown)} to the ${placeWords(b, shown)}.`;
}

/** A size that follows the design: what it is measured between, and its value now. */
function Measured({ sizeKey }: { sizeKey: string }) {
  const shown = useShown()!;
  const { commit } = useDesign.getState();
  const size = shown.doc.sizes[sizeKey];
  const found = shown.built.values[pointer("sizes", sizeKey, "entry")];
  if (!size?.measured) return null;
  const measured = size.measured;
  const onDrawing = "drawn" in measured;
  return (
    <div style={{ margin: "4px 0 8px" }}>
      <div className="figure" data-testid="measured-value">
        {found ? value(found, shown.doc.display) : "not known"}
      </div>
      <div className="soft">
        {onDrawing ? `Measured on a drawing: ${size.note || "a dimension"}.` : between(measured, shown)} It follows the design.
      </div>
      <Button
        size="compact-xs"
        onClick={() =>
          found &&
          void commit(`${size.name}: its own value`, [
            { op: "remove", path: pointer("sizes", sizeKey, "measured") },
            {
              op: "replace",
              path: pointer("sizes", sizeKey, "entry"),
              value: typed(size.kind === "angle" ? `${(found.value * 180) / Math.PI} deg` : `${found.value} mm`),
            },
          ])
        }
      >
        Give it its own value
      </Button>
    </div>
  );
}
