// The card of a joint: drawn to its real values, its kind and entries as the core gives them, its problems.
import { Button, Checkbox, Select } from "@mantine/core";
import { useId } from "react";
import type { JointFieldOut, JointOut, OfferOut } from "../api/types";
import { EntryField } from "../fields/EntryField";
import { ChoiceField } from "../fields/PlainField";
import { type Doc, isPlaced, type Joint, pointer } from "../lib/document";
import { length, value } from "../lib/figures";
import { id } from "../lib/owner";
import { useDesign, useShown } from "../state/design";
import { useJointKinds, useJointWord, useOffers } from "../state/joints";
import { useView } from "../state/view";
import { CardHead } from "./CardHead";
import { removeSelected } from "./edits";
import { JointFigure } from "./JointFigure";
import { OutSwitch } from "./OutSwitch";
import { ProblemSection } from "./Problem";
import { TabList, TabsBy } from "./TabList";

export function JointCard({ jointKey }: { jointKey: string }) {
  const shown = useShown()!;
  const doc = useDesign((s) => s.doc)!;
  const record = doc.joints[jointKey];
  const built = shown.built.joints.find((j) => j.key === jointKey);
  const kinds = useJointKinds();
  const word = useJointWord();
  const view = useView();
  if (record && !built) return <WaitingJoint jointKey={jointKey} record={record} />;
  if (!record || !built) return <p className="soft">This joint is gone.</p>;
  const problems = shown.built.problems.filter((p) => p.owner === id.joint(jointKey) || p.entry === pointer("joints", jointKey));
  const path = (k: string) => shown.built.parts.find((p) => p.key === k)?.path ?? doc.parts[k]?.name ?? k;
  const names = [record.a, record.b].map((k) => path(k).replaceAll("_", " "));
  const kind = kinds.find((k) => k.kind === record.kind);
  const listed = record.kind === "tab_slot" && Object.keys(record.tabs ?? {}).length > 0;
  const fields = (kind?.fields ?? []).filter(
    (f) =>
      f.name !== "fit" &&
      (!f.only_cutter || doc.cutters[doc.cutter]?.kind === f.only_cutter) &&
      (!f.only_field || String(record[f.only_field] ?? "") === f.only_value),
  );
  return (
    <>
      <CardHead
        title={word(record.kind)}
        remove="Remove joint"
        onRemove={() => void removeSelected({ kind: "joint", key: jointKey })}
      />
      <div className="row soft" style={{ gap: 4 }}>
        {[record.a, record.b].map((k, i) => (
          <Button key={k} size="compact-xs" variant="subtle" onClick={() => view.select({ kind: "part", key: k })}>
            {names[i]}
          </Button>
        ))}
        {built.contact && <span>· {contactWords(built)}</span>}
      </div>
      {!built.refused && <JointFigure joint={built} doc={shown.doc} />}
      <section>
        <h3>
          <span>Entries</span>
        </h3>
        <KindField jointKey={jointKey} record={record} />
        {record.kind === "tab_slot" && <TabsBy jointKey={jointKey} joint={record} built={built} name={names[0]} />}
        {listed ? (
          <TabList jointKey={jointKey} joint={record} built={built} />
        ) : (
          fields.map((f) => <JointField key={f.name} field={f} jointKey={jointKey} record={record} built={built} names={names} />)
        )}
        <EntryField path={pointer("joints", jointKey, "fit")} label="Fit, total" edit={`${built.title}, fit`} fits />
        <FitNote joint={built} doc={shown.doc} />
        <OutSwitch path={pointer("joints", jointKey)} name={built.title} out={false} />
      </section>
      {built.copies.length > 0 && (
        <section>
          <h3>Repeats along</h3>
          <div className="soft">
            {built.copies
              .slice(0, 12)
              .map((pair) => pair.map((k) => path(k).replaceAll("_", " ")).join("–"))
              .join(", ")}
            {built.copies.length > 12 && ` and ${built.copies.length - 12} more`}
          </div>
        </section>
      )}
      <ProblemSection problems={problems} />
    </>
  );
}

/** A joint that is left out, or waits for a board that is. */
function WaitingJoint({ jointKey, record }: { jointKey: string; record: Joint }) {
  const word = useJointWord();
  return (
    <>
      <h2>{word(record.kind)}</h2>
      <p className="soft">
        {record.out ? "Left out of the design; its entries are kept." : "It waits for a board that is left out or broken."}
      </p>
      {record.out && (
        <Button
          variant="filled"
          onClick={() =>
            void useDesign
              .getState()
              .commit("Take a joint back", [{ op: "add", path: pointer("joints", jointKey, "out"), value: false }])
          }
        >
          Take it back
        </Button>
      )}
    </>
  );
}

/** How the boards meet, as a person would say it. */
export function contactWords(joint: { contact: string; form?: string }): string {
  if (joint.contact === "lap") return joint.form === "line" ? "lapping end to end" : `lapping at a ${joint.form}`;
  return (
    {
      corner: "a corner",
      tee: "a tee",
      cross: "a crossing",
      edge: "edge to edge",
      faces: "face on face",
      angle: "at an angle",
      angle_lap: "crossing at an angle in one plane",
    }[joint.contact] ?? joint.contact
  );
}

