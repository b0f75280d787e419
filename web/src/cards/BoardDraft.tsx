import { Button, TextInput } from "@mantine/core";
import { useMemo, useState } from "react";
import { ChoiceField } from "../fields/PlainField";
import {
  AXIS_WORDS,
  type Axis,
  type Doc,
  type Entry,
  FACES,
  FRAME,
  freshKey,
  isPlaced,
  nextOrder,
  type Plane,
  pointer,
  sheetOf,
  sheetsOf,
} from "../lib/document";
import { fresh, typed, useDesign } from "../state/design";
import { useView } from "../state/view";
import { DraftEntry } from "./DraftEntry";
import { hasLip, SHAPES, type Shape, shapeOf } from "./foldedShapes";
import { useDraftFault, useTried } from "./useDraft";

type Spans = Record<Axis, [Entry, Entry]>;

/** Where a new board would run: between the boards that are there already, else from 0. */
function firstSpans(doc: Doc): Spans {
  const names = new Set(
    Object.values(doc.parts)
      .filter((p) => isPlaced(p))
      .map((p) => p.name),
  );
  const sizes = new Set(Object.values(doc.sizes).map((s) => s.name));
  const pair = (low: string, high: string, size: string, plain: string): [Entry, Entry] => {
    const [lowFace, highFace] = {
      left: ["left.right", "right.left"],
      front: ["front.back", "back.front"],
      bottom: ["0", "height"],
    }[low]!;
    if (low !== "bottom" && names.has(low) && names.has(high)) return [typed(lowFace), typed(highFace)];
    return [typed("0"), fresh(sizes.has(size) ? size : plain)];
  };
  return {
    x: pair("left", "right", "width", "300 mm"),
    y: pair("front", "back", "depth", "200 mm"),
    z: pair("bottom", "top", "height", "150 mm"),
  };
}

