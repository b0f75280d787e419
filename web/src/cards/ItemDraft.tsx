// A bought thing that is counted only: of one's own words, or a piece of the catalogue by its standard.
import { Button, NumberInput, TextInput } from "@mantine/core";
import { useState } from "react";
import type { HardwareOut } from "../api/types";
import { ChoiceField } from "../fields/PlainField";
import { freshKey, nextOrder, pointer } from "../lib/document";
import { useDesign } from "../state/design";
import { useView } from "../state/view";
import { FindHardware } from "./FindHardware";

const ROLES = [
  "screw",
  "rivet",
  "nut",
  "washer",
  "insert",
  "dowel",
  "pin",
  "ring",
  "bearing",
  "hinge",
  "slide",
  "foot",
  "magnet",
];

export function ItemDraft() {
  const doc = useDesign((s) => s.doc)!;
  const commit = useDesign((s) => s.commit);
  const { setDraft, select } = useView.getState();
  const [name, setName] = useState("screws");
  const [quantity, setQuantity] = useState<number | string>(1);
  const [price, setPrice] = useState<number | string>(0);
  const [note, setNote] = useState("");
  const [taken, setTaken] = useState<HardwareOut | null>(null);
  const [mine, setMine] = useState("");
  const own = Object.entries(doc.hardware?.own ?? {});
  const take = (h: HardwareOut) => {
    setMine("");
    setTaken(h);
    setName(nameOf(h.name));
    setNote([h.name, h.standard].filter(Boolean).join(", "));
    setPrice(0); // said where it is bought, once for all of it
  };
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        const key = freshKey(doc.parts, name);
        const value = {
          kind: "item",
          name,
          order: nextOrder(doc.parts),
          quantity: Number(quantity) || 1,
          price: Number(price) || 0,
          note,
          ...(taken || mine ? { designation: taken?.designation ?? mine } : {}),
        };
        void commit(`Add ${name}`, [{ op: "add", path: pointer("parts", key), value }]).then(
          (fine) => fine && select({ kind: "part", key }),
        );
      }}
      onKeyDown={(e) => e.stopPropagation()}
      style={{ display: "grid", gap: 8 }}
    >
      <h2>Bought thing</h2>
      <FindHardware roles={ROLES} onTake={take} />
      {own.length > 0 && (
        <ChoiceField
          label="Of the shop's own"
          value={mine}
          data={[{ value: "", label: "none of these" }, ...own.map(([d, o]) => ({ value: d, label: o.name }))]}
          onSave={(d) => {
            setMine(d);
            setTaken(null);
            const chosen = own.find(([key]) => key === d)?.[1];
            if (chosen) setName(nameOf(chosen.name));
          }}
        />
      )}
      {taken && <div className="soft">{taken.name} is bought by its standard, under Shop.</div>}
      <TextInput label="Name" value={name} onChange={(e) => setName(e.target.value)} maxLength={40} required />
      <NumberInput label="Pieces" value={quantity} onChange={setQuantity} min={1} max={500} />
      {!taken && !mine && (
        <NumberInput label={`Price of one, ${doc.currency}`} value={price} onChange={setPrice} min={0} decimalScale={2} />
      )}
      <TextInput label="Note" value={note} onChange={(e) => setNote(e.target.value)} maxLength={200} />
      <div className="row">
        <Button type="submit" variant="filled">
          Add
        </Button>
        <Button onClick={() => setDraft(null)}>Leave it</Button>
      </div>
    </form>
  );
}

/** A name as parts have them: 'Plain washer M5' is plain_washer_m5. */
function nameOf(words: string): string {
  return words
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, "_")
    .replace(/^_+|_+$/g, "")
    .slice(0, 40);
}
