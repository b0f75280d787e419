// What makes a board a folded part: the flanges on its plate, their radius and corners.

import { Button, TextInput } from "@mantine/core";
import { useState } from "react";
import { EntryField } from "../fields/EntryField";
import { ChoiceField } from "../fields/PlainField";
import { AXIS_WORDS, type Axis, FRAME, isPlate, ordered, type PlatePart, pointer, sheetOf } from "../lib/document";
import { length, plural } from "../lib/figures";
import { becomes } from "../lib/kinds";
import { id } from "../lib/owner";
import { useDesign, useShown } from "../state/design";
import { useEdges } from "../state/edges";
import { formOf, useForms } from "../state/forms";
import { operate } from "../state/operations";
import { words } from "../state/shape";
import { useView } from "../state/view";
import { edgesOf, flangeName, newFlange } from "./flangeFields";
import { RecordForm } from "./RecordForm";

const SHAPE = ["corner_shape"];

export function FoldingSection({ partKey, board }: { partKey: string; board: PlatePart }) {
  const shown = useShown()!;
  const view = useView();
  const [adding, setAdding] = useState(false);
  const forms = useForms();
  const metal = Boolean(sheetOf(shown.doc, board.stock)?.bends);
  const form = formOf(forms.bends, "folding");
  const folding = board.folding;
  const flanges = folding?.flanges ?? {};
  if (!folding && !metal) return null;
  const base = ["parts", partKey, "folding"];
  const sharp = shown.built.parts.find((p) => p.key === partKey)?.sharp ?? 0;

  return (
    <section>
      <h3>
        <span>Bends</span>
        <Button size="compact-xs" onClick={() => setAdding(!adding)} aria-expanded={adding}>
          Add a flange
        </Button>
      </h3>
      {adding && <AddFlange partKey={partKey} board={board} onDone={() => setAdding(false)} />}
      {ordered(flanges).map(([key, f]) => {
        const field = { profile: "legs/0/length", line: "at" }[f.kind as string] ?? "length";
        const value = shown.built.values[`${pointer(...base, "flanges", key)}/${field}`]?.value;
        const broken = shown.built.problems.some((p) => [id.flange(partKey, key), id.bend(partKey, key)].includes(p.owner));
        return (
          <button
            type="button"
            className={`linkrow ${f.out ? "leftout" : ""}`}
            key={key}
            onClick={() => view.select({ kind: "flange", part: partKey, key })}
          >
            <span className="swatch" style={{ background: broken ? "var(--cut)" : "var(--joint)" }} />
            <span className="grow clip title">{words(flangeName(key, flanges))}</span>
            <span className={`figure ${broken ? "error" : "soft"}`}>
              {value === undefined ? "" : length(value, shown.doc.display)}
            </span>
          </button>
        );
      })}
      {folding && (
        <>
          {form && (
            <RecordForm
              {...{ form }}
              path={base}
              record={{ ...folding }}
              title={board.name}
              skip={folding.rounding ? [] : SHAPE}
            />
          )}
          <div className="soft">
            {sharp
              ? `${plural(sharp, "exposed corner")} ${sharp === 1 ? "is" : "are"} sharp${folding.rounding ? ": their sides are too short for it" : ""}.`
              : "No exposed corner is sharp."}
          </div>
          {form && <RecordForm {...{ form }} path={base} record={{ ...folding }} title={board.name} section="crossing" />}
          {folding.split &&
            (["low", "high"] as const)
              .filter((end) => folding.split?.[end])
              .map((end) => (
                <EntryField
                  key={end}
                  path={pointer(...base, "split", end)}
                  label={end === "low" ? "A half: begins at" : "A half: ends at"}
                  axis={folding.split?.axis}
                  edit={`${board.name}, where it is split`}
                />
              ))}
          <SplitForm partKey={partKey} board={board} />
        </>
      )}
    </section>
  );
}

