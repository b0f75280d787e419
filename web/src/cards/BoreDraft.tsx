// A bore being drafted: its axis and place say which parts it meets; each is cut, marked or left alone.
import { Button, SegmentedControl, TextInput } from "@mantine/core";
import { useMemo, useState } from "react";
import { ChoiceField } from "../fields/PlainField";
import { AXIS_WORDS, type Axis, type Entry, FACES, freshKey, nextOrder, pointer } from "../lib/document";
import { id } from "../lib/owner";
import { usePartsAlong } from "../state/boring";
import { fresh, typed, useDesign, useShown } from "../state/design";
import { useView } from "../state/view";
import { DraftEntry } from "./DraftEntry";
import { useDraftFault, useTried } from "./useDraft";

type Through = Record<string, { action: string; fit: Entry }>;

export function BoreDraft() {
  const doc = useDesign((s) => s.doc)!;
  const commit = useDesign((s) => s.commit);
  const shown = useShown()!;
  const { setDraft, select } = useView.getState();
  const middle = (axis: Axis) => {
    const i = "xyz".indexOf(axis);
    const ends = shown.built.parts.filter((p) => p.low && p.high).flatMap((p) => [p.low![i], p.high![i]]);
    const mm = ends.length ? (Math.min(...ends) + Math.max(...ends)) / 2 : 0;
    return fresh(`${Math.round(mm)} mm`);
  };
  const [name, setName] = useState("rod_bore");
  const [axis, setAxis] = useState<Axis>("x");
  const [at, setAt] = useState<Record<Axis, Entry>>(() => ({ x: middle("x"), y: middle("y"), z: middle("z") }));
  const [diameter, setDiameter] = useState<Entry>(() => fresh("8 mm"));
  const [through, setThrough] = useState<Through>({});
  const key = useMemo(() => freshKey(doc.bores, `b${Math.random().toString(36).slice(2, 8)}`), [doc.bores]);
  const others = (["x", "y", "z"] as Axis[]).filter((a) => a !== axis);
  const place = Object.fromEntries(others.map((a) => [a, at[a]]));
  const met = usePartsAlong(axis, place);
  const square = met.filter((m) => m.how === "square").map((m) => m.part);
  const parts = Object.fromEntries(square.map((k) => [k, through[k] ?? { action: "cut", fit: typed("0") }]));
  const path = pointer("bores", key);
  const patch = [
    { op: "add", path, value: { name: name || "bore", order: nextOrder(doc.bores), axis, at: place, diameter, parts } },
  ];
  useTried(patch);
  const fault = useDraftFault(path, id.bore(key));
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        void commit(`Add the bore ${name}`, patch).then((fine) => fine && select({ kind: "bore", key }));
      }}
    >
      <h2>New bore</h2>
      <p className="soft" style={{ margin: "2px 0" }}>
        A straight hole through several parts, for a rod or a dowel.
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
        <ChoiceField
          label="Runs"
          value={axis}
          data={(Object.keys(AXIS_WORDS) as Axis[]).map((a) => ({ value: a, label: AXIS_WORDS[a] }))}
          onSave={(a) => setAxis(a as Axis)}
        />
        {others.map((a) => (
          <DraftEntry
            key={a}
            label={`${FACES[a][0]}–${FACES[a][1]} at`}
            entry={at[a]}
            path={`${path}/at/${a}`}
            axis={a}
            fault={fault}
            onChange={(e) => setAt({ ...at, [a]: e })}
          />
        ))}
        <DraftEntry label="Shaft diameter" entry={diameter} path={`${path}/diameter`} fault={fault} onChange={setDiameter} />
      </section>
      <section>
        <h3>It meets</h3>
        {met.length === 0 && <div className="soft">No part stands there.</div>}
        {met.map(({ part: k, how }) => (
          <div key={k} style={{ marginBottom: 8 }}>
            <div className="row">
              <b className="grow clip">{doc.parts[k]?.name.replaceAll("_", " ")}</b>
              {square.includes(k) ? (
                <SegmentedControl
                  value={parts[k].action}
                  onChange={(action) => setThrough({ ...through, [k]: { ...parts[k], action } })}
                  data={[
                    { value: "cut", label: "Cut" },
                    { value: "mark", label: "Mark" },
                    { value: "leave", label: "Leave" },
                  ]}
                />
              ) : (
                <span className="soft">{how === "edge" ? "by its edge" : "at an angle"}, left alone</span>
              )}
            </div>
            {parts[k]?.action === "cut" && (
              <DraftEntry
                label="Fit to shaft"
                entry={parts[k].fit}
                path={`${path}/parts/${k}/fit`}
                fits
                fault={fault}
                onChange={(fit) => setThrough({ ...through, [k]: { ...parts[k], fit } })}
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
        <Button type="submit" variant="filled" disabled={!square.length}>
          Add bore
        </Button>
        <Button onClick={() => setDraft(null)}>Leave it</Button>
      </div>
    </form>
  );
}
