// The card of a copy: its plane or its numbers, its parts with names of their own, what single copies do without.
import { Button, Switch, Tooltip } from "@mantine/core";
import { useState } from "react";
import { EntryField } from "../fields/EntryField";
import { TextField } from "../fields/PlainField";
import { PartChips } from "../frame/PartChips";
import { AXIS_WORDS, type Axis, type PlatePart, pointer } from "../lib/document";
import { lengths, mass, plural } from "../lib/figures";
import { id } from "../lib/owner";
import { useDesign, useShown } from "../state/design";
import { formOf, useFeatureWord, useForms, useJointWord } from "../state/forms";
import { operate } from "../state/operations";
import { words } from "../state/shape";
import { useView } from "../state/view";
import { CardHead } from "./CardHead";
import { ofWords, waysTaken } from "./copyFields";
import { OutSwitch } from "./OutSwitch";
import { ProblemSection } from "./Problem";
import { RecordForm } from "./RecordForm";

export function CopyCard({ copyKey }: { copyKey: string }) {
  const shown = useShown()!;
  const doc = useDesign((s) => s.doc)!;
  const { commit } = useDesign.getState();
  const view = useView();
  const [fault, setFault] = useState("");
  const copy = doc.copies[copyKey];
  const form = formOf(useForms().copies, copy?.kind ?? "");
  if (!copy) return <p className="soft">This copy is gone.</p>;
  const base = ["copies", copyKey];
  const made = shown.built.parts.filter((p) => p.made_by.some(([c]) => c === copyKey));
  const problems = shown.built.problems.filter((p) => p.owner === id.copy(copyKey));
  const common = { path: base, record: { ...copy }, title: copy.name };
  const set = (field: string, label: string, value: unknown) =>
    void commit(`${copy.name}: ${label}`, [{ op: "add", path: pointer(...base, field), value }]);
  return (
    <>
      <CardHead
        title={copy.name}
        remove="Remove copy"
        onRemove={() => {
          view.select(null);
          void operate({ operation: "remove_copy", key: copyKey });
        }}
      />
      <div className="soft">
        {form?.title ?? copy.kind} of {ofWords(doc, copy.of)} · {plural(made.length, "copy", "copies")}, in step with the original
      </div>
      <section>
        <h3>Entries</h3>
        <TextField label="Name" value={copy.name} maxLength={40} onSave={(name) => name && set("name", name, name)} />
        {form && <RecordForm {...common} form={form} without={waysTaken(common.record)} />}
        {copy.kind === "mirror" && (
          <EntryField path={pointer(...base, "at")} label="Plane at" axis={copy.axis} edit={`${copy.name}, plane`} />
        )}
        {copy.kind === "ring" &&
          Object.keys(copy.at as object).map((a) => (
            <EntryField
              key={a}
              path={pointer(...base, "at", a)}
              label={`Line at, ${AXIS_WORDS[a as Axis]}`}
              axis={a as Axis}
              edit={`${copy.name}, line`}
            />
          ))}
        {form && copy.kind === "row" && <RecordForm {...common} form={form} section={copy.length ? "fill" : "number"} />}
        <OutSwitch path={pointer(...base)} name={copy.name} out={copy.out} />
      </section>
      {copy.kind === "mirror" && (
        <section>
          <h3>Handed parts</h3>
          {Object.entries(copy.names ?? {}).map(([part, name]) => (
            <TextField
              key={part}
              label={words(doc.parts[part]?.name ?? part)}
              value={name}
              maxLength={40}
              onSave={async (next) =>
                setFault(await operate({ operation: "rename", group: "handed", key: `${copyKey}:${part}`, name: next }))
              }
            />
          ))}
          {fault && <div className="error">{fault}</div>}
          <div className="soft" style={{ fontSize: 12 }}>
            Its faces are named as they stand: the left face of a mirrored part is the one on its left.
          </div>
        </section>
      )}
      <section>
        <h3>Copies</h3>
        <PartChips keys={made.map((p) => p.key)} onPress={(key) => view.select({ kind: "part", key })} />
      </section>
      <ProblemSection problems={problems} />
      <section className="row" style={{ flexWrap: "wrap" }}>
        <Button onClick={() => view.setDraft({ kind: "copy", way: "mirror", of: [id.copy(copyKey)] })}>Mirror these</Button>
        <Button onClick={() => view.setDraft({ kind: "copy", way: "row", of: [id.copy(copyKey)] })}>Repeat these</Button>
        <Tooltip label="Boards of their own, with their own entries; they no longer follow">
          <Button
            onClick={async () => {
              const said = await operate({ operation: "independent", key: copyKey });
              setFault(said);
              if (!said) view.select(null);
            }}
          >
            Make independent
          </Button>
        </Tooltip>
      </section>
      {fault && copy.kind !== "mirror" && <div className="error">{fault}</div>}
    </>
  );
}

