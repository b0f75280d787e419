import { Button, Select, TextInput } from "@mantine/core";
import { useMemo, useState } from "react";
import { ChoiceField } from "../fields/PlainField";
import { type Entry, FACES, FEATURE_WORDS, FRAME, freshKey, isPlate, nextOrder, type PlatePart, pointer } from "../lib/document";
import { id } from "../lib/owner";
import { fresh, typed, useDesign } from "../state/design";
import { useView } from "../state/view";
import { DraftEntry } from "./DraftEntry";
import { choicesOf, FIELDS, labelOf, origins, placedAlong } from "./featureFields";
import { useDraftFault, useTried } from "./useDraft";

export function FeatureDraft({ part }: { part?: string }) {
  const doc = useDesign((s) => s.doc)!;
  const commit = useDesign((s) => s.commit);
  const { setDraft, select } = useView.getState();
  const [kind, setKind] = useState("hole");
  const [text, setText] = useState("MADE HERE");
  const [choices, setChoices] = useState<Record<string, string>>({});
  const [entries, setEntries] = useState<Record<string, Entry>>({});
  const [spots, setSpots] = useState<Record<"u" | "v", { origin: string; offset: Entry }>>({
    u: { origin: "centre", offset: typed("0") },
    v: { origin: "centre", offset: typed("0") },
  });
  const board = part ? (doc.parts[part] as PlatePart | undefined) : undefined;
  const key = useMemo(() => freshKey(board?.features ?? {}, kind), [board, kind]);
  const value = (field: string) => entries[`${kind}.${field}`] ?? fresh(FIELDS[kind].find((f) => f.field === field)?.first ?? "");
  const picked = board
    ? Object.fromEntries(choicesOf(kind, board).map((c) => [c.field, choices[`${kind}.${c.field}`] ?? c.data[0].value]))
    : {};
  const given = FIELDS[kind].filter((f) => !f.optional || value(f.field).text.trim());
  const record = {
    kind,
    order: nextOrder(board?.features ?? {}),
    ...spots,
    ...(kind === "mark_text" ? { text: text || " " } : {}),
    ...picked,
    ...Object.fromEntries(given.map((f) => [f.field, value(f.field)])),
  };
  const path = part ? pointer("parts", part, "features", key) : "";
  const patch = board ? [{ op: "add", path, value: record }] : null;
  useTried(patch);
  const fault = useDraftFault(path || "/none", part ? id.feature(part, key) : "");
  const frame = board ? FRAME[board.plane] : null;
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        if (patch && part)
          void commit(`${FEATURE_WORDS[kind]} in ${board!.name}`, patch).then(
            (fine) => fine && select({ kind: "feature", part, key }),
          );
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
            data={Object.entries(FEATURE_WORDS).map(([v, label]) => ({ value: v, label }))}
            onChange={(v) => v && setKind(v)}
          />
        </div>
        {kind === "mark_text" && (
          <div className="entry">
            <label htmlFor="feature-text">Text</label>
            <TextInput
              id="feature-text"
              value={text}
              maxLength={80}
              onChange={(e) => setText(e.target.value)}
              onKeyDown={(e) => e.stopPropagation()}
            />
          </div>
        )}
        {board &&
          choicesOf(kind, board).map((c) => (
            <ChoiceField
              key={c.field}
              label={c.label}
              value={String(picked[c.field])}
              data={c.data}
              onSave={(v) => setChoices({ ...choices, [`${kind}.${c.field}`]: v })}
            />
          ))}
        {board &&
          FIELDS[kind].map((f) => (
            <DraftEntry
              key={`${kind}.${f.field}`}
              label={labelOf(f, board, String(picked.edge ?? ""))}
              placeholder={f.placeholder}
              kind={f.kind}
              entry={value(f.field)}
              path={`${path}/${f.field}`}
              fault={fault}
              onChange={(e) => setEntries({ ...entries, [`${kind}.${f.field}`]: e })}
            />
          ))}
      </section>
      {board && frame && placedAlong(kind, board, record).length > 0 && (
        <section>
          <h3>Where</h3>
          {placedAlong(kind, board, record).map((n) => (
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
