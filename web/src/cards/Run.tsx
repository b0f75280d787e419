// From where to where a new part runs along an axis.
import { type Axis, type Entry, FACES } from "../lib/document";
import { DraftEntry } from "./DraftEntry";
import type { useDraftFault } from "./useDraft";

type Props = {
  axis: Axis;
  run: [Entry, Entry];
  /** of the record with both ends */
  path: string;
  fault: ReturnType<typeof useDraftFault>;
  onChange: (run: [Entry, Entry]) => void;
};

export function Run({ axis, run: [low, high], path, fault, onChange }: Props) {
  const own = { axis, fault };
  return (
    <div>
      <DraftEntry
        label={`${FACES[axis][0]} from`}
        entry={low}
        path={`${path}/low`}
        {...own}
        onChange={(e) => onChange([e, high])}
      />
      <DraftEntry
        label={`to ${FACES[axis][1]}`}
        entry={high}
        path={`${path}/high`}
        {...own}
        onChange={(e) => onChange([low, e])}
      />
    </div>
  );
}
