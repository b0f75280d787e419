// The card of a joint: those fingers and that gap drawn to their real values, its entries, its problems.
import { ActionIcon, Button, SegmentedControl, Tooltip } from "@mantine/core";
import { IconTrash } from "@tabler/icons-react";
import type { JointOut } from "../api/types";
import { EntryField } from "../fields/EntryField";
import { ChoiceField } from "../fields/PlainField";
import { type Axis, type Doc, FACES, freshKey, JOINT_WORDS, type Joint, pointer } from "../lib/document";
import { length, plural } from "../lib/figures";
import { useDesign, useShown } from "../state/design";
import { useView } from "../state/view";
import { removeSelected } from "./edits";
import { ProblemSection } from "./Problem";

export function JointCard({ jointKey }: { jointKey: string }) {
  const shown = useShown()!;
  const doc = useDesign((s) => s.doc)!;
  const record = doc.joints[jointKey];
  const built = shown.built.joints.find((j) => j.key === jointKey);
  const view = useView();
  if (!record || !built) return <p className="soft">This joint is gone.</p>;
  const problems = shown.built.problems.filter((p) => p.owner === `joint:${jointKey}` || p.entry === pointer("joints", jointKey));
  const names = [record.a, record.b].map((k) => doc.parts[k]?.name.replaceAll("_", " ") ?? k);
  return (
    <>
      <div className="row">
        <h2 className="grow">{JOINT_WORDS[record.kind]}</h2>
        <Tooltip label="Remove">
          <ActionIcon aria-label="Remove joint" onClick={() => void removeSelected({ kind: "joint", key: jointKey })}>
            <IconTrash size={17} />
          </ActionIcon>
        </Tooltip>
      </div>
      <div className="row soft" style={{ gap: 4 }}>
        {[record.a, record.b].map((k, i) => (
          <Button key={k} size="compact-xs" variant="subtle" onClick={() => view.select({ kind: "part", key: k })}>
            {names[i]}
          </Button>
        ))}
        {built.contact && <span>· a {built.contact}</span>}
      </div>
      {!built.refused && <JointFigure joint={built} doc={shown.doc} />}
      <section>
        <h3>
          <span>Entries</span>
        </h3>
        {record.kind === "finger" ? (
          <FingerEntries jointKey={jointKey} joint={record} names={names} built={built} />
        ) : (
          <TabEntries jointKey={jointKey} joint={record} names={names} built={built} />
        )}
        <EntryField path={pointer("joints", jointKey, "fit")} label="Fit, total" edit={`${built.title}, fit`} fits />
        <FitNote joint={built} doc={shown.doc} />
      </section>
      <ProblemSection problems={problems} />
    </>
  );
}

function FitNote({ joint, doc }: { joint: JointOut; doc: Doc }) {
  const flank = length(Math.abs(joint.fit) / 2, doc.display);
  return (
    <div className="soft" style={{ fontSize: 12 }}>
      {joint.fit > 0
        ? `Slot minus tab. ${flank} of room at each flank.`
        : joint.fit < 0
          ? `A press fit: each flank bites by ${flank}.`
          : "No room at the flanks: exactly flush."}{" "}
      Outer faces stay where they are.
    </div>
  );
}

function FingerEntries({ jointKey, joint, names, built }: { jointKey: string; joint: Joint; names: string[]; built: JointOut }) {
  const doc = useDesign((s) => s.doc)!;
  const commit = useDesign((s) => s.commit);
  const by = joint.count ? "count" : joint.pitch ? "pitch" : "auto";
  const drop = (["count", "pitch"] as const)
    .filter((f) => joint[f])
    .map((f) => ({ op: "remove", path: pointer("joints", jointKey, f) }));
  const width = built.fingers.length ? (built.run[1] - built.run[0]) / built.fingers.length : 10;
  const start = {
    auto: [],
    count: [
      {
        op: "add",
        path: pointer("joints", jointKey, "count"),
        value: { text: String(built.fingers.length || 5), unit: doc.unit },
      },
    ],
    pitch: [
      { op: "add", path: pointer("joints", jointKey, "pitch"), value: { text: `${Math.round(width * 2)} mm`, unit: "mm" } },
    ],
  };
  return (
    <>
      <SegmentedControl
        fullWidth
        value={by}
        style={{ marginBottom: 7 }}
        aria-label="Fingers by"
        onChange={(v) => v !== by && void commit(`${built.title}: fingers by ${v}`, [...drop, ...start[v as keyof typeof start]])}
        data={[
          { value: "auto", label: "By thickness" },
          { value: "count", label: "Count" },
          { value: "pitch", label: "Pitch" },
        ]}
      />
      {by === "count" && (
        <EntryField
          path={pointer("joints", jointKey, "count")}
          label="Fingers, both"
          kind="count"
          edit={`${built.title}, fingers`}
        />
      )}
      {by === "pitch" && <EntryField path={pointer("joints", jointKey, "pitch")} label="Pitch" edit={`${built.title}, pitch`} />}
      <ChoiceField
        label={built.axis ? `Starts at ${FACES[built.axis as Axis][0]}` : "Starts"}
        value={joint.starts ?? "a"}
        data={[
          { value: "a", label: names[0] },
          { value: "b", label: names[1] },
        ]}
        onSave={(v) =>
          void commit(`${built.title}: ${v === "a" ? names[0] : names[1]} starts`, [
            { op: "add", path: pointer("joints", jointKey, "starts"), value: v },
          ])
        }
      />
    </>
  );
}

