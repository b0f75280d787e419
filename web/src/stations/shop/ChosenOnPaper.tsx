// What is chosen on a paper: the words round a dimension's figure, moved by the keyboard, left out; a note's text.
import { Button, Checkbox, Popover, Select } from "@mantine/core";
import type { PaperOut } from "../../api/types";
import { RecordForm } from "../../cards/RecordForm";
import { EntryField } from "../../fields/EntryField";
import { InPopover } from "../../fields/PlainField";
import { pointer } from "../../lib/document";
import { useDesign, useShown } from "../../state/design";
import { useForms } from "../../state/forms";
import { operate } from "../../state/operations";
import { usePapers } from "../../state/papers";
import { Committed } from "./Committed";

const FIRST = [
  "Press the first place: a hole's middle, an edge, a corner.",
  "Press the second place.",
  "Press where the line goes.",
];
const TURN = [
  "Press where both ways meet.",
  "Press a place on the one way.",
  "Press a place on the other.",
  "Press where the arc goes.",
];

/** What is to be pressed next. */
function says(tool: string, picked: number): string {
  if (tool === "note") return "Press where the note goes; on a named place it points there. Escape leaves.";
  if (tool === "detail") return "Press the place that the detail shows: a hole's middle, a corner. Escape leaves.";
  return `${(tool === "angle" ? TURN : FIRST)[picked] ?? ""} Escape leaves.`;
}

type Props = { paper: PaperOut; onFault: (fault: string) => void };

export function ChosenOnPaper({ paper, onFault }: Props) {
  const { chosen, tool, picked } = usePapers();
  const { doc } = useShown()!;
  const symbols = useForms().paper_note?.fields.find((f) => f.name === "symbol")?.choices ?? [];
  const own = doc.papers?.sheets?.[paper.subject];
  if (tool)
    return (
      <div className="paperhint" role="status">
        {says(tool, picked.length)}
      </div>
    );
  if (!chosen) return <LeftOut paper={paper} onFault={onFault} />;
  const dimension = paper.dimensions.find((d) => d.name === chosen);
  if (dimension) {
    const said = own?.dimensions?.[chosen];
    const words = {
      before: said?.before ?? "",
      after: said?.after ?? "",
      tolerance: said?.tolerance ?? "",
      both: said?.both ?? false,
    };
    const say = async (change: Partial<typeof words>) =>
      onFault(await operate({ operation: "say_dimension", subject: paper.subject, name: chosen, ...words, ...change }));
    return (
      <div className="row paperhint" role="group" aria-label="The chosen dimension">
        <b className="figure">{dimension.text}</b>
        {dimension.entry && (
          <EntryField
            key={dimension.entry}
            path={dimension.entry}
            label={dimension.entry_word}
            edit={dimension.entry_word}
            kind={dimension.kind === "angle" ? "angle" : "length"}
          />
        )}
        <Committed label="Before" value={words.before} maxLength={40} onSave={(before) => say({ before })} />
        <Committed
          label="Tolerance"
          value={words.tolerance}
          placeholder="±0.1 or H7"
          maxLength={20}
          onSave={(tolerance) => say({ tolerance })}
        />
        <Committed label="After" value={words.after} onSave={(after) => say({ after })} />
        <Checkbox label="In both units" checked={words.both} onChange={(e) => void say({ both: e.currentTarget.checked })} />
        <Button
          onClick={async () => {
            usePapers.getState().choose("");
            onFault(
              await operate(
                dimension.said
                  ? { operation: "remove_from_paper", subject: paper.subject, name: chosen }
                  : { operation: "show_dimension", subject: paper.subject, name: chosen, shown: false },
              ),
            );
          }}
        >
          {dimension.said ? "Take it away" : "Leave it out"}
        </Button>
      </div>
    );
  }
  const [kind, key] = chosen.split("/");
  const note = kind === "note" ? own?.notes?.[key] : undefined;
  if (note)
    return (
      <div className="row paperhint papernote" role="group" aria-label="The chosen note">
        <Select
          label="Symbol"
          allowDeselect={false}
          w={190}
          value={note.symbol ?? ""}
          data={symbols.map((c) => ({ value: c.value, label: c.label }))}
          onChange={(symbol) =>
            void useDesign
              .getState()
              .commit("A symbol on paper", [
                { op: "add", path: pointer("papers", "sheets", paper.subject, "notes", key, "symbol"), value: symbol ?? "" },
              ])
          }
        />
        <Committed
          label="Note"
          value={note.note ?? ""}
          maxLength={2000}
          onSave={(text) =>
            useDesign
              .getState()
              .commit("A note on paper", [
                { op: "add", path: pointer("papers", "sheets", paper.subject, "notes", key, "note"), value: text },
              ])
          }
        />
        <Button
          onClick={async () => {
            usePapers.getState().choose("");
            onFault(await operate({ operation: "remove_from_paper", subject: paper.subject, name: chosen }));
          }}
        >
          Take it away
        </Button>
      </div>
    );
  return <ChosenView paper={paper} onFault={onFault} />;
}

/** A view that is chosen, with what can be said of it; of anything else that it can be moved. */
function ChosenView({ paper, onFault }: Props) {
  const { chosen } = usePapers();
  const { doc } = useShown()!;
  const forms = useForms();
  const name = chosen.startsWith("view/") ? chosen.slice(5) : "";
  const [kind, key] = name.split("/");
  const said = doc.papers?.sheets?.[paper.subject];
  const form = kind === "view" ? forms.paper_view : kind === "detail" ? forms.paper_detail : undefined;
  const record = kind === "view" ? said?.views?.[key] : kind === "detail" ? said?.details?.[key] : undefined;
  const put = record || kind === "section";
  return (
    <div className="row paperhint" role="group" aria-label="What is chosen">
      <span className="soft">Drag it, or move it by the arrow keys.</span>
      {form && record && (
        <Popover position="bottom-start" width={300} shadow="md" withinPortal>
          <Popover.Target>
            <Button size="compact-xs">Set it…</Button>
          </Popover.Target>
          <Popover.Dropdown style={{ maxHeight: 520, overflow: "auto" }}>
            <InPopover value={true}>
              <RecordForm
                form={form}
                path={["papers", "sheets", paper.subject, `${kind}s`, key]}
                record={{ ...record }}
                title={kind === "view" ? "View" : "Detail"}
              />
            </InPopover>
          </Popover.Dropdown>
        </Popover>
      )}
      {name && (
        <Button
          size="compact-xs"
          onClick={async () => {
            usePapers.getState().choose("");
            onFault(
              await operate(
                put
                  ? { operation: "remove_from_paper", subject: paper.subject, name }
                  : { operation: "show_view", subject: paper.subject, name, shown: false },
              ),
            );
          }}
        >
          {put ? "Take it away" : "Leave it out"}
        </Button>
      )}
    </div>
  );
}

/** Dimensions that were left out, to be put in again. */
function LeftOut({ paper, onFault }: Props) {
  const { doc } = useShown()!;
  const out = Object.entries(doc.papers?.sheets?.[paper.subject]?.dimensions ?? {}).filter(([, d]) => d.out);
  if (!out.length) return null;
  return (
    <div className="row paperhint">
      <span className="soft">
        {out.length} {out.length === 1 ? "dimension is" : "dimensions are"} left out.
      </span>
      <Button
        onClick={async () =>
          onFault(
            await operate({ operation: "show_dimension", subject: paper.subject, name: out[out.length - 1][0], shown: true }),
          )
        }
      >
        Put the last one in again
      </Button>
    </div>
  );
}
