// Hardware that lies by itself, on its card: what it is and how it moves, where it lies and is let in, its holes, and a newer file of it.
import { Button } from "@mantine/core";
import { useRef, useState } from "react";
import { said } from "../api/client";
import { EntryField } from "../fields/EntryField";
import { ChoiceField, NumberField } from "../fields/PlainField";
import { AXES, AXIS_WORDS, type Axis, FACES, type Lying, pointer } from "../lib/document";
import { length } from "../lib/figures";
import { useDesign, useShown } from "../state/design";
import { readSolid } from "../state/files";
import { type Operation, operate } from "../state/operations";
import { useView } from "../state/view";

type Of = { partKey: string; lying: Lying };
const MADE = { bought: "bought", turned: "turned", printed: "printed" };
const WAYS = ["+x", "-x", "+y", "-y", "+z", "-z"] as const;
/** A way in words: to the right, to the front, up. */
const TOWARD: Record<string, string> = { "+x": "right", "-x": "left", "+y": "back", "-y": "front", "+z": "up", "-z": "down" };

export function LyingMaking({ partKey, lying }: Of) {
  const doc = useDesign((s) => s.doc)!;
  const commit = useDesign((s) => s.commit);
  const told = useShown()!.built.parts.find((p) => p.key === partKey)?.hardware;
  const p = (field: string) => pointer("parts", partKey, field);
  return (
    <>
      {told && (
        <div style={{ margin: "4px 0" }} data-testid="lying">
          <b>{told.name || `From ${told.source}`}</b>
          <div className="soft">
            {told.name && `${told.source}. `}
            {told.moves && `It ${told.moves}${told.moved ? `; ${told.moved} here` : ""}. `}
            {told.solids > 1 && `${told.solids} solids, one thing that is bought.`}
          </div>
        </div>
      )}
      {!lying.designation && (
        <ChoiceField
          label="Made"
          value={lying.made}
          data={Object.entries(MADE).map(([value, label]) => ({ value, label }))}
          onSave={(v) => void commit(`${lying.name}: ${v}`, [{ op: "add", path: p("made"), value: v }])}
        />
      )}
      <NumberField
        label="Price of one"
        value={lying.price}
        path={p("price")}
        edit={`${lying.name}, price`}
        suffix={` ${doc.currency}`}
        step={0.1}
      />
    </>
  );
}

export function LyingPlace({ partKey, lying }: Of) {
  const commit = useDesign((s) => s.commit);
  const told = useShown()!.built.parts.find((p) => p.key === partKey)?.hardware;
  const base = ["parts", partKey];
  const set = (field: string, value: unknown, words: string) =>
    void commit(`${lying.name}: ${words}`, [{ op: "add", path: pointer(...base, field), value }]);
  const named = (axis: Axis) => [
    { value: "origin", label: "its origin" },
    ...FACES[axis].map((f) => ({ value: f as string, label: `its ${f}` })),
    { value: "centre", label: "its middle" },
    ...(told?.places ?? [])
      .filter((n) => n !== "origin")
      .map((n) => ({ value: n, label: n.replace(/^lies_/, "its leaf ").replaceAll("_", " ") })),
  ];
  const across = WAYS.filter((w) => w[1] !== lying.looks[1]);
  return (
    <section aria-label="Where it lies">
      <h3>Where it lies</h3>
      {AXES.map((axis) => (
        <div key={axis}>
          <ChoiceField
            label={`${AXIS_WORDS[axis]}, by`}
            value={lying.by?.[axis] ?? "origin"}
            data={named(axis)}
            onSave={(v) => set("by", { ...lying.by, [axis]: v }, `lies by its ${v}`)}
          />
          <EntryField path={pointer(...base, "at", axis)} label="at" axis={axis} edit={`${lying.name} ${AXIS_WORDS[axis]}`} />
        </div>
      ))}
      <ChoiceField
        label="It looks"
        value={lying.looks}
        data={WAYS.map((w) => ({ value: w as string, label: TOWARD[w] }))}
        onSave={(w) => {
          const along = w[1] === lying.along[1] ? WAYS.find((x) => x[1] !== w[1])! : lying.along;
          void commit(`${lying.name}: looks ${TOWARD[w]}`, [
            { op: "add", path: pointer(...base, "along"), value: along },
            { op: "add", path: pointer(...base, "looks"), value: w },
          ]);
        }}
      />
      <ChoiceField
        label="It lies along"
        value={lying.along}
        data={across.map((w) => ({ value: w as string, label: TOWARD[w] }))}
        onSave={(w) => set("along", w, `lies along ${TOWARD[w]}`)}
      />
      {lying.moved && told && (
        <EntryField
          path={pointer(...base, "moved")}
          label={told.turns ? "Open" : "Drawn out"}
          kind={told.turns ? "angle" : "length"}
          edit={`${lying.name}, ${told.turns ? "open" : "drawn out"}`}
        />
      )}
      {lying.let_in && <EntryField path={pointer(...base, "let_in")} label="Let in" edit={`${lying.name}, let in`} />}
      {lying.let_in && told?.round && lying.fit && (
        <EntryField path={pointer(...base, "fit")} label="Room wider by" edit={`${lying.name}, its fit`} />
      )}
    </section>
  );
}

export function LyingHoles({ partKey, lying }: Of) {
  const { built, doc } = useShown()!;
  const { select } = useView.getState();
  const [fault, setFault] = useState("");
  const file = useRef<HTMLInputElement>(null);
  const told = built.parts.find((p) => p.key === partKey)?.hardware;
  if (!told) return null;
  const free = told.holes.filter((h) => !h.bore).length;
  const bores = [...new Set(told.holes.map((h) => h.bore).filter(Boolean))];
  async function newer(chosen: File) {
    setFault("");
    try {
      const shape = (await readSolid(chosen)) as Extract<Operation, { operation: "replace_shape" }>["shape"];
      setFault(await operate({ operation: "replace_shape", part: partKey, shape }));
    } catch (error) {
      setFault(said(error));
    }
  }
  return (
    <section aria-label="Holes">
      {told.holes.length > 0 && (
        <>
          <h3>
            <span>Holes</span>
            {free > 0 && (
              <Button size="compact-xs" onClick={async () => setFault(await operate({ operation: "take_holes", part: partKey }))}>
                Go on into what it lies on
              </Button>
            )}
          </h3>
          {told.holes.map((h) => (
            <div key={h.name} className="row" style={{ gap: 6 }}>
              <span className="grow">{h.name.replaceAll("_", " ")}</span>
              <span className="figure">⌀ {length(h.across, doc.display)}</span>
            </div>
          ))}
          {bores.map((key) => (
            <button key={key} type="button" className="linkrow" onClick={() => select({ kind: "bore", key })}>
              <span className="grow clip">{doc.bores[key]?.name.replaceAll("_", " ")}</span>
              <span className="soft">its screws</span>
            </button>
          ))}
        </>
      )}
      {lying.shape && (
        <>
          <Button size="compact-xs" mt={6} onClick={() => file.current?.click()}>
            A newer file of it…
          </Button>
          <input
            ref={file}
            type="file"
            accept=".step,.stp,.stl,.3mf,.glb,.obj,.ply"
            aria-label={`Newer file of ${lying.name}`}
            hidden
            onChange={(e) => {
              const chosen = e.currentTarget.files?.[0];
              e.currentTarget.value = "";
              if (chosen) void newer(chosen);
            }}
          />
        </>
      )}
      {fault && (
        <div className="error" role="alert">
          {fault}
        </div>
      )}
    </section>
  );
}