function TabEntries({ jointKey, joint, names, built }: { jointKey: string; joint: Joint; names: string[]; built: JointOut }) {
  const doc = useDesign((s) => s.doc)!;
  const commit = useDesign((s) => s.commit);
  const listed = Object.keys(joint.tabs ?? {}).length > 0;
  const low = built.run[0];
  function list() {
    const tabs = Object.fromEntries(
      built.fingers.map((f, i) => [`t${i + 1}`, { at: entry((f.low + f.high) / 2 - low), length: entry(f.high - f.low) }]),
    );
    void commit(`${built.title}: tabs one by one`, [{ op: "add", path: pointer("joints", jointKey, "tabs"), value: tabs }]);
  }
  const entry = (mm: number) => ({ text: `${Number(mm.toFixed(3))} mm`, unit: "mm" });
  const p = (...k: string[]) => pointer("joints", jointKey, ...k);
  return (
    <>
      <div className="soft" style={{ marginBottom: 6 }}>
        Tabs on {names[0]} go through {names[1]}.
      </div>
      <SegmentedControl
        fullWidth
        value={listed ? "list" : "even"}
        style={{ marginBottom: 7 }}
        aria-label="Tabs by"
        onChange={(v) =>
          v === "list" ? list() : void commit(`${built.title}: tabs evenly`, [{ op: "add", path: p("tabs"), value: {} }])
        }
        data={[
          { value: "even", label: "Evenly" },
          { value: "list", label: "One by one" },
        ]}
      />
      {listed ? (
        <>
          {Object.keys(joint.tabs!).map((k, i) => (
            <div key={k} style={{ borderBottom: "1px solid var(--rule)", marginBottom: 5 }}>
              <EntryField path={p("tabs", k, "at")} label={`Tab ${i + 1}, middle`} edit={`${built.title}, tab ${i + 1}`} />
              <EntryField path={p("tabs", k, "length")} label="its length" edit={`${built.title}, tab ${i + 1}, length`} />
              {Object.keys(joint.tabs!).length > 1 && (
                <Button
                  size="compact-xs"
                  variant="subtle"
                  onClick={() => void commit(`${built.title}: remove tab ${i + 1}`, [{ op: "remove", path: p("tabs", k) }])}
                >
                  Remove tab {i + 1}
                </Button>
              )}
            </div>
          ))}
          <Button
            size="compact-xs"
            onClick={() =>
              void commit(`${built.title}: another tab`, [
                {
                  op: "add",
                  path: p("tabs", freshKey(joint.tabs!, "t")),
                  value: { at: entry((built.run[1] - low) / 2), length: entry(20) },
                },
              ])
            }
          >
            Another tab
          </Button>
        </>
      ) : (
        <>
          <EntryField
            path={p("number")}
            label="Tabs"
            kind="count"
            optional
            placeholder={String(built.fingers.length)}
            edit={`${built.title}, tabs`}
          />
          <EntryField
            path={p("length")}
            label="Tab length"
            optional
            placeholder={built.fingers[0] ? length(built.fingers[0].high - built.fingers[0].low, doc.display) : ""}
            edit={`${built.title}, tab length`}
          />
          <EntryField path={p("spacing")} label="Spacing" optional placeholder="spread evenly" edit={`${built.title}, spacing`} />
          <EntryField
            path={p("inset")}
            label="Inset"
            optional
            placeholder={built.fingers[0] ? length(built.fingers[0].low - low, doc.display) : ""}
            edit={`${built.title}, inset`}
          />
        </>
      )}
      <EntryField path={p("stand_over")} label="Stands over" edit={`${built.title}, stands over`} />
      {built.details.web !== undefined && (
        <div className="soft" style={{ fontSize: 12 }}>
          {length(built.details.web, doc.display)} of {names[1]} is left beyond the slots.
        </div>
      )}
    </>
  );
}

