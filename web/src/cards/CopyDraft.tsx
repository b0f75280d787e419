// A copy that is being drafted: a mirror, a row, a grid or a ring; it shows in the design while it is typed.
import { Button, Switch } from "@mantine/core";
import { useEffect, useMemo, useState } from "react";
import { api, got } from "../api/client";
import type { Patch } from "../api/types";
import { ChoiceField } from "../fields/PlainField";
import { type Axis, type CopyKind, type Entry, freshKey, isPlaced, nextOrder, ordered, pointer } from "../lib/document";
import { id } from "../lib/owner";
import { useDesign } from "../state/design";
import { words } from "../state/shape";
import { useView } from "../state/view";
import { AXES, AXIS_LABEL, COPY_WORDS, copyRecord, entryOf, fieldsOf, ofWords } from "./copyFields";
import { DraftEntry } from "./DraftEntry";
import { useDraftFault, useTried } from "./useDraft";

/** Choices of a mirror's plane that are no part's middle. */
const MIDDLE = "";
const PLACE = "at";

export function CopyDraft({ way, of }: { way: CopyKind; of: string[] }) {
  const doc = useDesign((s) => s.doc)!;
  const design = useDesign((s) => s.id);
  const { commit } = useDesign.getState();
  const { setDraft, select } = useView.getState();
  const [axis, setAxis] = useState<Axis>("x");
  const [axis2, setAxis2] = useState<Axis>("y");
  const [filling, setFilling] = useState(false);
  const [upright, setUpright] = useState(false);
  const [entries, setEntries] = useState<Record<string, Entry>>({});
  const [mirror, setMirror] = useState<{ label: string; patch: Patch } | null>(null);
  const [refused, setRefused] = useState("");
  const key = useMemo(() => freshKey(doc.copies, way), [doc.copies, way]);
  const entry = (field: string): Entry =>
    entries[field] ?? entryOf(fieldsOf(way, filling).find((f) => f.field === field)?.first ?? "0");
  const plane = entries.plane?.text ?? "";
  const asked = JSON.stringify(of);

  // a mirror is worked out by the core: its plane where none is typed, and the handed parts' names
  useEffect(() => {
    if (way !== "mirror" || !JSON.parse(asked).length) return;
    let late = false;
    void (async () => {
      try {
        const found = await got(
          api.POST("/api/designs/{design_id}/operations", {
            params: { path: { design_id: design } },
            body: { operation: "mirror", of: JSON.parse(asked), axis, text: plane || undefined, unit: entries.plane?.unit },
          }),
        );
        if (!late) {
          setMirror({ label: found.label, patch: found.patch as Patch });
          setRefused("");
        }
      } catch (error) {
        if (!late) setRefused(error instanceof Error ? error.message : String(error));
      }
    })();
    return () => {
      late = true;
    };
  }, [way, asked, axis, plane, entries.plane?.unit, design]);

  const record = copyRecord(
    way,
    {
      name: `${COPY_WORDS[way]}: ${ofWords(doc, of)}`.slice(0, 40),
      of,
      axis,
      axis2,
      order: nextOrder(doc.copies),
      filling,
      upright,
    },
    entry,
  );
  const own: Patch = [{ op: "add", path: pointer("copies", key), value: record }];
  const patch = of.length ? (way === "mirror" ? (mirror?.patch ?? null) : own) : null;
  useTried(patch);
  const mirrored = String((mirror?.patch[0] as { path?: string } | undefined)?.path ?? "").split("/")[2];
  const made = way === "mirror" ? mirrored : key;
  const fault = useDraftFault(pointer("copies", made ?? "none"), id.copy(made));
  const offered = String(((mirror?.patch[0]?.value as { at?: { text?: string } } | undefined)?.at?.text ?? "") || "");
  const path = pointer("copies", made ?? "none");
  const planes = [
    { value: MIDDLE, label: "the design's middle" },
    { value: PLACE, label: "at a place" },
    ...ordered(doc.parts)
      .filter(([k, p]) => isPlaced(p) && !p.out && !of.includes(id.part(k)))
      .map(([, p]) => ({ value: `${p.name}.centre`, label: `the middle of ${words(p.name)}` })),
  ];
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        if (patch && made)
          void commit(way === "mirror" ? mirror!.label : `${COPY_WORDS[way]}: ${ofWords(doc, of)}`, patch).then(
            (fine) => fine && select({ kind: "copy", key: made }),
          );
      }}
    >
      <h2>{COPY_WORDS[way]}</h2>
      <p className="soft">
        {of.length
          ? `Of ${ofWords(doc, of)}. The copies stay in step: a joint or hole that comes later is on them too.`
          : "Press the part that is to be copied."}
      </p>
      <section>
        <ChoiceField
          label={AXIS_LABEL[way]}
          value={axis}
          data={AXES}
          onSave={(v) => {
            setAxis(v as Axis);
            if (v === axis2) setAxis2(axis); // a grid's rows never run the same way
          }}
        />
        {way === "mirror" && (
          <ChoiceField
            label="Plane"
            value={planes.some((p) => p.value === plane) ? plane : PLACE}
            data={planes}
            onSave={(v) => setEntries({ ...entries, plane: entryOf(v === PLACE ? plane || offered : v) })}
          />
        )}
        {way === "mirror" && (
          <DraftEntry
            label="Plane at"
            entry={plane ? entries.plane! : entryOf(offered)}
            path={`${path}/at`}
            axis={axis}
            placeholder="the design's middle"
            fault={fault}
            onChange={(e) => setEntries({ ...entries, plane: e })}
          />
        )}
        {way === "row" && (
          <ChoiceField
            label="By"
            value={filling ? "fill" : "number"}
            data={[
              { value: "number", label: "number and spacing" },
              { value: "fill", label: "filling a length" },
            ]}
            onSave={(v) => setFilling(v === "fill")}
          />
        )}
        {way === "grid" && (
          <ChoiceField
            label="Rows along"
            value={axis2}
            data={AXES.filter((a) => a.value !== axis)}
            onSave={(v) => setAxis2(v as Axis)}
          />
        )}
        {way === "ring" &&
          AXES.filter((a) => a.value !== axis).map((a) => (
            <DraftEntry
              key={a.value}
              label={`Line at, ${a.label}`}
              entry={entry(`at.${a.value}`)}
              path={`${path}/at/${a.value}`}
              axis={a.value}
              fault={fault}
              onChange={(e) => setEntries({ ...entries, [`at.${a.value}`]: e })}
            />
          ))}
        {fieldsOf(way, filling).map((f) => (
          <DraftEntry
            key={f.field}
            label={f.label}
            kind={f.kind}
            entry={entry(f.field)}
            path={`${path}/${f.field}`}
            fault={fault}
            onChange={(e) => setEntries({ ...entries, [f.field]: e })}
          />
        ))}
        {way === "ring" && (
          <Switch
            size="sm"
            label="copies keep their direction"
            checked={upright}
            onChange={(e) => setUpright(e.currentTarget.checked)}
          />
        )}
      </section>
      {(refused || (fault && !fault.entry.startsWith(`${path}/`))) && (
        <p className="error" role="alert">
          {refused || fault?.message}
        </p>
      )}
      <div className="row" style={{ marginTop: 12 }}>
        <Button type="submit" variant="filled" disabled={!patch || Boolean(refused)}>
          {way === "mirror" ? "Mirror" : "Repeat"}
        </Button>
        <Button onClick={() => setDraft(null)}>Leave it</Button>
      </div>
    </form>
  );
}