/** A new board; `folded` begins with sheet metal that is bent. */
export function BoardDraft({ folded }: { folded?: boolean }) {
  const doc = useDesign((s) => s.doc)!;
  const commit = useDesign((s) => s.commit);
  const setDraft = useView((s) => s.setDraft);
  const select = useView((s) => s.select);
  const key = useMemo(() => freshKey(doc.parts, `p${Math.random().toString(36).slice(2, 8)}`), [doc.parts]);
  const [name, setName] = useState(() => {
    const taken = new Set(Object.values(doc.parts).map((p) => p.name));
    const stem = folded ? "folded" : "board";
    for (let n = 1; ; n++) if (!taken.has(`${stem}_${n}`)) return `${stem}_${n}`;
  });
  const stocks = sheetsOf(doc).filter(([, s]) => !folded || s.bends);
  const [stock, setStock] = useState(stocks[0]?.[0] ?? "");
  const [shape, setShape] = useState<Shape>(folded ? "channel" : "flat");
  const [along, setAlong] = useState<"u" | "v">("u");
  const [height, setHeight] = useState<Entry>(() => fresh("30 mm"));
  const [lip, setLip] = useState<Entry>(() => fresh("15 mm"));
  const [plane, setPlane] = useState<Plane>("lying");
  const [spans, setSpans] = useState(() => firstSpans(doc));
  const [face, setFace] = useState("bottom");
  const [place, setPlace] = useState<Entry>(() =>
    typed(Object.values(doc.sizes).some((s) => s.name === "height") ? "height / 2" : "0"),
  );
  const frame = FRAME[plane];
  const bent = sheetOf(doc, stock)?.bends ? shape : "flat";
  const flanges = shapeOf(bent, plane, along, height, lip);
  const record = {
    kind: bent === "flat" ? "board" : "folded",
    name,
    order: nextOrder(doc.parts),
    stock,
    plane,
    position: { face, at: place },
    spans: Object.fromEntries([frame.u, frame.v].map((a) => [a, { low: spans[a][0], high: spans[a][1] }])),
    ...(bent === "flat" ? {} : { folding: { flanges }, up: "a" }),
  };
  const patch = [{ op: "add", path: pointer("parts", key), value: record }];
  useTried(stock ? patch : null);
  const fault = useDraftFault(pointer("parts", key));
  const base = pointer("parts", key);
  const set = (axis: Axis, i: 0 | 1, entry: Entry) =>
    setSpans({ ...spans, [axis]: i ? [spans[axis][0], entry] : [entry, spans[axis][1]] });
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        void commit(`Add ${name}`, patch).then((fine) => {
          if (fine) select({ kind: "part", key });
        });
      }}
    >
      <h2>{folded ? "New folded part" : "New board"}</h2>
      {folded && !stocks.length && (
        <p role="alert">There is no sheet metal in this design. Take some from the workshop's shelf under Sizes, Stock.</p>
      )}
      <section>
        <div className="entry">
          <label htmlFor="board-name">Name</label>
          <TextInput
            id="board-name"
            value={name}
            onChange={(e) => setName(e.target.value)}
            maxLength={40}
            onKeyDown={(e) => e.stopPropagation()}
          />
        </div>
        <ChoiceField
          label="Stock"
          value={stock}
          data={stocks.map(([value, s]) => ({ value, label: s.name }))}
          onSave={setStock}
        />
        <ChoiceField
          label="Stands"
          value={plane}
          data={(Object.keys(FRAME) as Plane[]).map((p) => ({ value: p, label: FRAME[p].words }))}
          onSave={(p) => {
            setPlane(p as Plane);
            setFace(FACES[FRAME[p as Plane].normal][0]);
          }}
        />
      </section>
      {sheetOf(doc, stock)?.bends && (
        <section>
          <h3>Bends</h3>
          <ChoiceField label="Bent as" value={shape} data={SHAPES} onSave={(v) => setShape(v as Shape)} />
          {bent !== "flat" && (
            <>
              {bent !== "tray" && (
                <ChoiceField
                  label="Bends run"
                  value={along}
                  data={(["u", "v"] as const).map((value) => ({ value, label: AXIS_WORDS[frame[value]] }))}
                  onSave={(v) => setAlong(v as "u" | "v")}
                />
              )}
              <DraftEntry
                label="Flange length"
                entry={height}
                path={`${base}/folding/flanges/${Object.keys(flanges)[0]}/length`}
                fault={fault}
                onChange={setHeight}
              />
              {hasLip(bent) && (
                <DraftEntry
                  label={bent === "hat" ? "Brim length" : "Upstand, drip"}
                  entry={lip}
                  path={`${base}/folding/flanges/${Object.keys(flanges).at(-1)}/length`}
                  fault={fault}
                  onChange={setLip}
                />
              )}
              <p className="soft" style={{ margin: "2px 0 0" }}>
                Lengths to the outer sharps.
              </p>
            </>
          )}
        </section>
      )}
      <section>
        <h3>Where it runs</h3>
        {[frame.u, frame.v].map((a) => (
          <div key={a}>
            <DraftEntry
              label={`${FACES[a][0]} from`}
              entry={spans[a][0]}
              path={`${base}/spans/${a}/low`}
              axis={a}
              fault={fault}
              onChange={(e) => set(a, 0, e)}
            />
            <DraftEntry
              label={`to ${FACES[a][1]}`}
              entry={spans[a][1]}
              path={`${base}/spans/${a}/high`}
              axis={a}
              fault={fault}
              onChange={(e) => set(a, 1, e)}
            />
          </div>
        ))}
        <ChoiceField
          label="Set by its"
          value={face}
          data={[...FACES[frame.normal], "centre"].map((f) => ({ value: f, label: f === "centre" ? "centre" : `${f} face` }))}
          onSave={setFace}
        />
        <DraftEntry
          label={`${face} at`}
          entry={place}
          path={`${base}/position/at`}
          axis={frame.normal}
          fault={fault}
          onChange={setPlace}
        />
      </section>
      {fault && !fault.entry.includes("/spans/x/") && !fault.entry.includes("/at") && (
        <p className="error" role="alert">
          {fault.message}
        </p>
      )}
      <div className="row" style={{ marginTop: 12 }}>
        <Button type="submit" variant="filled" disabled={!stock}>
          {folded ? "Add folded part" : "Add board"}
        </Button>
        <Button onClick={() => setDraft(null)}>Leave it</Button>
      </div>
    </form>
  );
}
