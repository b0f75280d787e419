import { Button, NumberInput, TextInput } from "@mantine/core";
import { useState } from "react";
import { freshKey, nextOrder, pointer } from "../lib/document";
import { useDesign } from "../state/design";
import { useView } from "../state/view";

export function ItemDraft() {
  const doc = useDesign((s) => s.doc)!;
  const commit = useDesign((s) => s.commit);
  const { setDraft, select } = useView.getState();
  const [name, setName] = useState("screws");
  const [quantity, setQuantity] = useState<number | string>(1);
  const [price, setPrice] = useState<number | string>(0);
  const [note, setNote] = useState("");
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
        };
        void commit(`Add ${name}`, [{ op: "add", path: pointer("parts", key), value }]).then(
          (fine) => fine && select({ kind: "part", key }),
        );
      }}
      onKeyDown={(e) => e.stopPropagation()}
      style={{ display: "grid", gap: 8 }}
    >
      <h2>Bought thing</h2>
      <TextInput label="Name" value={name} onChange={(e) => setName(e.target.value)} maxLength={40} required />
      <NumberInput label="Pieces" value={quantity} onChange={setQuantity} min={1} max={500} />
      <NumberInput label={`Price of one, ${doc.currency}`} value={price} onChange={setPrice} min={0} decimalScale={2} />
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
