// Connectors on points of a frame: which, and how deep their sockets are; tried in the picture, and one edit.
import { Button } from "@mantine/core";
import { useState } from "react";
import { ChoiceField, TextField } from "../fields/PlainField";
import { ordered } from "../lib/document";
import { useDesign } from "../state/design";
import { useForms } from "../state/forms";
import { useWorkedOut } from "../state/operations";
import { words } from "../state/shape";
import { useView } from "../state/view";
import { useTried } from "./useDraft";

const FITS = "";
const MEASURED = "measured";
/** How deep sockets are where nothing is said. */
const DEEP = { mm: "30 mm", in: "1 1/4 in" };

export function ConnectorDraft({ frame, points }: { frame: string; points: string[] }) {
  const doc = useDesign((s) => s.doc)!;
  const { connectors } = useForms();
  const { select } = useView.getState();
  const [shape, setShape] = useState(FITS);
  const [depth, setDepth] = useState(DEEP[doc.unit]);
  const [busy, setBusy] = useState(false);
  const { label, patch, fault, fresh } = useWorkedOut({ operation: "add_connectors", frame, points, shape, depth });
  useTried(patch);
  const record = doc.frames[frame];
  const numbers = record ? ordered(record.points).flatMap(([k], n) => (points.includes(k) ? [n + 1] : [])) : [];
  const chosen = connectors?.find((c) => c.kind === shape);
  const leave = () => select({ kind: "frame", key: frame });
  function add() {
    if (!patch || !fresh || busy) return;
    setBusy(true);
    void useDesign
      .getState()
      .commit(label, patch)
      .then((fine) => (fine ? leave() : setBusy(false)));
  }
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        add();
      }}
    >
      <h2>{points.length === 1 ? "New connector" : "New connectors"}</h2>
      <p className="soft" style={{ margin: "2px 0 10px" }}>
        {points.length
          ? `On point ${numbers.join(", ")} of ${words(record?.name ?? "the frame")}. `
          : `Wherever tubes of ${words(record?.name ?? "the frame")} meet by their middles. `}
        The tubes end in its sockets, and their joints there go.
      </p>
      <section>
        <ChoiceField
          label="Connector"
          value={shape || "fits"}
          data={[
            { value: "fits", label: "whichever fits" },
            ...(connectors ?? []).map((c) => ({ value: c.kind, label: c.title })),
            { value: MEASURED, label: "Made to measure" },
          ]}
          onSave={(v) => setShape(v === "fits" ? FITS : v)}
        />
        <p className="soft">
          {chosen
            ? `${chosen.words}.`
            : shape === MEASURED
              ? "sockets that look along the lines, and follow them; printed or turned by the shop."
              : "the simplest that takes all that meets; where none does, one made to measure."}
        </p>
        <TextField label="Sockets are deep" value={depth} onSave={(text) => setDepth(text || DEEP[doc.unit])} live />
        {label && !fault && <p>{label}.</p>}
      </section>
      {fault && (
        <p className="error" role="alert">
          {fault}
        </p>
      )}
      <div className="row" style={{ marginTop: 12 }}>
        <Button type="submit" variant="filled" disabled={!patch || !fresh || busy || Boolean(fault)}>
          {points.length === 1 ? "Add connector" : "Add connectors"}
        </Button>
        <Button onClick={leave}>Leave it</Button>
      </div>
    </form>
  );
}