/** The run with its fingers or tabs, to scale along the run; the gap at a flank is drawn beside, enlarged. */
export function JointFigure({ joint, doc }: { joint: JointOut; doc: Doc }) {
  const [low, high] = joint.run;
  const run = high - low;
  if (run <= 0) return null;
  const [W, H] = [286, joint.kind === "finger" ? 84 : 84];
  const x = (v: number) => ((v - low) / run) * (W - 20) + 10;
  const tint = (k: string) => {
    const part = doc.parts[k];
    return part?.kind === "board" ? (doc.stocks[part.stock]?.tint ?? "#ccc") : "#ccc";
  };
  const depth = 26;
  const top = 22;
  const name = (k: string) => doc.parts[k]?.name.replaceAll("_", " ") ?? "";
  const wide = joint.fingers.reduce((m, f) => Math.min(m, f.high - f.low), run);
  const axis = joint.axis ? FACES[joint.axis as Axis] : ["", ""];
  return (
    <svg
      className="drawing"
      viewBox={`0 0 ${W} ${H + 22}`}
      style={{ marginTop: 8 }}
      role="img"
      aria-label={`${joint.title}: ${joint.fingers.length} along ${length(run, doc.display)}`}
    >
      <rect x={10} y={top - 12} width={W - 20} height={12} fill={tint(joint.a)} stroke="var(--ink)" strokeWidth={0.8} />
      <rect x={10} y={top + depth} width={W - 20} height={12} fill={tint(joint.b)} stroke="var(--ink)" strokeWidth={0.8} />
      <rect x={10} y={top + depth} width={W - 20} height={12} fill="var(--ink)" opacity={0.2} />
      {joint.kind === "tab_slot" && <rect x={10} y={top} width={W - 20} height={depth} fill={tint(joint.b)} opacity={0.55} />}
      {joint.fingers.map((f) => {
        const own = f.owner === joint.a;
        const gap = joint.fit > 0 ? 1 : 0;
        const wide = Math.max(0.5, x(f.high) - x(f.low) - 2 * gap);
        return (
          <g key={f.low}>
            <rect
              x={x(f.low) + gap}
              y={top}
              width={wide}
              height={depth}
              fill={own || f.owner === joint.b ? tint(f.owner) : "var(--paper-sunk)"}
            />
            {!own && <rect x={x(f.low) + gap} y={top} width={wide} height={depth} fill="var(--ink)" opacity={0.2} />}
            <path
              d={`M${x(f.low) + gap} ${own ? top : top + depth}V${own ? top + depth : top}H${x(f.low) + gap + wide}V${own ? top : top + depth}`}
              fill="none"
              stroke="var(--joint)"
              strokeWidth={1.1}
            />
          </g>
        );
      })}
      <text x={14} y={top - 3} fontSize={9} fill="#1f2b37">
        {name(joint.a)}
      </text>
      <text x={14} y={top + depth + 9.5} fontSize={9} fill="#1f2b37">
        {name(joint.b)}
      </text>
      <text x={10} y={H - 4} fontSize={9.5} fill="var(--ink-soft)">
        {axis[0]}
      </text>
      <text x={W - 10} y={H - 4} fontSize={9.5} fill="var(--ink-soft)" textAnchor="end">
        {axis[1]}
      </text>
      <text x={W / 2} y={H - 4} fontSize={10} fill="var(--ink)" textAnchor="middle" className="mono">
        {length(run, doc.display)}
      </text>
      <text x={10} y={H + 14} fontSize={10} fill="var(--ink)" className="mono">
        {plural(joint.fingers.length, joint.kind === "finger" ? "finger" : "tab")}, {joint.fingers.length > 1 ? "narrowest " : ""}{" "}
        {length(wide, doc.display)}
      </text>
    </svg>
  );
}
