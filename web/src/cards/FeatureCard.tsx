// The card of a hole, slot or mark: what it is, how large, and from where it is placed.
import { EntryField } from "../fields/EntryField";
import { ChoiceField, TextField } from "../fields/PlainField";
import { FACES, FRAME, type PlatePart, pointer } from "../lib/document";
import { linesOf, placedAlong, wordsOn } from "../lib/forms";
import { id } from "../lib/owner";
import { useDesign, useShown } from "../state/design";
import { formOf, useFeatureWord, useForms } from "../state/forms";
import { useView } from "../state/view";
import { CardHead } from "./CardHead";
import { DrawOnFace } from "./DrawOnFace";
import { removeSelected } from "./edits";
import { mirroredChoices, origins } from "./featureFields";
import { HoleScrew } from "./HoleScrew";
import { OutSwitch } from "./OutSwitch";
import { ProblemSection } from "./Problem";
import { RecordForm } from "./RecordForm";

export function FeatureCard({ partKey, featureKey }: { partKey: string; featureKey: string }) {
  const shown = useShown()!;
  const doc = useDesign((s) => s.doc)!;
  const commit = useDesign((s) => s.commit);
  const view = useView();
  const forms = useForms();
  const word = useFeatureWord();
  const board = doc.parts[partKey] as PlatePart | undefined;
  const feature = board?.features?.[featureKey];
  if (!board || !feature) return <p className="soft">It is gone.</p>;
  const frame = FRAME[board.plane];
  const base = ["parts", partKey, "features", featureKey];
  const form = formOf(forms.features, feature.kind);
  const words = feature.name || word(feature.kind);
  const along = form ? placedAlong(form, board.plane, feature) : [];
  const part = shown.built.parts.find((p) => p.key === partKey);
  const common = {
    path: base,
    record: feature,
    title: `${board.name}, ${words}`,
    plane: board.plane,
    words: () => wordsOn(board.plane, feature.edge),
  };
  const problems = shown.built.problems.filter((p) => p.owner === id.feature(partKey, featureKey));
  return (
    <>
      <CardHead
        title={words}
        remove="Remove feature"
        onRemove={() => void removeSelected({ kind: "feature", part: partKey, key: featureKey })}
      />
      <div className="soft">
        {word(feature.kind)} on{" "}
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
        {form && <RecordForm {...common} form={form} lines={linesOf({ ...board })} />}
        <OfItsKind partKey={partKey} featureKey={featureKey} kind={feature.kind} path={pointer(...base)} />
        {form?.mirrors && (
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
        {part?.face_a && form?.faced && (
          <ChoiceField
            label="On its"
            value={feature.face ?? (board.up === "a" ? part.face_a : (part.face_b ?? ""))}
            data={[part.face_a, part.face_b ?? ""].map((f) => ({ value: f, label: `${f} face` }))}
            onSave={(f) =>
              void commit(`${board.name}, ${words}: on its ${f}`, [{ op: "add", path: pointer(...base, "face"), value: f }])
            }
          />
        )}
      </section>
      <HoleScrew partKey={partKey} featureKey={featureKey} feature={feature} />
      <section hidden={!along.length}>
        <h3>Where</h3>
        {along.map((n) => (
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
      {form?.fields.some((f) => f.section === "rows") && (
        <section>
          <h3>In rows</h3>
          <RecordForm {...common} form={form} section="rows" />
        </section>
      )}
      <ProblemSection problems={problems} />
    </>
  );
}

/** What only features of one kind have. */
function OfItsKind({ partKey, featureKey, kind, path }: { partKey: string; featureKey: string; kind: string; path: string }) {
  if (kind === "shape") return <DrawOnFace part={partKey} feature={featureKey} />;
  return kind === "perforation" ? <OpenArea path={path} /> : null;
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
