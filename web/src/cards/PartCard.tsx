// The card of a part: where it sits, what it is cut from, its joints, features and problems.

import { ActionIcon, Button, Tooltip } from "@mantine/core";
import { IconBoxMultiple, IconEye, IconEyeOff, IconTrash } from "@tabler/icons-react";
import { useState } from "react";
import type { PartOut } from "../api/types";
import { EntryField } from "../fields/EntryField";
import { ChoiceField, NumberField, TextField } from "../fields/PlainField";
import {
  type Axis,
  acrossMark,
  FACES,
  FRAME,
  freshKey,
  type Item,
  isBought,
  isFramed,
  isLength,
  isPlaced,
  isPlate,
  ordered,
  originalOf,
  type Part,
  type Plane,
  type PlatePart,
  pointer,
  sheetOf,
  sheetsOf,
  within,
} from "../lib/document";
import { length, lengths, mass } from "../lib/figures";
import { becomes } from "../lib/kinds";
import { id } from "../lib/owner";
import { fresh, typed, useDesign, useShown } from "../state/design";
import { useFeatureWord, useJointWord } from "../state/forms";
import { operate } from "../state/operations";
import { useView } from "../state/view";
import { ConnectorMaking, ConnectorPlace } from "./ConnectorSection";
import { CopyList } from "./CopyList";
import { removeSelected } from "./edits";
import { FoldingSection } from "./FoldingSection";
import { LetThrough } from "./LetThrough";
import { LyingHoles, LyingMaking, LyingPlace } from "./LyingSection";
import { MemberPlace } from "./MemberSection";
import { OutlineSection } from "./OutlineSection";
import { ProblemSection } from "./Problem";
import { BarField, RodPlace, RodStock } from "./RodSection";
import { SpanFigure } from "./SpanFigure";
import { TurnedMaking, TurnedSteps } from "./TurnedSection";
import { TurnSection } from "./TurnSection";

export function PartCard({ partKey, face }: { partKey: string; face?: string }) {
  const shown = useShown()!;
  const doc = useDesign((s) => s.doc)!;
  const commit = useDesign((s) => s.commit);
  const [nameFault, setNameFault] = useState("");
  const record = doc.parts[partKey];
  const part = shown.built.parts.find((p) => p.key === partKey);
  if (record && !part) return <LeftOut partKey={partKey} />;
  if (!record || !part) return <p className="soft">This part is gone.</p>;
  const problems = shown.built.problems.filter((p) => originalOf(p.part) === partKey || originalOf(p.other) === partKey);

  return (
    <>
      <PartTools partKey={partKey} record={record} />
      <PartSizes record={record} part={part} />
      {part.note && <div className="warn">{part.note}</div>}
      {face && <div className="soft">Picked: its {face.replace("face_", "face ")}</div>}
      <section>
        <h3>Part</h3>
        <TextField
          label="Name"
          value={record.name}
          onSave={async (name) => setNameFault(await operate({ operation: "rename", group: "parts", key: partKey, name }))}
          maxLength={40}
        />
        {nameFault && <div className="entry error">{nameFault}</div>}
        <TextField
          label="Note"
          value={record.note ?? ""}
          maxLength={200}
          onSave={(note) =>
            void commit(`${record.name}: note`, [{ op: "add", path: pointer("parts", partKey, "note"), value: note }])
          }
        />
        <NumberField
          label="Pieces"
          value={record.quantity}
          path={pointer("parts", partKey, "quantity")}
          edit={`${record.name}, pieces`}
          min={1}
          max={500}
        />
        {Object.keys(doc.groups).length > 0 && !isFramed(record) && (
          <ChoiceField
            label="Group"
            value={record.group || "none"}
            data={[
              { value: "none", label: "none" },
              ...ordered(doc.groups).map(([value, g]) => ({ value, label: g.name.replaceAll("_", " ") })),
            ]}
            onSave={(v) =>
              void commit(`${record.name}: group ${v}`, [
                { op: "add", path: pointer("parts", partKey, "group"), value: v === "none" ? "" : v },
              ])
            }
          />
        )}
        {isPlate(record) ? (
          <Making partKey={partKey} board={record} />
        ) : record.kind === "member" ? (
          <BarField partKey={partKey} part={record} label="Bar or tube" />
        ) : record.kind === "connector" ? (
          <ConnectorMaking partKey={partKey} connector={record} />
        ) : record.kind === "hardware" ? (
          <LyingMaking partKey={partKey} lying={record} />
        ) : record.kind === "turned" ? (
          <TurnedMaking partKey={partKey} turned={record} />
        ) : isPlaced(record) ? (
          <RodStock partKey={partKey} rod={record} />
        ) : (
          <Bought partKey={partKey} item={record} />
        )}
      </section>
      {isPlaced(record) && (
        <>
          {record.kind === "member" ? (
            <MemberPlace partKey={partKey} member={record} />
          ) : record.kind === "connector" ? (
            <ConnectorPlace partKey={partKey} connector={record} />
          ) : isPlate(record) ? (
            <Place partKey={partKey} board={record} />
          ) : record.kind === "hardware" ? (
            <>
              <LyingPlace partKey={partKey} lying={record} />
              <LyingHoles partKey={partKey} lying={record} />
            </>
          ) : record.kind === "turned" ? (
            <>
              <TurnedSteps partKey={partKey} turned={record} />
              <RodPlace partKey={partKey} rod={record} />
              <LetThrough partKey={partKey} />
            </>
          ) : (
            <>
              <RodPlace partKey={partKey} rod={record} />
              <LetThrough partKey={partKey} />
            </>
          )}
          {!isFramed(record) && <TurnSection base={["parts", partKey]} name={record.name} turns={record.turns ?? {}} />}
          {isPlate(record) && (
            <>
              <OutlineSection partKey={partKey} board={record} />
              <FoldingSection partKey={partKey} board={record} />
            </>
          )}
          <CopyList copies={ordered(doc.copies).filter(([, c]) => c.of.includes(id.part(partKey)))} />
          {isPlate(record) && <JointsAndFeatures partKey={partKey} board={record} />}
        </>
      )}
      <ProblemSection problems={problems} />
      {isPlaced(record) && <PartActions partKey={partKey} record={record} />}
    </>
  );
}