/** The card of one copy of a part: whose copy it is, and which features and joints it does without. */
export function InstanceCard({ instance }: { instance: string }) {
  const shown = useShown()!;
  const doc = useDesign((s) => s.doc)!;
  const { commit } = useDesign.getState();
  const view = useView();
  const word = useJointWord();
  const featureWord = useFeatureWord();
  const part = shown.built.parts.find((p) => p.key === instance);
  if (!part) return <p className="soft">This copy is gone.</p>;
  const board = doc.parts[part.of] as PlatePart | undefined;
  const copyKey = String(part.made_by[part.made_by.length - 1][0]);
  const copy = doc.copies[copyKey];
  if (!board || !copy) return <p className="soft">This copy is gone.</p>;
  const joints = Object.entries(doc.joints).filter(([, j]) => j.a.split("@")[0] === part.of || j.b.split("@")[0] === part.of);
  const owners: [string, string][] = [
    ...Object.entries(board.features ?? {}).map(
      ([k, f]) => [id.feature(part.of, k), f.name || featureWord(f.kind)] as [string, string],
    ),
    ...joints.map(
      ([k, j]) =>
        [id.joint(k), `${word(j.kind)}, ${words(doc.parts[(j.a === part.of ? j.b : j.a).split("@")[0]]?.name ?? "")}`] as [
          string,
          string,
        ],
    ),
    ...Object.entries(doc.bores)
      .filter(([, b]) => part.of in b.parts)
      .map(([k, b]) => [id.bore(k), words(b.name)] as [string, string]),
  ];
  // what it is a copy of may do without it already
  const before = instance
    .split("@")
    .slice(0, -1)
    .map((_, n, steps) => steps.slice(0, n + 1).join("@"));
  const inherited = (owner: string) =>
    part.made_by.some(([c]) => doc.copies[String(c)]?.spared?.[owner]?.some((k) => before.includes(k)));
  const spare = (owner: string, off: boolean) => {
    const now = copy.spared?.[owner] ?? [];
    const next = off ? [...now, instance] : now.filter((x) => x !== instance);
    void commit(`${words(part.path)}: ${off ? "without" : "with"} ${owners.find(([o]) => o === owner)?.[1] ?? "it"}`, [
      next.length
        ? { op: "add", path: pointer("copies", copyKey, "spared", owner), value: next }
        : { op: "remove", path: pointer("copies", copyKey, "spared", owner) },
    ]);
  };
  return (
    <>
      <h2>{words(part.path)}</h2>
      <div className="soft">
        {part.handed < 0 ? "Mirror image" : "Copy"} of{" "}
        <button
          type="button"
          className="linkrow"
          style={{ display: "inline", width: "auto", padding: 0, textDecoration: "underline" }}
          onClick={() => view.select({ kind: "part", key: part.of })}
        >
          {words(board.name)}
        </button>
        , made by{" "}
        <button
          type="button"
          className="linkrow"
          style={{ display: "inline", width: "auto", padding: 0, textDecoration: "underline" }}
          onClick={() => view.select({ kind: "copy", key: copyKey })}
        >
          {copy.name}
        </button>
        . It stays in step; change the original.
      </div>
      {part.length !== null && part.width !== null && part.thickness !== null && (
        <div className="soft figure">
          {lengths([part.length, part.width, part.thickness], doc.display)}
          {part.mass !== null && ` · ${mass(part.mass)}`}
        </div>
      )}
      <section style={{ display: "grid", gap: 7 }}>
        <h3>This copy has</h3>
        {owners.length === 0 && <div className="soft">Nothing that it could do without.</div>}
        {owners.map(([owner, label]) => (
          <Switch
            key={owner}
            size="sm"
            label={label}
            checked={!inherited(owner) && !(copy.spared?.[owner] ?? []).includes(instance)}
            disabled={inherited(owner)}
            onChange={(e) => spare(owner, !e.currentTarget.checked)}
          />
        ))}
      </section>
      <section className="row" style={{ flexWrap: "wrap" }}>
        <Button onClick={() => view.toggleHidden(instance)}>{view.hidden[instance] ? "Show" : "Hide"}</Button>
        <Button onClick={() => view.toggleGlass(instance)}>{view.glass[instance] ? "Solid again" : "See through"}</Button>
      </section>
    </>
  );
}
