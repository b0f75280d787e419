// Where the centre line of a new round or long part lies, along the two axes that it does not run along.
import { AXES, type Axis, type Entry, FACES } from "../lib/document";
import { DraftEntry } from "./DraftEntry";
import type { useDraftFault } from "./useDraft";

type Props = {
  axis: Axis;
  at: Record<string, Entry>;
  /** of the record with the places by axis */
  path: string;
  fault: ReturnType<typeof useDraftFault>;
  onChange: (at: Record<string, Entry>) => void;
};

export function CentreLine({ axis, at, path, fault, onChange }: Props) {
  return AXES.filter((a) => a !== axis).map((a) => (
    <DraftEntry
      key={a}
      label={`from ${FACES[a][0]}`}
      entry={at[a]}
      path={`${path}/${a}`}
      axis={a}
      fault={fault}
      onChange={(e) => onChange({ ...at, [a]: e })}
    />
  ));
}
