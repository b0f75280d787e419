// The card of a flange, a hem or an offset bend: how long, how far round, how far along its edge, and what is cut into it.
import { ActionIcon, Button, Tooltip } from "@mantine/core";
import { IconPencil, IconTrash } from "@tabler/icons-react";
import { useState } from "react";
import type { FeatureForm, PartOut } from "../api/types";
import { EntryField } from "../fields/EntryField";
import { ChoiceField, TextField } from "../fields/PlainField";
import { type Feature, type Flange, freshKey, nextOrder, ordered, type PlatePart, pointer } from "../lib/document";
import { length } from "../lib/figures";
import { begun } from "../lib/forms";
import { id, isWithin } from "../lib/owner";
import { stepNumbers, useBendPlan } from "../state/bending";
import { fresh, typed, useDesign, useShown } from "../state/design";
import { formOf, useForms } from "../state/forms";
import { operate } from "../state/operations";
import { flat } from "../state/resources";
import { words } from "../state/shape";
import { useView } from "../state/view";
import { CardHead } from "./CardHead";
import { CornersSection } from "./CornersSection";
import { OpenArea } from "./FeatureCard";
import { edgesOf, flangeName } from "./flangeFields";
import { OutSwitch } from "./OutSwitch";
import { ProblemSection } from "./Problem";
import { RecordForm } from "./RecordForm";

export function FlangeCard({ partKey, flangeKey }: { partKey: string; flangeKey: string }) {
  const shown = useShown()!;
  const doc = useDesign((s) => s.doc)!;
  const { commit } = useDesign.getState();
  const view = useView();
  const forms = useForms();
  const board = doc.parts[partKey] as PlatePart | undefined;
  const flange = board?.folding?.flanges[flangeKey];
  if (!board || !flange) return <p className="soft">It is gone.</p>;
  const base = ["parts", partKey, "folding", "flanges", flangeKey];
  const part = shown.built.parts.find((p) => p.key === partKey);
  const name = words(flangeName(flangeKey, board.folding!.flanges));
  const title = `${board.name}, ${name}`;
  const owners = [id.flange(partKey, flangeKey), id.bend(partKey, flangeKey)];
  const problems = shown.built.problems.filter((p) => owners.includes(p.owner) || isWithin(p.owner, partKey, flangeKey));
  const edge = edgesOf(board, [{ name: flange.edge, start: [], end: [] }]).find((e) => e.value === `${flange.on}/${flange.edge}`);
  const ends = endsOf(part, flangeKey);
  const cutBack = part?.cut_back?.[flangeKey];
  // beside a bend that ends inside its edge, or at the root of what it stands on
  const relieved = flange.extent !== "whole" || flange.edge === "low" || flange.edge === "high";
  const faces = () => (part?.face_a ? { a: `the plate's ${part.face_a}`, b: `the plate's ${part.face_b}` } : {});
  const form = formOf(forms.flanges, flange.kind);
  const relief = formOf(forms.bends, "relief");

  return (
    <>
      <CardHead
        title={name}
        remove="Remove flange"
        onRemove={() =>
          void operate({ operation: "remove_flange", part: partKey, key: flangeKey }).then(() =>
            view.select({ kind: "part", key: partKey }),
          )
        }
      />
      <div className="soft">
        On the {edge?.label ?? flange.edge}, of{" "}
        <button
          type="button"
          className="linkrow"
          style={{ display: "inline", width: "auto", padding: 0, textDecoration: "underline" }}
          onClick={() => view.select({ kind: "part", key: partKey })}
        >
          {words(board.name)}
        </button>
      </div>
      {cutBack && (
        <div className="soft" data-testid="cut-back">
          {length(cutBack[0], shown.doc.display)} along its bend, {length(cutBack[1], shown.doc.display)} at its far edge: cut
          back where it meets its neighbours.
        </div>
      )}
      <ProblemSection problems={problems} />
      <section>
        <h3>Bend</h3>
        <TextField
          label="Name"
          value={flange.name}
          maxLength={40}
          onSave={(v) => void commit(`${title}: ${v}`, [{ op: "add", path: pointer(...base, "name"), value: v }])}
        />
        {flange.kind === "profile" && <ProfileLegs base={base} flange={flange} title={title} />}
        {(flange.kind === "drawn" || ((flange.kind === "profile" || flange.kind === "flange") && !flange.on)) && (
          <DrawProfile partKey={partKey} flangeKey={flangeKey} drawn={flange.kind === "drawn"} />
        )}
        {form && <RecordForm {...{ form, title }} path={base} record={flange} plane={board.plane} words={faces} />}
        <OutSwitch path={pointer(...base)} name={title} out={Boolean(flange.out)} />
        {!flange.on && !flange.edge.includes("-") && flange.kind !== "line" && flange.mirrored === "none" && (
          <AcrossButton partKey={partKey} flangeKey={flangeKey}>
            Mirror onto the wall across
          </AcrossButton>
        )}
      </section>
      <CornersSection partKey={partKey} board={board} flangeKey={flangeKey} />
      {flange.kind === "flange" && <Gussets base={base} flange={flange} title={title} />}
      <section hidden={flange.kind === "line"}>
        <h3>Along its edge</h3>
        {form && (
          <RecordForm
            {...{ form, title }}
            path={base}
            record={flange}
            section="edge"
            words={() => ({ low: ends[0], high: ends[1] })}
            // what stands on a flange has no place in the room of its own
            without={flange.on ? ROOM : undefined}
          />
        )}
        {relieved && relief && (
          <RecordForm form={relief} path={[...base, "relief"]} record={{ ...flange.relief }} title={title} />
        )}
      </section>
      <Table partKey={partKey} flangeKey={flangeKey} />
      {flange.kind !== "hem" && flange.kind !== "line" && <Cuts {...{ base, flange, title, ends, partKey, flangeKey }} />}
    </>
  );
}

