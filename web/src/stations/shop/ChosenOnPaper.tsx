// What is chosen on a paper: the words round a dimension's figure, moved by the keyboard, left out; a note's text.
import { Button, Checkbox } from "@mantine/core";
import type { PaperOut } from "../../api/types";
import { pointer } from "../../lib/document";
import { useDesign, useShown } from "../../state/design";
import { operate } from "../../state/operations";
import { usePapers } from "../../state/papers";
import { Committed } from "./PaperBar";

type Props = { paper: PaperOut; onFault: (fault: string) => void };

export function ChosenOnPaper({ paper, onFault }: Props) {
  const { chosen, tool, first } = usePapers();
  const { doc } = useShown()!;
  const own = doc.papers?.sheets?.[paper.subject];
  if (tool)
    return (
      <div className="paperhint" role="status">
        {tool === "note"
          ? "Press where the note goes; on a named place it points there. Escape leaves."
          : first
            ? "Press the second place, then where the line goes. Escape leaves."
            : "Press the first place: a hole's middle, an edge, a corner. Escape leaves."}
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
        <Committed
          label="Note"
          value={note.note ?? ""}
          maxLength={2000}
          onSave={(text) =>
            useDesign
              .getState()
              .commit("A note on paper", [
                { op: "replace", path: pointer("papers", "sheets", paper.subject, "notes", key, "note"), value: text },
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
  return (
    <div className="paperhint soft" role="status">
      Drag it, or move it by the arrow keys.
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
