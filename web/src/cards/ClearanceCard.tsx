// The card of a stated clearance: how much room has to stay between two places, and how much there is.
import { EntryField } from "../fields/EntryField";
import { ChoiceField, TextField } from "../fields/PlainField";
import { AXIS_WORDS, pointer } from "../lib/document";
import { length } from "../lib/figures";
import { id } from "../lib/owner";
import { useDesign, useShown } from "../state/design";
import { placeWords } from "../state/shape";
import { useView } from "../state/view";
import { CardHead } from "./CardHead";
import { OutSwitch } from "./OutSwitch";
import { ProblemSection } from "./Problem";

export function ClearanceCard({ clearanceKey }: { clearanceKey: string }) {
  const shown = useShown()!;
  const doc = useDesign((s) => s.doc)!;
  const { commit } = useDesign.getState();
  const { select } = useView.getState();
  const rule = doc.clearances[clearanceKey];
  if (!rule) return <p className="soft">This rule is gone.</p>;
  const base = ["clearances", clearanceKey];
  const room = shown.built.clearances.find((c) => c.key === clearanceKey)?.room;
  const problems = shown.built.problems.filter((p) => p.owner === id.clearance(clearanceKey));
  return (
    <>
      <CardHead
        title={rule.name}
        remove="Remove clearance"
        onRemove={() => {
          select(null);
          void commit(`No longer watch ${rule.name}`, [{ op: "remove", path: pointer(...base) }]);
        }}
      />
      <div className="soft">
        From the {placeWords(rule.a, shown)} to the {placeWords(rule.b, shown)}
      </div>
      <div className={problems.length ? "error" : "good"} data-testid="room">
        {room == null ? "one of its places is gone" : `now ${length(room, doc.display)} of room`}
      </div>
      <section>
        <h3>Rule</h3>
        <TextField
          label="Name"
          value={rule.name}
          maxLength={60}
          onSave={(v) => v && void commit(`Name: ${v}`, [{ op: "replace", path: pointer(...base, "name"), value: v }])}
        />
        <ChoiceField
          label="Measured"
          value={rule.along}
          data={[
            { value: "shortest", label: "the shortest way" },
            ...(["x", "y", "z"] as const).map((a) => ({ value: a, label: AXIS_WORDS[a] })),
          ]}
          onSave={(v) => void commit(`${rule.name}: ${v}`, [{ op: "add", path: pointer(...base, "along"), value: v }])}
        />
        {(["least", "most"] as const).map((limit) => (
          <EntryField
            key={limit}
            path={pointer(...base, limit)}
            label={`At ${limit}`}
            optional
            placeholder="no limit"
            edit={`${rule.name}, at ${limit}`}
          />
        ))}
        <OutSwitch path={pointer(...base)} name={rule.name} out={rule.out} />
      </section>
      <ProblemSection problems={problems} />
    </>
  );
}
