import { useState } from "react";
import type { FoldedShape } from "../api/types";
import { ChoiceField } from "../fields/PlainField";
import {
  type Axis,
  type Doc,
  type Entry,
  FACES,
  FRAME,
  isPlaced,
  nextOrder,
  type Plane,
  sheetOf,
  sheetsOf,
} from "../lib/document";
import { fresh, typed, useDesign } from "../state/design";
import { useForms } from "../state/forms";
import { BentAs } from "./BentAs";
import { DraftEntry } from "./DraftEntry";
import { filled } from "./foldedShapes";
import { NameField, NewPartForm, useDraftedPart, useNewPart } from "./NewPart";
import { Run } from "./Run";

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

/** Where it would lie: half way up, where the design has a height. */
function firstPlace(doc: Doc): Entry {
  return typed(Object.values(doc.sizes).some((s) => s.name === "height") ? "height / 2" : "0");
}

type Lengths = Record<"length" | "lip", Entry>;

/** The two lengths of a shape as they were typed, else as they begin. */
function lengthsOf(shape: FoldedShape | undefined, typedIn: Partial<Lengths>): Lengths {
  const first = (which: string) => fresh(shape?.begin[which] ?? "0");
  return { length: typedIn.length ?? first("length"), lip: typedIn.lip ?? first("lip") };
}

/** A new board; `folded` begins with sheet metal that is bent. */
export function BoardDraft({ folded }: { folded?: boolean }) {
  const doc = useDesign((s) => s.doc)!;
  const part = useNewPart("p", folded ? "folded" : "board");
  const stocks = sheetsOf(doc).filter(([, s]) => !folded || s.bends);
  const [stock, setStock] = useState(stocks[0]?.[0] ?? "");
  const { shapes } = useForms();
  const [shape, setShape] = useState(folded ? "channel" : "flat");
  const [along, setAlong] = useState<"u" | "v">("u");
  const [typedIn, setTyped] = useState<Partial<Lengths>>({});
  const [plane, setPlane] = useState<Plane>("lying");
  const [spans, setSpans] = useState(() => firstSpans(doc));
  const [face, setFace] = useState("bottom");
  const [place, setPlace] = useState(() => firstPlace(doc));
  const frame = FRAME[plane];
  const bent = sheetOf(doc, stock)?.bends ? shapes.find((x) => x.kind === shape) : undefined;
  const lengths = lengthsOf(bent, typedIn);
  const flanges = filled(bent?.flanges[plane]?.[along] ?? {}, lengths);
  const record = {
    kind: bent ? "folded" : "board",
    order: nextOrder(doc.parts),
    stock,
    plane,
    position: { face, at: place },
    spans: Object.fromEntries([frame.u, frame.v].map((a) => [a, { low: spans[a][0], high: spans[a][1] }])),
    ...(bent ? { folding: { flanges }, up: "a" } : {}),
  };
  // until the forms have come a shape is only a word: nothing is tried or added flat in its place
  const known = bent || shape === "flat" || !sheetOf(doc, stock)?.bends;
  const { fault, add } = useDraftedPart(part, stock && known ? record : null);
  return (
    <NewPartForm
      title={folded ? "New folded part" : "New board"}
      words={folded ? "Add folded part" : "Add board"}
      fault={(!/\/spans\/|\/at/.test(fault?.entry ?? "") && fault?.message) || ""}
      onAdd={stock && known ? add : null}
    >
      {folded && !stocks.length && (
        <p role="alert">There is no sheet metal in this design. Take some from the workshop's shelf under Sizes, Stock.</p>
      )}
      <section>
        <NameField part={part} />
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
          <ChoiceField
            label="Bent as"
            value={bent?.kind ?? "flat"}
            data={[{ value: "flat", label: "not bent" }, ...shapes.map((x) => ({ value: x.kind, label: x.label }))]}
            onSave={(v) => setShape(v)}
          />
          {bent && (
            <BentAs shape={bent} frame={frame} along={along} onAlong={setAlong}>
              {(
                [
                  ["length", "Flange length", 0],
                  ["lip", bent.lip, -1],
                ] as const
              ).map(
                ([which, label, nth]) =>
                  label && (
                    <DraftEntry
                      key={which}
                      label={label}
                      entry={lengths[which]}
                      path={`${part.base}/folding/flanges/${Object.keys(flanges).at(nth)}/length`}
                      fault={fault}
                      onChange={(entry) => setTyped({ ...typedIn, [which]: entry })}
                    />
                  ),
              )}
            </BentAs>
          )}
        </section>
      )}
      <section>
        <h3>Where it runs</h3>
        {[frame.u, frame.v].map((a) => (
          <Run
            key={a}
            axis={a}
            run={spans[a]}
            path={`${part.base}/spans/${a}`}
            fault={fault}
            onChange={(run) => setSpans({ ...spans, [a]: run })}
          />
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
          path={`${part.base}/position/at`}
          axis={frame.normal}
          fault={fault}
          onChange={setPlace}
        />
      </section>
    </NewPartForm>
  );
}
