// The card of a hole, slot or mark: what it is, how large, and from where it is placed.
import { EntryField } from "../fields/EntryField";
import { ChoiceField, TextField } from "../fields/PlainField";
import { type Axis, FACES, FEATURE_WORDS, FRAME, type PlatePart, pointer } from "../lib/document";
import { id } from "../lib/owner";
import { useDesign, useShown } from "../state/design";
import { useView } from "../state/view";
import { CardHead } from "./CardHead";
import { removeSelected } from "./edits";
import { choicesOf, FIELDS, labelOf, mirroredChoices, origins, placedAlong } from "./featureFields";
import { OutSwitch } from "./OutSwitch";
import { ProblemSection } from "./Problem";

export function FeatureCard({ partKey, featureKey }: { partKey: string; featureKey: string }) {
  const shown = useShown()!;
  const doc = useDesign((s) => s.doc)!;
  const commit = useDesign((s) => s.commit);
  const view = useView();
  const board = doc.parts[partKey] as PlatePart | undefined;
  const feature = board?.features?.[featureKey];
  if (!board || !feature) return <p className="soft">It is gone.</p>;
  const frame = FRAME[board.plane];
  const base = ["parts", partKey, "features", featureKey];
  const words = feature.name || FEATURE_WORDS[feature.kind];
  const part = shown.built.parts.find((p) => p.key === partKey);
  const problems = shown.built.problems.filter((p) => p.owner === id.feature(partKey, featureKey));
  return (
    <>
      <CardHead
        title={words}
        remove="Remove feature"
        onRemove={() => void removeSelected({ kind: "feature", part: partKey, key: featureKey })}
      />
      <div className="soft">
        {FEATURE_WORDS[feature.kind]} on{" "}
        <button
          type="button"
          className="linkrow"
          style={{ display: "inline", width: "auto", padding: 0, textDecoration: "underline" }}
          onClick={() => view.select({ kind: "part", key: partKey })}
        >
          {board.name.replaceAll("_", " ")}
        </button>
      </div>
      <section>
        <h3>Entries</h3>
        <TextField
          label="Name"
          value={feature.name}
          maxLength={40}
          onSave={(name) => void commit(`${board.name}: ${name}`, [{ op: "add", path: pointer(...base, "name"), value: name }])}
        />
        {feature.kind === "mark_text" && (
          <TextField
            label="Text"
            value={feature.text ?? ""}
            onSave={(text) =>
              text && void commit(`${board.name}: text ${text}`, [{ op: "replace", path: pointer(...base, "text"), value: text }])
            }
          />
        )}
        {choicesOf(feature.kind, board).map((c) => (
          <ChoiceField
            key={c.field}
            label={c.label}
            value={String(feature[c.field] ?? c.data[0].value)}
            data={c.data}
            onSave={(v) =>
              void commit(`${board.name}, ${words}: ${v}`, [{ op: "add", path: pointer(...base, c.field), value: v }])
            }
          />
        ))}
        {FIELDS[feature.kind].map((f) => (
          <EntryField
            key={f.field}
            path={pointer(...base, f.field)}
            label={labelOf(f, board, String(feature.edge ?? ""))}
            kind={f.kind}
            optional={f.optional}
            placeholder={f.placeholder}
            axis={feature.kind === "trim" ? (String(feature.axis) as Axis) : undefined}
            edit={`${board.name}, ${words}, ${f.label.toLowerCase()}`}
          />
        ))}
        {feature.kind === "perforation" && <OpenArea path={pointer(...base)} />}
        {!["edge_hole", "rebate", "corner", "taper", "edge_curve", "edge_notch", "trim"].includes(feature.kind) && (
          <ChoiceField
            label="There"
            value={String(feature.mirrored ?? "none")}
            data={mirroredChoices(board)}
            onSave={(v) =>
              void commit(`${board.name}, ${words}: ${v === "none" ? "once" : "mirrored"}`, [
                { op: "add", path: pointer(...base, "mirrored"), value: v },
              ])
            }
          />
        )}
        <OutSwitch path={pointer(...base)} name={`${board.name}, ${words}`} out={Boolean(feature.out)} />
        {part?.face_a && !["edge_hole", "corner", "taper", "edge_curve", "edge_notch", "trim"].includes(feature.kind) && (
          <ChoiceField
            label="On its"
            value={feature.face ?? (board.up === "a" ? part.face_a : part.face_b)}
            data={[part.face_a, part.face_b].map((f) => ({ value: f, label: `${f} face` }))}
            onSave={(f) =>
              void commit(`${board.name}, ${words}: on its ${f}`, [{ op: "add", path: pointer(...base, "face"), value: f }])
            }
          />
        )}
      </section>
      <section hidden={placedAlong(feature.kind, board, feature).length === 0}>
        <h3>Where</h3>
        {placedAlong(feature.kind, board, feature).map((n) => (
          <div key={n}>
            <ChoiceField
              label={`${FACES[frame[n]][0]}–${FACES[frame[n]][1]}`}
              value={feature[n].origin}
              data={origins(frame[n])}
              onSave={(o) =>
                void commit(`${board.name}, ${words}: from ${o}`, [
                  { op: "replace", path: pointer(...base, n, "origin"), value: o },
                ])
              }
            />
            <EntryField
              path={pointer(...base, n, "offset")}
              label={feature[n].origin === "room" ? "at" : "by"}
              axis={feature[n].origin === "room" ? frame[n] : undefined}
              edit={`${board.name}, ${words}, place`}
            />
          </div>
        ))}
      </section>
      <ProblemSection problems={problems} />
    </>
  );
}

/** How many holes a perforation has, and how much of its field is open. */
export function OpenArea({ path }: { path: string }) {
  const { values } = useShown()!.built;
  const [holes, share] = [values[`${path}/holes`]?.value, values[`${path}/open_area`]?.value];
  if (holes === undefined || share === undefined) return null;
  return (
    <p className="soft" data-testid="open-area">
      <span className="figure">{holes}</span> holes, <span className="figure">{(share * 100).toFixed(1)} %</span> of the field is
      open
    </p>
  );
}