type Of = { partKey: string; record: Part };

/** Its name, and what is done with it as it stands: seen through, hidden, removed. */
function PartTools({ partKey, record }: Of) {
  const view = useView();
  return (
    <div className="row">
      <h2 className="grow">{record.name.replaceAll("_", " ")}</h2>
      {isPlaced(record) && (
        <>
          <Tooltip label={view.glass[partKey] ? "Solid again" : "See through"}>
            <ActionIcon aria-label="See through" onClick={() => view.toggleGlass(partKey)}>
              <IconBoxMultiple size={17} stroke={view.glass[partKey] ? 2.4 : 1.5} />
            </ActionIcon>
          </Tooltip>
          <Tooltip label={view.hidden[partKey] ? "Show" : "Hide"}>
            <ActionIcon aria-label={view.hidden[partKey] ? "Show" : "Hide"} onClick={() => view.toggleHidden(partKey)}>
              {view.hidden[partKey] ? <IconEyeOff size={17} /> : <IconEye size={17} />}
            </ActionIcon>
          </Tooltip>
        </>
      )}
      <Tooltip label="Remove">
        <ActionIcon aria-label="Remove part" onClick={() => void removeSelected({ kind: "part", key: partKey })}>
          <IconTrash size={17} />
        </ActionIcon>
      </Tooltip>
    </div>
  );
}

/** What it measures, bent and flat, its mass, and the thickness that its stock really has. */
function PartSizes({ record, part }: { record: Part; part: PartOut }) {
  const doc = useDesign((s) => s.doc)!;
  const folded = isPlate(record) && Boolean(record.folding);
  return (
    <>
      <div className="soft">
        {part.length !== null && part.width !== null && part.thickness !== null ? (
          <>
            {folded && part.low && part.high && (
              <div>
                folded{" "}
                <span className="figure">
                  {lengths(
                    part.high.map((h, i) => h - part.low![i]),
                    doc.display,
                  )}
                </span>
              </div>
            )}
            {folded && "flat "}
            <span className="figure">{lengths([part.length, part.width, part.thickness], doc.display)}</span>
          </>
        ) : part.length !== null && part.thickness !== null ? (
          <span className="figure">
            {acrossMark(doc, record.kind === "item" ? "" : record.stock)}
            {lengths([part.thickness], doc.display)} × {lengths([part.length], doc.display)}
          </span>
        ) : part.stale ? (
          <span className="error">cannot be built as it is written</span>
        ) : (
          part.made
        )}
        {part.mass !== null && !folded && <span className="figure"> · {mass(part.mass)}</span>}
        {/* both sizes of what is folded fill their lines */}
        {part.mass !== null && folded && <div className="figure">{mass(part.mass)}</div>}
      </div>
      {part.nominal != null && part.measured != null && (
        <div className="soft">
          {isLength(record) ? "Across" : "Thickness"}: nominal{" "}
          <span className="figure">{lengths([part.nominal], doc.display)}</span>, measured{" "}
          <span className="figure">{lengths([part.measured], doc.display)}</span>
        </div>
      )}
    </>
  );
}

