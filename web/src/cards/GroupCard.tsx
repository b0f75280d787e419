// The card of a group: where it is moved to, how it is turned, what lies in it, what it weighs.
import { Button } from "@mantine/core";
import { useState } from "react";
import { EntryField } from "../fields/EntryField";
import { ChoiceField, TextField } from "../fields/PlainField";
import { AXIS_WORDS, type Axis, ordered, pointer, within } from "../lib/document";
import { mass, plural } from "../lib/figures";
import { id } from "../lib/owner";
import { useDesign, useShown } from "../state/design";
import { useWeight } from "../state/measure";
import { operate } from "../state/operations";
import { litOf, words } from "../state/shape";
import { useView } from "../state/view";
import { CardHead } from "./CardHead";
import { OutSwitch } from "./OutSwitch";
import { ProblemSection } from "./Problem";
import { TurnSection } from "./TurnSection";

export function GroupCard({ groupKey }: { groupKey: string }) {
  const shown = useShown()!;
  const doc = useDesign((s) => s.doc)!;
  const { commit } = useDesign.getState();
  const view = useView();
  const [fault, setFault] = useState("");
  const group = doc.groups[groupKey];
  const lit = litOf({ kind: "group", key: groupKey }, shown.built, shown.doc);
  const solid = lit.filter((k) => shown.built.parts.find((p) => p.key === k)?.solid);
  const weight = useWeight(solid);
  if (!group) return <p className="soft">This group is gone.</p>;
  const base = ["groups", groupKey];
  const problems = shown.built.problems.filter((p) => p.entry.startsWith(`${pointer(...base)}/`));
  const every = shown.built.parts.map((p) => p.key);
  return (
    <>
      <CardHead
        title={words(group.name)}
        remove="Dissolve group"
        tip="Dissolve: its parts stay"
        onRemove={() => {
          view.select(null);
          void operate({ operation: "remove_group", key: groupKey });
        }}
      />
      <div className="soft">
        {plural(lit.length, "part")} with its copies
        {weight?.mass != null && <span className="figure"> · {mass(weight.mass)}</span>}
      </div>
      <section>
        <h3>Group</h3>
        <TextField
          label="Name"
          value={group.name}
          maxLength={40}
          onSave={async (name) => setFault(await operate({ operation: "rename", group: "groups", key: groupKey, name }))}
        />
        {fault && <div className="error">{fault}</div>}
        <ChoiceField
          label="Lies in"
          value={group.parent || "none"}
          data={[
            { value: "none", label: "no other group" },
            ...ordered(doc.groups)
              .filter(([k]) => !within(doc, k).includes(groupKey))
              .map(([value, g]) => ({ value, label: words(g.name) })),
          ]}
          onSave={(v) =>
            void commit(`${group.name}: lies in ${v}`, [
              { op: "add", path: pointer(...base, "parent"), value: v === "none" ? "" : v },
            ])
          }
        />
        <InTheList groupKey={groupKey} />
        <OutSwitch path={pointer(...base)} name={group.name} out={group.out} />
      </section>
      <section>
        <h3>Moved by</h3>
        {(["x", "y", "z"] as Axis[]).map((a) => (
          <EntryField
            key={a}
            path={pointer(...base, "move", a)}
            label={AXIS_WORDS[a]}
            optional
            placeholder="not moved"
            edit={`${group.name}, moved ${AXIS_WORDS[a]}`}
          />
        ))}
      </section>
      <TurnSection base={base} name="" turns={group.turns ?? {}} />
      <InIt groupKey={groupKey} />
      <ProblemSection problems={problems} />
      <section className="row" style={{ flexWrap: "wrap" }}>
        <Button onClick={() => view.setDraft({ kind: "copy", way: "mirror", of: [id.group(groupKey)] })}>Mirror</Button>
        <Button onClick={() => view.setDraft({ kind: "copy", way: "row", of: [id.group(groupKey)] })}>Repeat</Button>
        <Button onClick={() => view.isolate(lit, every)}>Show only this</Button>
      </section>
    </>
  );
}

/** Where the group stands among its neighbours in the cut list. */
function InTheList({ groupKey }: { groupKey: string }) {
  const doc = useDesign((s) => s.doc)!;
  const { commit } = useDesign.getState();
  const group = doc.groups[groupKey];
  const siblings = ordered(doc.groups).filter(([, g]) => g.parent === group.parent);
  const place = siblings.findIndex(([k]) => k === groupKey);
  const [before, after] = [siblings[place - 1]?.[0], siblings[place + 1]?.[0]];
  const swap = (other: string | undefined) => {
    if (!other) return;
    const order = siblings.map(([k]) => k);
    const [i, j] = [order.indexOf(groupKey), order.indexOf(other)];
    [order[i], order[j]] = [order[j], order[i]];
    void commit(
      `${group.name}: ${j < i ? "earlier" : "later"} in the list`,
      order.map((k, n) => ({ op: "replace", path: pointer("groups", k, "order"), value: n })),
    );
  };
  return (
    <div className="row" style={{ margin: "4px 0 8px" }}>
      <Button size="compact-xs" disabled={!before} onClick={() => swap(before)}>
        Earlier in the list
      </Button>
      <Button size="compact-xs" disabled={!after} onClick={() => swap(after)}>
        Later in the list
      </Button>
    </div>
  );
}

/** The groups and parts that lie in it. */
function InIt({ groupKey }: { groupKey: string }) {
  const doc = useDesign((s) => s.doc)!;
  const view = useView();
  const members = ordered(doc.parts).filter(([, p]) => p.group === groupKey);
  const inner = ordered(doc.groups).filter(([, g]) => g.parent === groupKey);
  return (
    <section>
      <h3>In it</h3>
      {inner.map(([k, g]) => (
        <button type="button" className="linkrow" key={k} onClick={() => view.select({ kind: "group", key: k })}>
          <b className="grow">{words(g.name)}</b>
          <span className="soft">group</span>
        </button>
      ))}
      {members.map(([k, p]) => (
        <button
          type="button"
          className="linkrow"
          key={k}
          onClick={() => view.select({ kind: "part", key: k })}
          onMouseEnter={() => view.point(k)}
          onMouseLeave={() => view.point("")}
        >
          <span className="grow">{words(p.name)}</span>
        </button>
      ))}
    </section>
  );
}
