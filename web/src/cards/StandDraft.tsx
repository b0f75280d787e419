// Hardware that stands on a face where it was pressed: a foot on it, a magnet or a bearing let in; tried in the picture, and one edit.
import { useState } from "react";
import type { HardwareOut } from "../api/types";
import { mass } from "../lib/figures";
import { useDesign } from "../state/design";
import { FindHardware } from "./FindHardware";
import { NewPartForm, useDraftedOperation } from "./NewPart";

const ROLES = ["foot", "magnet", "bearing", "pin", "dowel"];
const SAYS: Record<string, string> = {
  foot: "It stands on the face, with its screw.",
  magnet: "It is let in flush with the face.",
  bearing: "It is let in flush with the face.",
  pin: "Half of it lies in the part.",
  dowel: "Half of it lies in the part.",
};

export function StandDraft({ part, face, at }: { part: string; face: string; at: [number, number, number] }) {
  const doc = useDesign((s) => s.doc)!;
  const [taken, setTaken] = useState<HardwareOut | null>(null);
  const { fault, add } = useDraftedOperation(
    taken ? { operation: "stand_on", designation: taken.designation, part, face, at } : null,
  );
  return (
    <NewPartForm
      title={`Hardware on ${doc.parts[part]?.name.replaceAll("_", " ") ?? "a part"}`}
      words="Put it there"
      fault={fault}
      onAdd={add}
    >
      <section>
        <div className="soft">On its {face}, where it was pressed: a foot, a magnet, a bearing, a pin or a dowel.</div>
        <FindHardware
          roles={ROLES}
          onTake={setTaken}
          placeholder="magnet 10, foot 20"
          other="That does not stand on a face by itself."
        />
        {taken && (
          <div data-testid="taken">
            <b>{taken.name}</b> <span className="soft">{mass(taken.mass)}</span>
            <div className="soft">{SAYS[taken.role]}</div>
          </div>
        )}
      </section>
    </NewPartForm>
  );
}
