// A crank on the end of a rod: of what the arm and the handle are, how far the handle is off; tried in the picture, and one edit.
import { useState } from "react";
import { ChoiceField, TextField } from "../fields/PlainField";
import { barsOf, FACES, type Rod, sheetsOf } from "../lib/document";
import { useDesign } from "../state/design";
import { NewPartForm, useDraftedOperation } from "./NewPart";

export function CrankDraft({ rod }: { rod: string }) {
  const doc = useDesign((s) => s.doc)!;
  const shaft = doc.parts[rod] as Rod;
  const sheets = sheetsOf(doc);
  const bars = barsOf(doc).filter(([, s]) => s.shape === "round");
  const [stock, setStock] = useState(sheets[0]?.[0] ?? "");
  const [handle, setHandle] = useState(bars.at(-1)?.[0] ?? "");
  const [end, setEnd] = useState<"a" | "b">("b");
  const [throws, setThrows] = useState(doc.unit === "in" ? "3 1/2 in" : "90 mm");
  const ready = stock && handle && throws.trim();
  const { fault, add } = useDraftedOperation(
    ready ? { operation: "add_crank", rod, end, stock, handle, throw: throws.trim() } : null,
  );
  const [low, high] = FACES[shaft.axis];
  return (
    <NewPartForm title={`Crank on ${shaft.name.replaceAll("_", " ")}`} words="Add crank" fault={fault} onAdd={add}>
      <section>
        <ChoiceField
          label="On its end"
          value={end}
          data={[
            { value: "a", label: `at the ${low}` },
            { value: "b", label: `at the ${high}` },
          ]}
          onSave={(e) => setEnd(e as "a" | "b")}
        />
        <ChoiceField
          label="Arm of"
          value={stock}
          data={sheets.map(([value, s]) => ({ value, label: s.name }))}
          onSave={setStock}
        />
        <ChoiceField
          label="Handle of"
          value={handle}
          data={bars.map(([value, s]) => ({ value, label: s.name }))}
          onSave={setHandle}
        />
        <TextField label="Handle off the shaft" value={throws} maxLength={200} onSave={setThrows} />
        <div className="soft" style={{ fontSize: 12 }}>
          The arm is tight on the shaft, its far face flush with the end; the handle is tight in the arm.
        </div>
      </section>
    </NewPartForm>
  );
}