/** What can be begun from it. */
function PartActions({ partKey, record }: Of) {
  const shown = useShown()!;
  const doc = useDesign((s) => s.doc)!;
  const commit = useDesign((s) => s.commit);
  const view = useView();

  function copy() {
    const key = freshKey(doc.parts, record.name);
    const taken = new Set(Object.values(doc.parts).map((p) => p.name));
    let name = `${record.name}_2`;
    for (let n = 3; taken.has(name); n++) name = `${record.name}_${n}`;
    const order = Math.max(...Object.values(doc.parts).map((p) => p.order)) + 1;
    void commit(`Copy ${record.name}`, [{ op: "add", path: pointer("parts", key), value: { ...record, name, order } }]).then(
      (fine) => fine && view.select({ kind: "part", key }),
    );
  }

  return (
    <section className="row" style={{ flexWrap: "wrap" }}>
      {record.kind === "member" && <Button onClick={() => view.setDraft({ kind: "joint", a: partKey })}>Join to…</Button>}
      {isPlate(record) && (
        <>
          <Button onClick={() => view.setDraft({ kind: "feature", part: partKey })}>Add a hole or mark</Button>
          <Button onClick={() => view.setDraft({ kind: "joint", a: partKey })}>Join to…</Button>
        </>
      )}
      <Button onClick={() => view.setDraft({ kind: "copy", way: "mirror", of: [id.part(partKey)] })}>Mirror</Button>
      <Button onClick={() => view.setDraft({ kind: "copy", way: "row", of: [id.part(partKey)] })}>Repeat</Button>
      {!isFramed(record) && (
        <Tooltip label="A new part with the same entries, which does not follow">
          <Button onClick={copy}>Draw again</Button>
        </Tooltip>
      )}
      <Button
        onClick={() =>
          view.isolate(
            [partKey],
            shown.built.parts.map((p) => p.key),
          )
        }
      >
        Show only this
      </Button>
      <Button onClick={() => void leaveOut(partKey, record.name, true)}>Leave out</Button>
    </section>
  );
}

function leaveOut(partKey: string, name: string, out: boolean) {
  return useDesign
    .getState()
    .commit(`${name}: ${out ? "left out" : "back in"}`, [{ op: "add", path: pointer("parts", partKey, "out"), value: out }]);
}

/** A part that is left out: it waits with all its entries. */
function LeftOut({ partKey }: { partKey: string }) {
  const doc = useDesign((s) => s.doc)!;
  const record = doc.parts[partKey];
  const group = within(doc, record.group).find((g) => doc.groups[g].out);
  return (
    <>
      <h2>{record.name.replaceAll("_", " ")}</h2>
      <p className="soft">
        {group
          ? `Left out with its group ${doc.groups[group].name.replaceAll("_", " ")}.`
          : "Left out of the design; its entries are kept."}
      </p>
      {!group && (
        <Button variant="filled" onClick={() => void leaveOut(partKey, record.name, false)}>
          Take it back
        </Button>
      )}
    </>
  );
}

/** How a part may be made, by its kind. */
const MADE = {
  folded: [
    { value: "bent", label: "cut and bent here" },
    { value: "bought", label: "bought" },
  ],
  other: [
    { value: "cut", label: "cut here" },
    { value: "bought", label: "bought" },
    { value: "turned", label: "turned" },
    { value: "printed", label: "printed" },
  ],
};