const ROOM = () => ["room"];

/** Opens the profile of a flange, which is drawn as it is where it is none yet. */
function DrawProfile({ partKey, flangeKey, drawn }: { partKey: string; flangeKey: string; drawn: boolean }) {
  const [fault, setFault] = useState("");
  async function open() {
    const why = drawn ? "" : await operate({ operation: "begin_profile", part: partKey, flange: flangeKey });
    if (!why) useView.getState().setDraft({ kind: "outline", part: partKey, feature: id.flange(partKey, flangeKey) });
    setFault(why);
  }
  return (
    <div style={{ margin: "4px 0 8px" }}>
      <Button leftSection={<IconPencil size={15} />} onClick={() => void open()}>
        {drawn ? "Draw its profile…" : "Draw it freely…"}
      </Button>
      {fault && <div className="error">{fault}</div>}
    </div>
  );
}

/** Gives the wall across the plate what this one has, or one cut of it; what cannot be is said. */
function AcrossButton(props: { partKey: string; flangeKey: string; feature?: string; children: string }) {
  const { partKey, flangeKey, feature = "", children } = props;
  const [fault, setFault] = useState("");
  return (
    <div style={{ margin: "4px 0" }}>
      <Button
        size="compact-xs"
        onClick={() => void operate({ operation: "mirror_wall", part: partKey, key: flangeKey, feature }).then(setFault)}
      >
        {children}
      </Button>
      {fault && <div className="error">{fault}</div>}
    </div>
  );
}

