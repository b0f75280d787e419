// A part hung on another by hinges, or run on it by a slide: what of the catalogue fits there, how it lies, how many; tried in the picture, and one edit.
import { NumberInput } from "@mantine/core";
import { useState } from "react";
import { ChoiceField } from "../fields/PlainField";
import { type Doc, isPlate, ordered } from "../lib/document";
import { mass } from "../lib/figures";
import { useDesign } from "../state/design";
import { useFits } from "../state/hardware";
import { NewPartForm, useDraftedOperation } from "./NewPart";

export function HangDraft({ part, on }: { part?: string; on?: string }) {
  const doc = useDesign((s) => s.doc)!;
  const boards = ordered(doc.parts).filter(([, p]) => isPlate(p) && !p.out);
  const is = (key?: string) => (boards.some(([k]) => k === key) ? key! : "");
  const [moves, setMoves] = useState(is(part));
  const [holds, setHolds] = useState(is(on));
  const [designation, setDesignation] = useState("");
  const [way, setWay] = useState("");
  const [number, setNumber] = useState(2);
  const { found, fault: unfit, asking } = useFits(moves, holds);
  const chosen = found.find((f) => f.designation === designation) ?? found[0];
  const how = chosen?.ways.includes(way) ? way : (chosen?.ways[0] ?? "");
  const { fault, add } = useDraftedOperation(
    chosen ? { operation: "hang", designation: chosen.designation, part: moves, on: holds, number, way: how } : null,
  );
  const told = fault || unfit;
  return (
    <NewPartForm title="Hinges or a slide" words="Hang it" fault={told} onAdd={add}>
      <section>
        <BoardField label="What moves" doc={doc} value={moves} onSave={setMoves} without={holds} />
        <BoardField label="It hangs on" doc={doc} value={holds} onSave={setHolds} without={moves} />
      </section>
      {chosen && (
        <section>
          <h3>What fits there</h3>
          <ChoiceField
            label="Piece"
            value={chosen.designation}
            data={found.map((f) => ({ value: f.designation, label: f.name }))}
            onSave={setDesignation}
          />
          <div className="soft" style={{ fontSize: 12 }}>
            It {chosen.moves}. {mass(chosen.mass)} each; {chosen.source}.
          </div>
          {chosen.ways.length > 1 && (
            <ChoiceField
              label="Lies"
              value={how}
              data={chosen.ways.map((w) => ({ value: w, label: plain(w) }))}
              onSave={setWay}
            />
          )}
          {chosen.ways.length === 1 && <div className="soft">{plain(how)}.</div>}
          {chosen.hinge && (
            <div className="entry">
              <label htmlFor="how-many-hinges">How many</label>
              <NumberInput
                id="how-many-hinges"
                value={number}
                min={1}
                max={12}
                clampBehavior="strict"
                onChange={(n) => setNumber(Math.max(1, Number(n) || 1))}
                onKeyDown={(e) => e.stopPropagation()}
              />
            </div>
          )}
        </section>
      )}
      {moves && holds && moves !== holds && !chosen && !asking && !told && (
        <p className="soft" role="status">
          No hinge and no slide of the catalogue fits between them as they stand. A hinge wants a face of each beside the
          other&apos;s, wide enough for its leaves; a slide wants its own width between two faces.
        </p>
      )}
    </NewPartForm>
  );
}

/** The core's words with names as the screen has them. */
function plain(way: string): string {
  const words = way.replaceAll("_", " ").replace(/(\w[\w ]*)\.(\w+)/g, "$1's $2");
  return words[0].toUpperCase() + words.slice(1);
}

type FieldProps = { label: string; doc: Doc; value: string; without: string; onSave: (key: string) => void };

function BoardField({ label, doc, value, without, onSave }: FieldProps) {
  const data = ordered(doc.parts)
    .filter(([k, p]) => isPlate(p) && !p.out && k !== without)
    .map(([k, p]) => ({ value: k, label: p.name.replaceAll("_", " ") }));
  return (
    <ChoiceField
      label={label}
      value={value}
      data={[...(value ? [] : [{ value: "", label: "choose a part" }]), ...data]}
      onSave={onSave}
    />
  );
}
