import { Button, Select, TextInput } from "@mantine/core";
import { useMemo, useState } from "react";
import { ChoiceField } from "../fields/PlainField";
import { type Board, type Entry, FACES, FEATURE_WORDS, FRAME, freshKey, nextOrder, pointer } from "../lib/document";
import { useDesign } from "../state/design";
import { useView } from "../state/view";
import { DraftEntry } from "./DraftEntry";
import { FIELDS, origins } from "./FeatureCard";
import { useDraftFault, useTried } from "./useDraft";

const FIRST: Record<string, string> = {
  diameter: "20 mm",
  length: "80 mm",
  width: "20 mm",
  height: "20 mm",
  radius: "3 mm",
  angle: "0 deg",
};

export function FeatureDraft({ part }: { part?: string }) {
  const doc = useDesign((s) => s.doc)!;
  const commit = useDesign((s) => s.commit);
  const { setDraft, select } = useView.getState();
  const [kind, setKind] = useState("hole");
  const [text, setText] = useState("MADE HERE");
  const [entries, setEntries] = useState<Record<string, Entry>>({});
  const [spots, setSpots] = useState<Record<"u" | "v", { origin: string; offset: Entry }>>({
    u: { origin: "centre", offset: { text: "0", unit: "mm" } },
    v: { origin: "centre", offset: { text: "0", unit: "mm" } },
  });
  const board = part ? (doc.parts[part] as Board | undefined) : undefined;
  const key = useMemo(() => freshKey(board?.features ?? {}, kind), [board, kind]);
  const value = (field: string) =>
    entries[`${kind}.${field}`] ?? {
      text:
        kind === "mark_text" && field === "height"
          ? "12 mm"
          : kind === "hand_hold" && field === "width"
            ? "30 mm"
            : kind === "hand_hold"
              ? "100 mm"
              : FIRST[field],
      unit: "mm" as const,
    };
  const record = {
    kind,
    order: nextOrder(board?.features ?? {}),
    ...spots,
    ...(kind === "mark_text" ? { text: text || " " } : {}),
    ...Object.fromEntries(FIELDS[kind].map((f) => [f.field, value(f.field)])),
  };
  const path = part ? pointer("parts", part, "features", key) : "";
  const patch = board ? [{ op: "add", path, value: record }] : null;
  useTried(patch);
  const fault = useDraftFault(path || "/none", part ? `feature:${part}:${key}` : "");
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
      <h2>Hole or mark</h2>
      <section>
        <ChoiceField
          label="On"
          value={part ?? ""}
          data={Object.entries(doc.parts)
            .filter(([, p]) => p.kind === "board")
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
          FIELDS[kind].map((f) => (
            <DraftEntry
              key={f.field}
              label={f.label}
              kind={f.kind}
              entry={value(f.field)}
              path={`${path}/${f.field}`}
              fault={fault}
              onChange={(e) => setEntries({ ...entries, [`${kind}.${f.field}`]: e })}
            />
          ))}
      </section>
      {board && frame && (
        <section>
          <h3>Where</h3>
          {(["u", "v"] as const).map((n) => (
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