/** The lengths of a profile with the bend before each. */
function ProfileLegs({ base, flange, title }: { base: string[]; flange: Flange; title: string }) {
  const { commit } = useDesign.getState();
  const legs = flange.legs ?? [];
  return (
    <>
      {legs.map((_, i) => (
        <div key={i} className="profileleg">
          <EntryField
            path={pointer(...base, "legs", String(i), "length")}
            label={`Length ${i + 1}`}
            edit={`${title}, length ${i + 1}`}
          />
          <EntryField
            path={pointer(...base, "legs", String(i), "angle")}
            label="after a bend of"
            kind="angle"
            edit={`${title}, bend ${i + 1}`}
          />
          <EntryField
            path={pointer(...base, "legs", String(i), "radius")}
            label="inside radius"
            optional
            placeholder="the profile's"
            edit={`${title}, radius of bend ${i + 1}`}
          />
        </div>
      ))}
      <div className="row" style={{ marginBottom: 6 }}>
        <Button
          size="compact-xs"
          onClick={() =>
            void commit(`${title}: one length more`, [
              {
                op: "add",
                path: pointer(...base, "legs", "-"),
                value: { length: fresh("15 mm"), angle: typed("90 deg") },
              },
            ])
          }
        >
          One length more
        </Button>
        <Button
          size="compact-xs"
          disabled={legs.length < 2}
          onClick={() =>
            void commit(`${title}: one length less`, [{ op: "remove", path: pointer(...base, "legs", String(legs.length - 1)) }])
          }
        >
          One less
        </Button>
      </div>
      <p className="soft" style={{ margin: "0 0 6px" }}>
        A bend under 0° turns the other way.
      </p>
    </>
  );
}

/** Stiffeners pressed into a flange's bend. */
function Gussets({ base, flange, title }: { base: string[]; flange: Flange; title: string }) {
  const { commit } = useDesign.getState();
  const g = flange.gussets;
  const form = formOf(useForms().bends, "gussets");
  return (
    <section>
      <h3>
        <span>Gussets</span>
        {g ? (
          <Button
            size="compact-xs"
            onClick={() => void commit(`${title}: no gussets`, [{ op: "remove", path: pointer(...base, "gussets") }])}
          >
            Without
          </Button>
        ) : (
          <Button
            size="compact-xs"
            onClick={() =>
              void commit(`${title}: gussets`, [
                {
                  op: "add",
                  path: pointer(...base, "gussets"),
                  value: form && begun(form, fresh),
                },
              ])
            }
          >
            Press gussets
          </Button>
        )}
      </h3>
      {g && form && <RecordForm form={form} path={[...base, "gussets"]} record={{ ...g }} title={`${title}, gussets`} />}
    </section>
  );
}

/** What the bends of a flange are reckoned at. */
function Table({ partKey, flangeKey }: { partKey: string; flangeKey: string }) {
  const shown = useShown()!;
  const part = shown.built.parts.find((p) => p.key === partKey);
  const data = part?.flat ? flat(part.flat) : undefined;
  const numbers = stepNumbers(useBendPlan(part?.folded ? part.key : "", part?.flat ?? ""));
  const rows = data?.bends.filter((b) => b.owner === id.bend(partKey, flangeKey)) ?? [];
  const display = shown.doc.display;
  if (!rows.length) return null;
  return (
    <section>
      <h3>Reckoned</h3>
      {rows.map((b) => (
        <div key={b.key} className="soft">
          <b>
            {b.direction === "up" ? "▲" : "▼"} bend {numbers.get(b.key) ?? b.number}
          </b>
          : allowance <span className="figure nowrap">{length(b.allowance, display)}</span>, deduction{" "}
          <span className="figure nowrap">{length(b.deduction, display)}</span> to the {b.refers_to}, K{" "}
          <span className="figure nowrap">{b.k.toFixed(3)}</span>,{" "}
          <span className="figure nowrap">{length(b.length, display)}</span> long
        </div>
      ))}
    </section>
  );
}

/** The words at the low and the high end of a flange, as it stands. */
function endsOf(part: PartOut | undefined, key: string): string[] {
  return part?.bend_words?.[key] ?? part?.bend_words?.[`${key}.1`] ?? ["low", "high"];
}

type CutsProps = { base: string[]; flange: Flange; title: string; ends: string[]; partKey: string; flangeKey: string };