function Making({ partKey, board }: { partKey: string; board: PlatePart }) {
  const doc = useDesign((s) => s.doc)!;
  const commit = useDesign((s) => s.commit);
  const set = (field: string, words: string) => (value: string) =>
    void commit(`${board.name}: ${words} ${value}`, [{ op: "add", path: pointer("parts", partKey, field), value }]);
  const frame = FRAME[board.plane];
  const part = useShown()!.built.parts.find((p) => p.key === partKey)!;
  const bought = isBought(board);
  const madeAs = (made: string) => {
    const say = [{ op: "add", path: pointer("parts", partKey, "made"), value: made }];
    if (board.kind === "folded" || (board.kind === "bought" && made !== "cut")) return say;
    // what is cut here is as thick as its stock, and of one
    const stock = board.stock || sheetsOf(doc)[0]?.[0] || "";
    return made === "cut" ? becomes(partKey, board, "board", { stock }) : becomes(partKey, board, "bought", { made });
  };
  return (
    <>
      <ChoiceField
        label="Stock"
        value={board.stock || "none"}
        data={[
          ...(board.kind === "bought" ? [{ value: "none", label: "none of these" }] : []),
          ...sheetsOf(doc).map(([value, s]) => ({ value, label: s.name })),
        ]}
        onSave={(v) => {
          const stock = v === "none" ? "" : v;
          void commit(`${board.name}: ${doc.stocks[stock]?.name ?? "of no stock"}`, [
            { op: "replace", path: pointer("parts", partKey, "stock"), value: stock },
          ]);
        }}
      />
      <ChoiceField
        label="Made"
        value={part.made}
        data={board.kind === "folded" ? MADE.folded : MADE.other}
        onSave={(v) => void commit(`${board.name}: ${v}`, madeAs(v))}
      />
      {board.kind === "bought" && (
        <EntryField
          path={pointer("parts", partKey, "deep")}
          label="Own thickness"
          optional={Boolean(board.stock)}
          placeholder="as its stock"
          edit={`${board.name}, its own thickness`}
        />
      )}
      {board.kind !== "board" && bought && (
        <NumberField
          label={`Price, ${doc.currency}`}
          value={board.price}
          path={pointer("parts", partKey, "price")}
          edit={`${board.name}, price`}
          step={0.5}
        />
      )}
      {sheetOf(doc, board.stock)?.grain === "along" && (
        <ChoiceField
          label="Grain runs"
          value={board.grain}
          onSave={set("grain", "grain")}
          data={[
            { value: "free", label: "any way" },
            { value: "u", label: `${FACES[frame.u][0]} to ${FACES[frame.u][1]}` },
            { value: "v", label: `${FACES[frame.v][0]} to ${FACES[frame.v][1]}` },
          ]}
        />
      )}
      {part.face_a && (
        <ChoiceField
          label="Lies up"
          value={board.up}
          onSave={set("up", "lies up with")}
          data={[
            { value: "a", label: `its ${part.face_a}` },
            { value: "b", label: `its ${part.face_b}` },
          ]}
        />
      )}
    </>
  );
}

function Bought({ partKey, item }: { partKey: string; item: Item }) {
  const doc = useDesign((s) => s.doc)!;
  return (
    <NumberField
      label={`Price, ${doc.currency}`}
      value={item.price}
      path={pointer("parts", partKey, "price")}
      edit={`${item.name}, price`}
      step={0.1}
    />
  );
}

function Place({ partKey, board }: { partKey: string; board: PlatePart }) {
  const commit = useDesign((s) => s.commit);
  const frame = FRAME[board.plane];
  const base = ["parts", partKey];
  const turned = (plane: Plane) => {
    const next = FRAME[plane];
    const old: Record<string, { low: unknown; high: unknown }> = {
      ...(board.spans as Record<string, { low: unknown; high: unknown }>),
    };
    // the axis that was across becomes a span as thick as before; the one that is across now keeps its low end
    const zero = { low: typed("0"), high: fresh("100 mm") };
    const spans = Object.fromEntries([next.u, next.v].map((a) => [a, old[a] ?? zero]));
    const at = (old[next.normal]?.low as object | undefined) ?? board.position.at;
    void commit(`${board.name}: ${next.words}`, [
      { op: "replace", path: pointer(...base, "plane"), value: plane },
      { op: "replace", path: pointer(...base, "spans"), value: spans },
      { op: "replace", path: pointer(...base, "position"), value: { face: FACES[next.normal][0], at } },
    ]);
  };
  const span = (axis: Axis) => (
    <div key={axis}>
      {(["low", "high"] as const).map((side, i) => (
        <EntryField
          key={side}
          path={pointer(...base, "spans", axis, side)}
          label={i ? `to ${FACES[axis][1]}` : `${FACES[axis][0]} from`}
          axis={axis}
          edit={`${board.name}.${FACES[axis][i]}`}
        />
      ))}
    </div>
  );
  const normal = FACES[frame.normal];
  return (
    <section>
      <h3>Where it runs</h3>
      <SpanFigure partKey={partKey} />
      <ChoiceField
        label="Stands"
        value={board.plane}
        data={(Object.keys(FRAME) as Plane[]).map((p) => ({ value: p, label: FRAME[p].words }))}
        onSave={(p) => turned(p as Plane)}
      />
      {span(frame.u)}
      {span(frame.v)}
      <ChoiceField
        label="Set by its"
        value={board.position.face}
        data={[...normal, "centre"].map((f) => ({ value: f, label: f === "centre" ? "centre" : `${f} face` }))}
        onSave={(f) =>
          void commit(`${board.name}: set by its ${f}`, [{ op: "replace", path: pointer(...base, "position", "face"), value: f }])
        }
      />
      <EntryField
        path={pointer(...base, "position", "at")}
        label={`${board.position.face} at`}
        axis={frame.normal}
        edit={`${board.name}.${board.position.face}`}
      />
    </section>
  );
}

