import { Button, TextInput } from "@mantine/core";
import { useMemo, useState } from "react";
import { ChoiceField } from "../fields/PlainField";
import {
  type Axis,
  type Board,
  type Doc,
  type Entry,
  FACES,
  FRAME,
  freshKey,
  nextOrder,
  ordered,
  type Plane,
  pointer,
} from "../lib/document";
import { useDesign } from "../state/design";
import { useView } from "../state/view";
import { DraftEntry } from "./DraftEntry";
import { useDraftFault, useTried } from "./useDraft";

type Spans = Record<Axis, [Entry, Entry]>;

/** Where a new board would run: between the boards that are there already, else from 0. */
function firstSpans(doc: Doc): Spans {
  const unit = "mm" as const;
  const names = new Set(
    Object.values(doc.parts)
      .filter((p) => p.kind === "board")
      .map((p) => p.name),
  );
  const sizes = new Set(Object.values(doc.sizes).map((s) => s.name));
  const pair = (low: string, high: string, size: string, plain: string): [Entry, Entry] => {
    const [lowFace, highFace] = {
      left: ["left.right", "right.left"],
      front: ["front.back", "back.front"],
      bottom: ["0", "height"],
    }[low]!;
    if (low !== "bottom" && names.has(low) && names.has(high))
      return [
        { text: lowFace, unit },
        { text: highFace, unit },
      ];
    return [
      { text: "0", unit },
      { text: sizes.has(size) ? size : plain, unit },
    ];
  };
  return {
    x: pair("left", "right", "width", "300 mm"),
    y: pair("front", "back", "depth", "200 mm"),
    z: pair("bottom", "top", "height", "150 mm"),
  };
}

export function BoardDraft() {
  const doc = useDesign((s) => s.doc)!;
  const commit = useDesign((s) => s.commit);
  const setDraft = useView((s) => s.setDraft);
  const select = useView((s) => s.select);
  const key = useMemo(() => freshKey(doc.parts, `p${Math.random().toString(36).slice(2, 8)}`), [doc.parts]);
  const [name, setName] = useState(() => {
    const taken = new Set(Object.values(doc.parts).map((p) => p.name));
    for (let n = 1; ; n++) if (!taken.has(`board_${n}`)) return `board_${n}`;
  });
  const [stock, setStock] = useState(ordered(doc.stocks)[0]?.[0] ?? "");
  const [plane, setPlane] = useState<Plane>("lying");
  const [spans, setSpans] = useState(() => firstSpans(doc));
  const [face, setFace] = useState("bottom");
  const [place, setPlace] = useState<Entry>(() => ({
    text: Object.values(doc.sizes).some((s) => s.name === "height") ? "height / 2" : "0",
    unit: "mm",
  }));
  const frame = FRAME[plane];
  const record: Partial<Board> = {
    kind: "board",
    name,
    order: nextOrder(doc.parts),
    stock,
    plane,
    position: { face, at: place },
    spans: Object.fromEntries([frame.u, frame.v].map((a) => [a, { low: spans[a][0], high: spans[a][1] }])),
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
      <h2>New board</h2>
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
          data={ordered(doc.stocks).map(([value, s]) => ({ value, label: s.name }))}
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
          Add board
        </Button>
        <Button onClick={() => setDraft(null)}>Leave it</Button>
      </div>
    </form>
  );
}
