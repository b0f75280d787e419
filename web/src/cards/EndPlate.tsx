// A plate for an end of a member: of what it is, how far it reaches past the tube, and its holes.
import { Button, TextInput } from "@mantine/core";
import { useState } from "react";
import { ChoiceField } from "../fields/PlainField";
import { sheetsOf } from "../lib/document";
import { useDesign } from "../state/design";
import { operate } from "../state/operations";

/** What is usual for a foot that is screwed down. */
const USUAL = { mm: { beside: "30 mm", hole: "9 mm" }, in: { beside: "1 1/4 in", hole: "3/8 in" } };

export function EndPlate({ partKey, end, onDone }: { partKey: string; end: "a" | "b"; onDone: () => void }) {
  const doc = useDesign((s) => s.doc)!;
  const sheets = sheetsOf(doc);
  // a plate on a tube is of metal where there is any
  const [stock, setStock] = useState((sheets.find(([, s]) => s.bends) ?? sheets[0])?.[0] ?? "");
  const [beside, setBeside] = useState(USUAL[doc.unit].beside);
  const [hole, setHole] = useState(USUAL[doc.unit].hole);
  const [fault, setFault] = useState("");
  if (!sheets.length) return <div className="inset soft">No sheet is in this design: add one with the stocks.</div>;
  const id = `plate-${end}`;

  async function put() {
    const refused = await operate({ operation: "add_end_plate", member: partKey, end, stock, beside, hole });
    setFault(refused);
    if (!refused) onDone();
  }

  return (
    <div className="inset">
      <ChoiceField
        label="Plate of"
        value={stock}
        data={sheets.map(([value, s]) => ({ value, label: s.name }))}
        onSave={setStock}
      />
      <div className="entry">
        <label htmlFor={`${id}-beside`}>Past it all round</label>
        <TextInput id={`${id}-beside`} value={beside} onChange={(e) => setBeside(e.currentTarget.value)} />
      </div>
      <div className="entry">
        <label htmlFor={`${id}-hole`}>Four holes of</label>
        <TextInput id={`${id}-hole`} value={hole} placeholder="none" onChange={(e) => setHole(e.currentTarget.value)} />
      </div>
      {fault && (
        <div className="error" role="alert">
          {fault}
        </div>
      )}
      <Button size="compact-xs" variant="filled" onClick={() => void put()}>
        Put it on
      </Button>
    </div>
  );
}
