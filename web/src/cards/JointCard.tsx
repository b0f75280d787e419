// The card of a joint: drawn to its real values, its kind and entries as the core gives them, its problems.
import { Button, Select } from "@mantine/core";
import { useId } from "react";
import type { JointOut, OfferOut } from "../api/types";
import { EntryField } from "../fields/EntryField";
import { type Doc, isMemberJoint, isPlaced, type Joint, pointer } from "../lib/document";
import { length } from "../lib/figures";
import { id } from "../lib/owner";
import { useDesign, useShown } from "../state/design";
import { formOf, useForms, useJointWord } from "../state/forms";
import { useOffers } from "../state/joints";
import { useView } from "../state/view";
import { CardHead } from "./CardHead";
import { removeSelected } from "./edits";
import { JointFigure } from "./JointFigure";
import { OutSwitch } from "./OutSwitch";
import { ProblemSection } from "./Problem";
import { RecordForm } from "./RecordForm";
import { TabList, TabsBy } from "./TabList";

export function JointCard({ jointKey }: { jointKey: string }) {
  const shown = useShown()!;
  const doc = useDesign((s) => s.doc)!;
  const record = doc.joints[jointKey];
  const built = shown.built.joints.find((j) => j.key === jointKey);
  const forms = useForms();
  const word = useJointWord();
  const view = useView();
  if (record && !built) return <WaitingJoint jointKey={jointKey} record={record} />;
  if (!record || !built) return <p className="soft">This joint is gone.</p>;
  const problems = shown.built.problems.filter((p) => p.owner === id.joint(jointKey) || p.entry === pointer("joints", jointKey));
  const path = (k: string) => shown.built.parts.find((p) => p.key === k)?.path ?? doc.parts[k]?.name ?? k;
  const names = [record.a, record.b].map((k) => path(k).replaceAll("_", " "));
  const form = formOf(forms.joints, record.kind);
  const [a, b] = names;
  const listed = record.kind === "tab_slot" && Object.keys(record.tabs ?? {}).length > 0;
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
      {isMemberJoint(record.kind) && !built.refused && (
        <div className="soft">
          Between the axes <span className="figure">{Number(((built.details.angle * 180) / Math.PI).toFixed(2))}°</span>
          {built.details.offset > 0.0005 && (
            <>
              , which pass <span className="figure">{length(built.details.offset, doc.display)}</span> apart
            </>
          )}
        </div>
      )}
      {!built.refused && !isMemberJoint(record.kind) && <JointFigure joint={built} doc={shown.doc} />}
      <section>
        <h3>
          <span>Entries</span>
        </h3>
        <KindField jointKey={jointKey} record={record} />
        {record.kind === "tab_slot" && <TabsBy jointKey={jointKey} joint={record} built={built} name={names[0]} />}
        {listed ? (
          <TabList jointKey={jointKey} joint={record} built={built} />
        ) : (
          form && (
            <RecordForm
              form={form}
              path={["joints", jointKey]}
              record={record}
              title={built.title}
              inEffect={built.details}
              // the side of the thickness that is kept, else an end of the run
              words={(f) => ends(f.name === "keeps" ? built.sides : built.ends, a, b)}
              skip={isMemberJoint(record.kind) ? NOTHING : FIT}
            />
          )
        )}
        {!isMemberJoint(record.kind) && (
          <>
            <EntryField path={pointer("joints", jointKey, "fit")} label="Fit, total" edit={`${built.title}, fit`} fits />
            <FitNote joint={built} doc={shown.doc} />
          </>
        )}
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

const FIT = ["fit"];
const NOTHING: string[] = [];
const ends = ([low, high]: string[] = [], a: string, b: string) => ({ low, high, a, b });

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
