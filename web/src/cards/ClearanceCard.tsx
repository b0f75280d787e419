// The card of a stated clearance: how much room has to stay between two places, and how much there is.
import { ActionIcon, Switch, Tooltip } from "@mantine/core";
import { IconTrash } from "@tabler/icons-react";
import { EntryField } from "../fields/EntryField";
import { ChoiceField, TextField } from "../fields/PlainField";
import { AXIS_WORDS, type Board, originalOf, type Place, pointer } from "../lib/document";
import { length } from "../lib/figures";
import { useDesign, useShown } from "../state/design";
import { words } from "../state/shape";
import { useView } from "../state/view";
import { placeWords } from "../stations/build/MeasurePanel";
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
  const problems = shown.built.problems.filter((p) => p.owner === `clearance:${clearanceKey}`);
  const path = (key: string) => words(shown.built.parts.find((p) => p.key === key)?.path ?? key);
  const name = (place: Place) =>
    placeWords(place, path, (k) => (doc.parts[originalOf(place.part)] as Board | undefined)?.features?.[k]?.name ?? "");
  return (
    <>
      <div className="row">
        <h2 className="grow">{rule.name}</h2>
        <Tooltip label="Remove">
          <ActionIcon
            aria-label="Remove clearance"
            onClick={() => {
              select(null);
              void commit(`No longer watch ${rule.name}`, [{ op: "remove", path: pointer(...base) }]);
            }}
          >
            <IconTrash size={17} />
          </ActionIcon>
        </Tooltip>
      </div>
      <div className="soft">
        From the {name(rule.a)} to the {name(rule.b)}
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
        <EntryField
          path={pointer(...base, "least")}
          label="At least"
          optional
          placeholder="no limit"
          edit={`${rule.name}, at least`}
        />
        <EntryField
          path={pointer(...base, "most")}
          label="At most"
          optional
          placeholder="no limit"
          edit={`${rule.name}, at most`}
        />
        <Switch
          size="sm"
          label="left out for now"
          checked={rule.out}
          onChange={(e) =>
            void commit(`${rule.name}: ${e.currentTarget.checked ? "left out" : "back in"}`, [
              { op: "add", path: pointer(...base, "out"), value: e.currentTarget.checked },
            ])
          }
        />
      </section>
      <ProblemSection problems={problems} />
    </>
  );
}
