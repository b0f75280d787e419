import { Button, Select } from "@mantine/core";
import { useMemo, useState } from "react";
import { ChoiceField } from "../fields/PlainField";
import { type Entry, FACES, FRAME, freshKey, isPlate, nextOrder, type PlatePart, pointer } from "../lib/document";
import { begun, endsOfEdge, linesOf, placedAlong } from "../lib/forms";
import { typedLength } from "../lib/ghost";
import { id } from "../lib/owner";
import { fresh, typed, useDesign } from "../state/design";
import { formOf, useFeatureWord, useForms } from "../state/forms";
import { useView } from "../state/view";
import { DraftEntry } from "./DraftEntry";
import { DraftForm } from "./DraftForm";
import { origins } from "./featureFields";
import { useDraftFault, useTried } from "./useDraft";

const isEmpty = (value: unknown) => typeof value === "object" && !(value as Entry).text.trim();

type Spots = Record<"u" | "v", { origin: string; offset: Entry }>;

/** Where a feature begins: where the board was pressed, else in its middle. */
function firstSpots(board: PlatePart | undefined, at: [number, number] | undefined): Spots {
  const middle = { origin: "centre", offset: typed("0") };
  if (!board || !at) return { u: middle, v: middle };
  const frame = FRAME[board.plane];
  const unit = useDesign.getState().doc?.unit ?? "mm";
  const [u, v] = (["u", "v"] as const).map((n, k) => ({
    origin: FACES[frame[n]][0],
    offset: typed(typedLength(at[k], unit)),
  }));
  return { u, v };
}

export function FeatureDraft({ part, as, at }: { part?: string; as?: string; at?: [number, number] }) {
  const doc = useDesign((s) => s.doc)!;
  const commit = useDesign((s) => s.commit);
  const { setDraft, select } = useView.getState();
  const [kind, setKind] = useState(as ?? "hole");
  const [typedIn, setTypedIn] = useState<Record<string, Record<string, unknown>>>({});
  const { features: forms } = useForms();
  const form = formOf(forms, kind);
  const word = useFeatureWord();
  const board = part ? (doc.parts[part] as PlatePart | undefined) : undefined;
  const [spots, setSpots] = useState(() => firstSpots(board, at));
  const key = useMemo(() => freshKey(board?.features ?? {}, kind), [board, kind]);
  const own = typedIn[kind] ?? {};
  const filled = form && board ? { ...begun(form, fresh, board.plane), ...own } : {};
  // what may be left empty is not said
  const given = Object.entries(filled).filter(([name, v]) => !isEmpty(v) || !form?.fields.find((f) => f.name === name)?.optional);
  const record = { kind, order: nextOrder(board?.features ?? {}), ...spots, ...Object.fromEntries(given) };
  const along = form && board ? placedAlong(form, board.plane, record) : [];
  const path = part ? pointer("parts", part, "features", key) : "";
  const patch = board ? [{ op: "add", path, value: record }] : null;
  useTried(patch);
  const fault = useDraftFault(path || "/none", part ? id.feature(part, key) : "");
  const frame = board ? FRAME[board.plane] : null;
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        if (patch && part && board)
          void commit(`${word(kind)} in ${board.name}`, patch).then((fine) => {
            if (fine && kind === "shape") setDraft({ kind: "outline", part, feature: key });
            else if (fine) select({ kind: "feature", part, key });
          });
      }}
    >
      <h2>Hole, pocket or mark</h2>
      <section>
        <ChoiceField
          label="On"
          value={part ?? ""}
          data={Object.entries(doc.parts)
            .filter(([, p]) => isPlate(p))
            .map(([v, p]) => ({ value: v, label: p.name.replaceAll("_", " ") }))}
          onSave={(p) => setDraft({ kind: "feature", part: p })}
        />
        <div className="entry">
          <label htmlFor="feature-kind">Kind</label>
          <Select
            id="feature-kind"
            value={kind}
            data={forms.map((f) => ({ value: f.kind, label: f.title }))}
            onChange={(v) => v && setKind(v)}
          />
        </div>
        {form && board && (
          <DraftForm
            key={kind}
            form={form}
            path={path}
            record={{ ...record, ...filled }}
            plane={board.plane}
            lines={linesOf({ ...board })}
            words={endsOfEdge(board.plane, filled.edge)}
            fault={fault}
            onChange={(field, value) => setTypedIn({ ...typedIn, [kind]: { ...own, [field]: value } })}
          />
        )}
      </section>
      {board && frame && along.length > 0 && (
        <section>
          <h3>Where</h3>
          {along.map((n) => (
            <div key={n}>
              <ChoiceField
                label={`${FACES[frame[n]][0]}–${FACES[frame[n]][1]}`}
                value={spots[n].origin}
                data={origins(frame[n])}
                onSave={(origin) => setSpots({ ...spots, [n]: { ...spots[n], origin } })}
              />
              <DraftEntry
                label={spots[n].origin === "room" ? "at" : "by"}
                entry={spots[n].offset}
                path={`${path}/${n}/offset`}
                axis={spots[n].origin === "room" ? frame[n] : undefined}
                fault={fault}
                onChange={(offset) => setSpots({ ...spots, [n]: { ...spots[n], offset } })}
              />
            </div>
          ))}
        </section>
      )}
      {fault && !fault.entry.startsWith(`${path}/`) && (
        <p className="error" role="alert">
          {fault.message}
        </p>
      )}
      <div className="row" style={{ marginTop: 12 }}>
        <Button type="submit" variant="filled" disabled={!board}>
          Add
        </Button>
        <Button onClick={() => setDraft(null)}>Leave it</Button>
      </div>
    </form>
  );
}
