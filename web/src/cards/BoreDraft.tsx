// A bore being drafted: its axis and place say which parts it meets; each is cut, drilled, marked or left alone.
import { Button, TextInput } from "@mantine/core";
import { useMemo, useState } from "react";
import {
  type Axis,
  type Bore,
  type BoreDoes,
  type Doc,
  type Entry,
  freshKey,
  isPlate,
  nextOrder,
  pointer,
} from "../lib/document";
import { id } from "../lib/owner";
import { usePartsAlong } from "../state/boring";
import { fresh, typed, useDesign, useShown } from "../state/design";
import { useView } from "../state/view";
import { atFirst, BoreAction } from "./BoreAction";
import { BoreRuns, type DraftLine, lineOf } from "./BoreRuns";
import { DraftEntry } from "./DraftEntry";
import { DraftSet } from "./DraftSet";
import { useDraftFault, useTried } from "./useDraft";

type Through = Record<string, { action: BoreDoes; fit: Entry }>;

export function BoreDraft({ begun, pressed }: { begun?: Bore; pressed?: string }) {
  const doc = useDesign((s) => s.doc)!;
  const commit = useDesign((s) => s.commit);
  const { setDraft, select } = useView.getState();
  const middle = useMiddle();
  const [name, setName] = useState(begun?.name ?? "rod_bore");
  const [line, setLine] = useState<DraftLine>(() => ({
    axis: begun?.axis ?? "x",
    of: begun?.of ?? "",
    at: { x: middle("x"), y: middle("y"), z: middle("z"), ...(begun && heights(doc, begun, pressed)), ...begun?.at },
    lean: typed(""),
    toward: typed("0 deg"),
  }));
  const [diameter, setDiameter] = useState<Entry>(() => begun?.diameter ?? fresh("8 mm"));
  const [through, setThrough] = useState<Through>(begun?.parts ?? {});
  const key = useMemo(() => freshKey(doc.bores, `b${Math.random().toString(36).slice(2, 8)}`), [doc.bores]);
  const said = lineOf(line);
  const met = usePartsAlong(said);
  const folded = (k: string) => isPlate(doc.parts[k]) && Boolean(doc.parts[k].folding);
  const ends = met.map((m) => [m, through[m.part] ?? { action: atFirst(m.how, folded(m.part)), fit: typed("0") }] as const);
  const parts = Object.fromEntries(
    ends.filter(([m, t]) => t.action !== "leave" || m.how === "square").map(([m, t]) => [m.part, t]),
  );
  const path = pointer("bores", key);
  const [hardware, setHardware] = useState(begun?.hardware);
  const record = {
    name: name || "bore",
    order: nextOrder(doc.bores),
    ...said,
    diameter,
    parts,
    ...(hardware ? { hardware } : {}),
  };
  const patch = [{ op: "add", path, value: record }];
  useTried(patch);
  const fault = useDraftFault(path, id.bore(key));
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        void commit(`Add the bore ${name}`, patch).then((fine) => fine && select({ kind: "bore", key }));
      }}
    >
      <h2>{hardware ? "New screw" : "New bore"}</h2>
      <p className="soft" style={{ margin: "2px 0" }}>
        {hardware
          ? "A screw through several parts: it is as long as it has to be, and its holes are as wide as its standard says."
          : "A straight hole through several parts, for a rod or a dowel."}
      </p>
      <section>
        <div className="entry">
          <label htmlFor="bore-name">Name</label>
          <TextInput
            id="bore-name"
            value={name}
            maxLength={40}
            onChange={(e) => setName(e.target.value)}
            onKeyDown={(e) => e.stopPropagation()}
          />
        </div>
        <BoreRuns path={path} line={line} fault={fault} onChange={(change) => setLine({ ...line, ...change })} />
        {hardware && <DraftSet said={hardware} onChange={setHardware} />}
        {!hardware && (
          <DraftEntry label="Shaft diameter" entry={diameter} path={`${path}/diameter`} fault={fault} onChange={setDiameter} />
        )}
      </section>
      <section>
        <h3>It meets</h3>
        {met.length === 0 && <div className="soft">No part stands there.</div>}
        {ends.map(([{ part: k, how }, t]) => (
          <div key={k} style={{ marginBottom: 8 }}>
            <BoreAction
              name={doc.parts[k]?.name ?? k}
              how={how}
              folded={folded(k)}
              value={t.action}
              onChange={(action) => setThrough({ ...through, [k]: { ...t, action } })}
            />
            {(t.action === "cut" || t.action === "drill") && (
              <DraftEntry
                label={hardware ? "Hole wider by" : "Fit to shaft"}
                entry={t.fit}
                path={`${path}/parts/${k}/fit`}
                fits
                fault={fault}
                onChange={(fit) => setThrough({ ...through, [k]: { ...t, fit } })}
              />
            )}
          </div>
        ))}
      </section>
      {fault && (
        <p className="error" role="alert">
          {fault.message}
        </p>
      )}
      <div className="row" style={{ marginTop: 12 }}>
        <Button type="submit" variant="filled" disabled={!Object.keys(parts).length}>
          {hardware ? "Add screw" : "Add bore"}
        </Button>
        <Button onClick={() => setDraft(null)}>Leave it</Button>
      </div>
    </form>
  );
}

/** Where a bore that leans is measured along its axis, until it is said: at the middle of the part whose axes it has, of the one pressed, or the first. */
export function heights(doc: Doc, bore: Pick<Bore, "axis" | "of" | "parts">, pressed = ""): Partial<Record<Axis, Entry>> {
  const part = doc.parts[bore.of || pressed || Object.keys(bore.parts)[0]];
  return part ? { [bore.axis]: fresh(`${part.name}.centre`) } : {};
}

/** The design's middle along an axis, in whole millimetres. */
function useMiddle() {
  const shown = useShown()!;
  return (axis: Axis) => {
    const i = "xyz".indexOf(axis);
    const ends = shown.built.parts.filter((p) => p.low && p.high).flatMap((p) => [p.low![i], p.high![i]]);
    const mm = ends.length ? (Math.min(...ends) + Math.max(...ends)) / 2 : 0;
    return fresh(`${Math.round(mm)} mm`);
  };
}
