// An axle where a face was pressed: a rod through all that stands in its way, with its holes; tried in the picture, and one edit.
import { Button } from "@mantine/core";
import { useState } from "react";
import { ChoiceField } from "../fields/PlainField";
import { barsOf } from "../lib/document";
import { CATCH, stepOf } from "../lib/ghost";
import { useAxle } from "../state/axle";
import { useDesign } from "../state/design";
import { formOf, useForms } from "../state/forms";
import { useView } from "../state/view";
import { addStock } from "./edits";
import { useTried } from "./useDraft";

export function AxleDraft({
  part,
  face,
  at,
  scale,
}: {
  part: string;
  face: string;
  at: [number, number, number];
  scale: number;
}) {
  const doc = useDesign((s) => s.doc)!;
  const bar = formOf(useForms().stocks, "bar");
  const bars = barsOf(doc).filter(([, s]) => s.shape === "round");
  const [chosen, setChosen] = useState("");
  const stock = chosen || bars[0]?.[0] || "";
  const { label, patch, fault } = useAxle(stock, part, face, at, CATCH * scale, stepOf(scale, doc.unit));
  useTried(patch);
  const { select, setDraft } = useView.getState();
  const add = async () => {
    const key = String(patch?.[0].path ?? "").split("/")[2];
    if (patch && (await useDesign.getState().commit(label, patch))) select({ kind: "part", key });
  };
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        void add();
      }}
    >
      <h2>Axle</h2>
      <p className="soft" style={{ margin: "2px 0 10px" }}>
        A rod square to this face, through every board in its way, and the holes for it.
      </p>
      {stock ? (
        <section>
          <ChoiceField label="Bar" value={stock} data={bars.map(([value, s]) => ({ value, label: s.name }))} onSave={setChosen} />
          {label && <p>{label}.</p>}
        </section>
      ) : (
        <section>
          <p role="alert">There is no bar in this design to cut it from.</p>
          <Button disabled={!bar} onClick={() => bar && void addStock(bar).then((made) => made && setChosen(made))}>
            Add a round bar
          </Button>
        </section>
      )}
      {fault && (
        <p className="error" role="alert">
          {fault}
        </p>
      )}
      <div className="row" style={{ marginTop: 12 }}>
        <Button type="submit" variant="filled" disabled={!patch}>
          Add axle
        </Button>
        <Button onClick={() => setDraft(null)}>Leave it</Button>
      </div>
    </form>
  );
}