/** What is added, and on which edge: a flange of a kind, or one whose profile is drawn. */
function AddFlange({ partKey, board, onDone }: { partKey: string; board: PlatePart; onDone: () => void }) {
  const { commit } = useDesign.getState();
  const view = useView();
  const [kind, setKind] = useState("flange");
  const [edge, setEdge] = useState("");
  const [why, setWhy] = useState("");
  const forms = useForms();
  const edges = edgesOf(board, useEdges(partKey)).filter((e) => kind !== "drawn" || e.value.startsWith("/"));
  const folding = board.folding;
  const taken = new Set(Object.values(folding?.flanges ?? {}).map((f) => `${f.on}/${f.edge}`));
  const chosen = edges.some((e) => e.value === edge) ? edge : (edges.find((e) => !taken.has(e.value)) ?? edges[0]).value;

  async function add() {
    const form = formOf(forms.flanges, kind);
    if (!form) return;
    if (kind === "drawn") {
      const refused = await operate({ operation: "begin_profile", part: partKey, edge: chosen.split("/")[1] });
      setWhy(refused);
      const key = refused ? "" : lastFlange(partKey);
      if (key) view.setDraft({ kind: "outline", part: partKey, feature: id.flange(partKey, key) });
      return;
    }
    const { key, value } = newFlange(folding, form, chosen);
    const patch = folding
      ? [{ op: "add", path: pointer("parts", partKey, "folding", "flanges", key), value }]
      : becomes(partKey, board, "folded", { folding: { flanges: { [key]: value } } });
    if (await commit(`${board.name}: ${form.title.split(":")[0]} on its ${words(value.edge)}`, patch)) {
      onDone();
      view.select({ kind: "flange", part: partKey, key });
    }
  }

  return (
    <>
      <ChoiceField
        label="What"
        value={kind}
        data={forms.flanges.map((f) => ({ value: f.kind, label: f.title }))}
        onSave={setKind}
      />
      <ChoiceField label="On" value={chosen} data={edges} onSave={setEdge} />
      <div className="row">
        <Button variant="filled" onClick={() => void add()}>
          {kind === "drawn" ? "Draw it" : "Bend it up"}
        </Button>
        <Button onClick={onDone}>Cancel</Button>
      </div>
      {why && <div className="error">{why}</div>}
    </>
  );
}

/** The flange that was added last. */
function lastFlange(part: string): string {
  const record = useDesign.getState().doc?.parts[part];
  return (isPlate(record) && ordered(record.folding?.flanges ?? {}).at(-1)?.[0]) || "";
}

type Hold = "rivets" | "tabs" | "none";

/** Makes two parts of a folded one, with an overlap and what holds both together. */
function SplitForm({ partKey, board }: { partKey: string; board: PlatePart }) {
  const frame = FRAME[board.plane];
  const values = useShown()!.built.values;
  const [open, setOpen] = useState(false);
  const [axis, setAxis] = useState<Axis>(frame.u);
  const [hold, setHold] = useState<Hold>("rivets");
  const [at, setAt] = useState("");
  const [fault, setFault] = useState("");
  const end = (a: Axis, side: string) => values[pointer("parts", partKey, "spans", a, side)]?.value ?? 0;
  const place = at.trim() === "" ? (end(axis, "low") + end(axis, "high")) / 2 : Number(at.replace(",", "."));
  if (!open)
    return (
      <Button size="compact-xs" onClick={() => setOpen(true)}>
        Split it in two
      </Button>
    );
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        void operate({ operation: "split", key: partKey, axis, hold, at: place }).then((said) => {
          setFault(said);
          if (!said) setOpen(false);
        });
      }}
    >
      <ChoiceField
        label="Split it"
        value={axis}
        data={[frame.u, frame.v].map((value) => ({ value, label: `across ${AXIS_WORDS[value]}` }))}
        onSave={(v) => setAxis(v as Axis)}
      />
      <div className="entry">
        <label htmlFor="split-at">At, in mm</label>
        <TextInput
          id="split-at"
          value={at}
          placeholder={String(Math.round(place * 100) / 100)}
          onChange={(e) => setAt(e.target.value)}
          onKeyDown={(e) => e.stopPropagation()}
        />
      </div>
      <ChoiceField
        label="Held by"
        value={hold}
        data={[
          { value: "rivets", label: "a row of rivets" },
          { value: "tabs", label: "tabs through slots" },
          { value: "none", label: "the overlap alone" },
        ]}
        onSave={(v) => setHold(v as Hold)}
      />
      {fault && (
        <p className="error" role="alert">
          {fault}
        </p>
      )}
      <div className="row">
        <Button type="submit" variant="filled" disabled={!Number.isFinite(place)}>
          Split
        </Button>
        <Button onClick={() => setOpen(false)}>Leave it</Button>
      </div>
    </form>
  );
}