function JointsAndFeatures({ partKey, board }: { partKey: string; board: PlatePart }) {
  const word = useJointWord();
  const featureWord = useFeatureWord();
  const shown = useShown()!;
  const view = useView();
  const doc = shown.doc;
  const joints = shown.built.joints.filter((j) => originalOf(j.a) === partKey || originalOf(j.b) === partKey);
  const waiting = Object.entries(doc.joints).filter(
    ([k, j]) => [j.a, j.b].map(originalOf).includes(partKey) && !shown.built.joints.some((b) => b.key === k),
  );
  const bores = Object.entries(doc.bores).filter(([, b]) => b.parts[partKey] && b.parts[partKey].action !== "leave");
  return (
    <>
      <section>
        <h3>Joints</h3>
        {joints.length + waiting.length === 0 && <div className="soft">None yet.</div>}
        {waiting.map(([k, j]) => (
          <button type="button" className="linkrow leftout" key={k} onClick={() => view.select({ kind: "joint", key: k })}>
            <span className="grow clip title">{word(j.kind)}</span>
            <span className="soft">left out</span>
          </button>
        ))}
        {joints.map((j) => (
          <button
            type="button"
            className="linkrow"
            key={j.key}
            onClick={() => view.select({ kind: "joint", key: j.key })}
            onMouseEnter={() => view.point(j.a === partKey ? j.b : j.a)}
            onMouseLeave={() => view.point("")}
          >
            <span className="swatch" style={{ background: "var(--joint)" }} />
            <span className="grow clip">
              {word(j.kind)}, {shown.built.parts.find((p) => p.key === (j.a === partKey ? j.b : j.a))?.path.replaceAll("_", " ")}
            </span>
            {j.refused ? (
              <span className="error">refused</span>
            ) : (
              <span className="figure soft">fit {length(j.fit, doc.display)}</span>
            )}
          </button>
        ))}
      </section>
      <section>
        <h3>Holes and marks</h3>
        {Object.keys(board.features ?? {}).length + bores.length === 0 && <div className="soft">None yet.</div>}
        {ordered(board.features ?? {}).map(([key, f]) => (
          <button
            type="button"
            className={`linkrow ${f.out ? "leftout" : ""}`}
            key={key}
            onClick={() => view.select({ kind: "feature", part: partKey, key })}
          >
            <span className="swatch" style={{ background: f.kind.startsWith("mark") ? "var(--mark)" : "var(--cut-inside)" }} />
            <span className="grow clip title">{f.name || featureWord(f.kind)}</span>
            <span className="soft">{featureWord(f.kind).toLowerCase()}</span>
          </button>
        ))}
        {bores.map(([key, b]) => (
          <button type="button" className="linkrow" key={key} onClick={() => view.select({ kind: "bore", key })}>
            <span className="swatch" style={{ background: "var(--cut-inside)" }} />
            <span className="grow clip">{b.name.replaceAll("_", " ")}</span>
            <span className="soft">bore, {b.parts[partKey].action === "cut" ? "cut" : "marked"}</span>
          </button>
        ))}
      </section>
    </>
  );
}
