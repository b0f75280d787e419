// A new turned part: what to begin with, and where its axis lies; round the axis of a rod where one was selected.
import { useState } from "react";
import { ChoiceField } from "../fields/PlainField";
import { AXES, AXIS_WORDS, type Axis, type Entry, FACES, nextOrder } from "../lib/document";
import { withEntries } from "../lib/forms";
import { fresh, typed, useDesign } from "../state/design";
import { useForms } from "../state/forms";
import { CentreLine } from "./CentreLine";
import { NameField, NewPartForm, useDraftedPart, useNewPart } from "./NewPart";
import { Run } from "./Run";

export function TurnedDraft({ on }: { on?: string }) {
  const doc = useDesign((s) => s.doc)!;
  const starts = useForms().turned ?? [];
  const part = useNewPart("t", "turned");
  const found = on ? doc.parts[on] : undefined;
  const rod = found?.kind === "rod" ? found : undefined;
  const [chosen, setChosen] = useState("");
  const start = starts.find((s) => s.kind === chosen) ?? starts[0];
  const [axis, setAxis] = useState<Axis>(rod?.axis ?? "z");
  const from = rod ? `${rod.name}.${FACES[rod.axis][0]}` : "0 mm";
  const [run, setRun] = useState<[Entry, Entry] | null>(null);
  const ends: [Entry, Entry] = run ?? [typed(from), typed(`${from} + ${start?.length ?? "10 mm"}`)];
  const [at, setAt] = useState<Record<string, Entry>>(() => ({
    x: fresh("50 mm"),
    y: fresh("50 mm"),
    z: fresh("50 mm"),
    ...rod?.at,
  }));
  const across = AXES.filter((a) => a !== axis);
  const said = start ? (withEntries(start.start, typed) as Record<string, unknown>) : null;
  const record = said && {
    kind: "turned",
    order: nextOrder(doc.parts),
    axis,
    span: { low: ends[0], high: ends[1] },
    at: Object.fromEntries(across.map((a) => [a, at[a]])),
    ...said,
    ...(rod && axis === rod.axis ? { bores: onRod(said.bores as Bores | undefined, rod.name) } : {}),
  };
  const { base } = part;
  const { fault, add } = useDraftedPart(part, record);
  const beside = fault && !fault.entry.includes("/span/") && !fault.entry.includes("/at/");
  return (
    <NewPartForm title="New turned part" words="Add turned part" fault={beside ? fault.message : ""} onAdd={record ? add : null}>
      <section>
        <NameField part={part} />
        <ChoiceField
          label="Begin with"
          value={start?.kind ?? ""}
          data={starts.map((s) => ({ value: s.kind, label: s.title }))}
          onSave={setChosen}
        />
        {start && (
          <div className="soft" style={{ fontSize: 12 }}>
            {start.words}. Its steps are changed on its card.
          </div>
        )}
        <ChoiceField
          label="Runs"
          value={axis}
          data={AXES.map((a) => ({ value: a, label: AXIS_WORDS[a] }))}
          onSave={(a) => setAxis(a as Axis)}
        />
      </section>
      <section>
        <h3>Where it runs</h3>
        <Run axis={axis} run={ends} path={`${base}/span`} fault={fault} onChange={setRun} />
        <h3>Its axis</h3>
        <CentreLine axis={axis} at={at} path={`${base}/at`} fault={fault} onChange={setAt} />
      </section>
    </NewPartForm>
  );
}

type Bores = Record<string, Record<string, unknown>>;

/** Bores through which the rod goes: as wide as it, and a little more. */
function onRod(bores: Bores | undefined, name: string): Bores {
  return Object.fromEntries(
    Object.entries(bores ?? {}).map(([k, b]) => [k, b.deep ? b : { ...b, across: typed(`${name}.thickness + 0.2 mm`) }]),
  );
}
