// Where a bore that is being drafted runs: along which axis of what, at which places, and how it leans.
import { ChoiceField } from "../fields/PlainField";
import { AXES, AXIS_WORDS, type Axis, type Doc, type Entry, FACES, ordered, within } from "../lib/document";
import { useDesign } from "../state/design";
import { DraftEntry } from "./DraftEntry";
import { towardNote } from "./leaning";

/** As it is typed: a place along every axis, the lean empty where it stands straight. */
export type DraftLine = { axis: Axis; of: string; at: Record<Axis, Entry>; lean: Entry; toward: Entry };

const leans = (line: DraftLine) => line.lean.text.trim() !== "";
const placesOf = (line: DraftLine) => [...AXES.filter((a) => a !== line.axis), ...(leans(line) ? [line.axis] : [])];

/** A bore's fields of it. */
export function lineOf(line: DraftLine) {
  const { axis, of, lean, toward } = line;
  const at = Object.fromEntries(placesOf(line).map((a) => [a, line.at[a]]));
  return leans(line) ? { axis, of, at, lean, toward } : { axis, of, at };
}

type Props = {
  path: string;
  line: DraftLine;
  fault: { entry: string; message: string } | null;
  onChange: (change: Partial<DraftLine>) => void;
};

export function BoreRuns({ path, line, fault, onChange }: Props) {
  const doc = useDesign((s) => s.doc)!;
  const { axis, of, at, lean, toward } = line;
  const turned = turnedParts(doc, of);
  return (
    <>
      <ChoiceField
        label="Runs"
        value={axis}
        data={AXES.map((a) => ({ value: a, label: AXIS_WORDS[a] }))}
        onSave={(a) => onChange({ axis: a as Axis })}
      />
      {turned.length > 0 && (
        <ChoiceField
          label="Axes of"
          value={of}
          data={[{ value: "", label: "the room" }, ...turned.map(([value, name]) => ({ value, label: `${name}, as it stands` }))]}
          onSave={(to) => onChange({ of: to })}
        />
      )}
      {placesOf(line).map((a) => (
        <DraftEntry
          key={a}
          label={`${FACES[a][0]}–${FACES[a][1]} at`}
          entry={at[a]}
          path={`${path}/at/${a}`}
          axis={a}
          fault={fault}
          onChange={(e) => onChange({ at: { ...at, [a]: e } })}
        />
      ))}
      <DraftEntry
        label="Leans"
        entry={lean}
        path={`${path}/lean`}
        kind="angle"
        placeholder="not at all"
        fault={fault}
        onChange={(e) => onChange({ lean: e })}
      />
      {leans(line) && (
        <>
          <DraftEntry
            label="Toward"
            entry={toward}
            path={`${path}/toward`}
            kind="angle"
            fault={fault}
            onChange={(e) => onChange({ toward: e })}
          />
          <div className="soft" style={{ fontSize: 12 }}>
            {towardNote(axis)}
          </div>
        </>
      )}
    </>
  );
}

/** Parts whose own axes may not be the room's, key and name, and the one that is chosen. */
function turnedParts(doc: Doc, chosen: string): [string, string][] {
  const turned = (key: string) => {
    const part = doc.parts[key];
    if (!("turns" in part)) return false;
    return [part, ...within(doc, part.group).map((g) => doc.groups[g])].some((x) => Object.keys(x.turns).length > 0);
  };
  return ordered(doc.parts)
    .filter(([k]) => k === chosen || turned(k))
    .map(([k, p]) => [k, p.name.replaceAll("_", " ")]);
}