/** Another kind for the same two boards; what cannot be there says why. */
function KindField({ jointKey, record }: { jointKey: string; record: Joint }) {
  const commit = useDesign((s) => s.commit);
  const { offers } = useOffers(record.a, record.b, jointKey);
  const field = useId();
  const now = `${record.kind} ab`;
  const possible = offers.filter((o) => !o.refused || `${o.kind} ${o.order}` === now);
  const refused = offers.filter((o) => o.refused && `${o.kind} ${o.order}` !== now);
  const row = (o: OfferOut) => ({
    value: `${o.kind} ${o.order}`,
    label: o.title.replaceAll("_", " "),
    disabled: Boolean(o.refused),
  });
  return (
    <div className="entry">
      <label htmlFor={field}>Kind</label>
      <Select
        id={field}
        aria-label="Kind of joint"
        value={now}
        maxDropdownHeight={340}
        data={[
          { group: "Possible here", items: possible.map(row) },
          { group: "Not here", items: refused.map(row) },
        ]}
        renderOption={({ option }) => {
          const o = offers.find((x) => `${x.kind} ${x.order}` === option.value);
          return (
            <span>
              {option.label}
              {(o?.refused || o?.note) && (
                <span className="soft" style={{ display: "block", fontSize: 11.5 }}>
                  {o.refused || o.note}
                </span>
              )}
            </span>
          );
        }}
        onChange={(v) => {
          const offer = offers.find((o) => `${o.kind} ${o.order}` === v);
          if (!offer || v === now) return;
          const [a, b] = offer.order === "ba" ? [record.b, record.a] : [record.a, record.b];
          void commit(offer.title, [
            { op: "replace", path: pointer("joints", jointKey), value: { kind: offer.kind, a, b, order: record.order } },
          ]);
        }}
      />
    </div>
  );
}

type FieldProps = { field: JointFieldOut; jointKey: string; record: Joint; built: JointOut; names: string[] };

function JointField({ field, jointKey, record, built, names }: FieldProps) {
  const doc = useDesign((s) => s.doc)!;
  const commit = useDesign((s) => s.commit);
  const path = pointer("joints", jointKey, field.name);
  // the side of the thickness that is kept, else an end of the run
  const [low, high] = (field.name === "keeps" ? built.sides : built.ends) ?? [];
  const put = (text: string) =>
    text
      .replace("LOW", low || "low")
      .replace("HIGH", high || "high")
      .replace(/^A$/, names[0])
      .replace(/^B$/, names[1]);
  if (field.type === "flag")
    return (
      <Checkbox
        size="xs"
        style={{ margin: "4px 0 8px" }}
        label={field.label}
        description={field.note || undefined}
        checked={Boolean(record[field.name] ?? field.default === "true")}
        onChange={(e) =>
          void commit(`${built.title}: ${field.label.toLowerCase()} ${e.currentTarget.checked ? "on" : "off"}`, [
            { op: "add", path, value: e.currentTarget.checked },
          ])
        }
      />
    );
  if (field.type === "choice")
    return (
      <ChoiceField
        label={put(field.label)}
        value={String(record[field.name] ?? field.default ?? "")}
        data={field.choices.map((c) => ({ value: c.value, label: put(c.label) }))}
        onSave={(v) => void commit(`${built.title}: ${field.label.toLowerCase()} ${v}`, [{ op: "add", path, value: v }])}
      />
    );
  const inEffect = built.details[field.name];
  return (
    <EntryField
      path={path}
      label={field.label}
      kind={field.value_kind}
      optional={field.optional}
      placeholder={
        inEffect === undefined
          ? field.name === "spacing"
            ? "spread evenly"
            : "by thickness"
          : value({ value: inEffect, kind: field.value_kind }, doc.display)
      }
      edit={`${built.title}, ${field.label.toLowerCase()}`}
    />
  );
}

const FIT_WORDS: Record<string, string> = {
  untested: "are not tried on a comb yet",
  outdated: "were tried with another kerf; cut a new comb",
  edited: "were changed by hand since they were tried",
};

function FitNote({ joint, doc }: { joint: JointOut; doc: Doc }) {
  const fits = useShown()!.built.fits;
  const part = doc.parts[joint.a];
  const stock = isPlaced(part) ? part.stock : "";
  const state = fits.find((f) => f.stock === stock);
  const flank = length(Math.abs(joint.fit) / 2, doc.display);
  return (
    <div className="soft" style={{ fontSize: 12 }}>
      {joint.fit > 0
        ? `Slot minus tab. ${flank} of room at each flank.`
        : joint.fit < 0
          ? `A press fit: each flank bites by ${flank}.`
          : "No room at the flanks: exactly flush."}{" "}
      Outer faces stay where they are.
      {state && state.state !== "tested" && (
        <div className="warn">
          The fits of {doc.stocks[stock]?.name} {FIT_WORDS[state.state]}.
        </div>
      )}
    </div>
  );
}
