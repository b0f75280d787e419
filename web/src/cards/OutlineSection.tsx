// The outline of a board: a rectangle, or disc, ring, link, one taken over from a drawing, or traced from a neighbour.
import { useState } from "react";
import { ChoiceField } from "../fields/PlainField";
import { type Axis, FACES, FRAME, isPlate, type PlatePart, pointer } from "../lib/document";
import { fresh, useDesign } from "../state/design";
import { formOf, useForms } from "../state/forms";
import { words } from "../state/shape";
import { DrawOnFace, drawOutline } from "./DrawOnFace";
import { OutlineFile } from "./OutlineFile";
import { RecordForm } from "./RecordForm";

export function OutlineSection({ partKey, board }: { partKey: string; board: PlatePart }) {
  const forms = useForms().outlines;
  const doc = useDesign((s) => s.doc)!;
  const { commit } = useDesign.getState();
  const [fault, setFault] = useState("");
  const [wanted, setWanted] = useState("");
  const base = ["parts", partKey, "outline"];
  const kind = wanted || board.outline?.kind || "rectangle";
  const shape = formOf(forms, board.outline?.kind ?? "");
  const kinds = [{ value: "rectangle", label: "rectangle" }, ...forms.map((f) => ({ value: f.kind, label: f.title }))];
  const values = useDesign((s) => s.head)!.values;
  const reach = (axis: Axis) =>
    (values[pointer("parts", partKey, "spans", axis, "high")]?.value ?? 0) -
    (values[pointer("parts", partKey, "spans", axis, "low")]?.value ?? 0);
  const frame = FRAME[board.plane];
  const ends = FACES[reach(frame.u) >= reach(frame.v) ? frame.u : frame.v]; // a link lies along its longer side
  const others = Object.entries(doc.parts).filter(([k, p]) => isPlate(p) && k !== partKey) as [string, PlatePart][];

  function choose(next: string) {
    setFault("");
    setWanted("");
    if (next === "free") {
      void drawOutline(partKey).then(setFault);
      return;
    }
    if (next === "drawn") {
      setWanted("drawn");
      return;
    }
    const first = others.find(([, p]) => p.plane === board.plane) ?? others[0];
    const form = formOf(forms, next);
    // what is left empty begins without, but for a link's bores
    const begin = form?.fields.filter((f) => f.begin).map((f) => [f.name, fresh(f.begin)]);
    const value = form && { kind: next, ...Object.fromEntries(begin ?? []), ...(next === "traced" ? { part: first?.[0] } : {}) };
    if (next === "traced" && !first) {
      setFault("There is no other board to trace.");
      return;
    }
    void commit(`${board.name}: ${next}`, [
      value ? { op: "add", path: pointer(...base), value } : { op: "remove", path: pointer(...base) },
    ]);
  }

  return (
    <section>
      <h3>Outline</h3>
      <ChoiceField label="Shape" value={kind} data={kinds} onSave={choose} />
      {board.outline?.kind === "traced" && (
        <ChoiceField
          label="Traced from"
          value={String(board.outline.part)}
          data={others.map(([value, p]) => ({ value, label: words(p.name) }))}
          onSave={(v) =>
            void commit(`${board.name}: traced from ${doc.parts[v].name}`, [
              { op: "replace", path: pointer(...base, "part"), value: v },
            ])
          }
        />
      )}
      {shape && (
        <RecordForm
          form={shape}
          path={base}
          record={{ ...board.outline }}
          title={board.name}
          words={() => ({ low: ends[0], high: ends[1] })}
        />
      )}
      {kind === "free" && <DrawOnFace part={partKey} />}
      {kind === "drawn" && (
        <OutlineFile partKey={partKey} source={String(board.outline?.source ?? "")} onTaken={() => setWanted("")} />
      )}
      {fault && (
        <div className="error" role="alert">
          {fault}
        </div>
      )}
    </section>
  );
}
