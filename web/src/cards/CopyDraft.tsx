// A copy that is being drafted: a mirror, a row, a grid or a ring; it shows in the design while it is typed.
import { Button } from "@mantine/core";
import { useMemo, useState } from "react";
import type { Patch } from "../api/types";
import { ChoiceField } from "../fields/PlainField";
import {
  AXIS_WORDS,
  type Axis,
  type CopyKind,
  type Entry,
  freshKey,
  isPlaced,
  nextOrder,
  ordered,
  pointer,
} from "../lib/document";
import { id } from "../lib/owner";
import { fresh, useDesign } from "../state/design";
import { formOf, useForms } from "../state/forms";
import { useMirrored } from "../state/operations";
import { words } from "../state/shape";
import { useView } from "../state/view";
import { copyRecord, fieldsOf, lineAt, ofWords, othersOf, waysTaken } from "./copyFields";
import { DraftEntry } from "./DraftEntry";
import { DraftForm } from "./DraftForm";
import { useDraftFault, useTried } from "./useDraft";

/** Choices of a mirror's plane that are no part's middle. */
const MIDDLE = "";
const PLACE = "at";

export function CopyDraft({ way, of }: { way: CopyKind; of: string[] }) {
  const doc = useDesign((s) => s.doc)!;
  const { commit } = useDesign.getState();
  const { setDraft, select } = useView.getState();
  const form = formOf(useForms().copies, way);
  const [said, setSaid] = useState<{ [field: string]: unknown }>({});
  const [filling, setFilling] = useState(false);
  const key = useMemo(() => freshKey(doc.copies, way), [doc.copies, way]);
  const axis = (said.axis ?? "x") as Axis;
  const at = said.plane as Entry | undefined;
  const plane = at?.text ?? "";
  const { mirror, refused } = useMirrored(way === "mirror" ? of : NOTHING, axis, plane, at?.unit);
  const title = `${form?.title ?? ""}: ${ofWords(doc, of)}`;
  const record = form && copyRecord(form, { name: title.slice(0, 40), of, order: nextOrder(doc.copies), filling }, said);
  const own: Patch = [{ op: "add", path: pointer("copies", key), value: record }];
  const patch = of.length && record ? (way === "mirror" ? (mirror?.patch ?? null) : own) : null;
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
  const set = (field: string, value: unknown) => {
    const next = { ...said, [field]: value };
    // a grid's rows never run the same way
    if (field === "axis" && value === (said.axis_2 ?? "y")) next.axis_2 = axis;
    setSaid(next);
  };
  if (!form || !record) return null;
  const asks = { path, record, fault, onChange: set, form };
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        if (patch && made)
          void commit((way === "mirror" && mirror?.label) || title, patch).then(
            (fine) => fine && select({ kind: "copy", key: made }),
          );
      }}
    >
      <h2>{form.title}</h2>
      <p className="soft">
        {of.length
          ? `Of ${ofWords(doc, of)}. The copies stay in step: a joint or hole that comes later is on them too.`
          : "Press the part that is to be copied."}
      </p>
      <section>
        <DraftForm {...asks} form={{ ...form, fields: form.fields.filter((f) => f.name === "axis") }} />
        {way === "mirror" && (
          <ChoiceField
            label="Plane"
            value={planes.some((p) => p.value === plane) ? plane : PLACE}
            data={planes}
            onSave={(v) => set("plane", fresh(v === PLACE ? plane || offered : v))}
          />
        )}
        {way === "mirror" && (
          <DraftEntry
            label="Plane at"
            entry={plane ? at! : fresh(offered)}
            path={`${path}/at`}
            axis={axis}
            placeholder="the design's middle"
            fault={fault}
            onChange={(e) => set("plane", e)}
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
        {way === "ring" &&
          othersOf(axis).map((a) => (
            <DraftEntry
              key={a}
              label={`Line at, ${AXIS_WORDS[a]}`}
              entry={lineAt(said, a)}
              path={`${path}/at/${a}`}
              axis={a}
              fault={fault}
              onChange={(e) => set(`at.${a}`, e)}
            />
          ))}
        <DraftForm
          {...asks}
          form={{ ...form, fields: fieldsOf(form, filling).filter((f) => f.name !== "axis") }}
          without={way === "grid" ? waysTaken(record) : undefined}
        />
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

const NOTHING: string[] = [];