function Cuts({ base, flange, title, ends, partKey, flangeKey }: CutsProps) {
  const { commit } = useDesign.getState();
  const features = flange.features ?? {};
  const entry = fresh;
  const { features: forms } = useForms();
  function add(form: FeatureForm) {
    const key = freshKey(features, form.kind);
    const value = {
      kind: form.kind,
      order: nextOrder(features),
      u: { origin: "centre", offset: entry("0") },
      v: { origin: "centre", offset: entry("0") },
      ...begun(form, entry, undefined, true),
    };
    void commit(`${title}: ${form.title.toLowerCase()}`, [
      flange.features
        ? { op: "add", path: pointer(...base, "features", key), value }
        : { op: "add", path: pointer(...base, "features"), value: { [key]: value } },
    ]);
  }
  return (
    <section>
      <h3>Cut into it</h3>
      <div className="row" style={{ flexWrap: "wrap", marginBottom: 6 }}>
        {forms
          .filter((f) => f.in_metal)
          .map((f) => (
            <Button key={f.kind} size="compact-xs" onClick={() => add(f)}>
              {f.title}
            </Button>
          ))}
      </div>
      {Object.keys(features).length === 0 && <div className="soft">Nothing yet.</div>}
      {ordered(features).map(([key, f]) => (
        <div key={key}>
          <FlangeFeature base={[...base, "features", key]} feature={f} title={title} ends={ends} />
          {!flange.on && !flange.edge.includes("-") && flange.mirrored === "none" && (
            <AcrossButton partKey={partKey} flangeKey={flangeKey} feature={key}>
              On the wall across too
            </AcrossButton>
          )}
        </div>
      ))}
    </section>
  );
}

const DEPTH = ["depth"];

function FlangeFeature({ base, feature, title, ends }: { base: string[]; feature: Feature; title: string; ends: string[] }) {
  const { commit } = useDesign.getState();
  const form = formOf(useForms().features, feature.kind);
  const words = feature.name || (form?.title ?? feature.kind);
  const places = [
    {
      field: "u",
      label: "Along",
      data: [
        { value: "low", label: `from the ${ends[0]} end` },
        { value: "centre", label: "from the middle" },
        { value: "high", label: `from the ${ends[1]} end` },
      ],
    },
    {
      field: "v",
      label: "Up",
      data: [
        { value: "root", label: "from the bend" },
        { value: "centre", label: "from the middle" },
        { value: "end", label: "from the far edge" },
      ],
    },
  ] as const; // prettier-ignore
  return (
    <div style={{ borderTop: "1px solid var(--rule)", paddingTop: 6, marginTop: 6 }}>
      <div className="row">
        <b className="grow">{words}</b>
        <Tooltip label="Remove">
          <ActionIcon
            aria-label={`Remove ${words.toLowerCase()}`}
            onClick={() => void commit(`${title}: without ${words.toLowerCase()}`, [{ op: "remove", path: pointer(...base) }])}
          >
            <IconTrash size={15} />
          </ActionIcon>
        </Tooltip>
      </div>
      {form && <RecordForm form={form} path={base} record={feature} title={`${title}, ${words}`} skip={DEPTH} />}
      {form && <RecordForm form={form} path={base} record={feature} title={`${title}, ${words}`} section="rows" />}
      {feature.kind === "perforation" && <OpenArea path={pointer(...base)} />}
      {places.map((p) => (
        <div key={p.field}>
          <ChoiceField
            label={p.label}
            value={feature[p.field].origin}
            data={[...p.data]}
            onSave={(v) =>
              void commit(`${title}, ${words}: from ${v}`, [
                { op: "replace", path: pointer(...base, p.field, "origin"), value: v },
              ])
            }
          />
          <EntryField path={pointer(...base, p.field, "offset")} label="by" edit={`${title}, ${words}, place`} />
        </div>
      ))}
    </div>
  );
}
