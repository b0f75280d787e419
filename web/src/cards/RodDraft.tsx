// A new rod: the bar, the way it runs, both ends, and its centre line.
import { Button, TextInput } from "@mantine/core";
import { useMemo, useState } from "react";
import { ChoiceField } from "../fields/PlainField";
import { AXES, AXIS_WORDS, type Axis, barsOf, type Doc, type Entry, FACES, freshKey, nextOrder, pointer } from "../lib/document";
import { fresh, typed, useDesign, useShown } from "../state/design";
import { formOf, useForms } from "../state/forms";
import { useView } from "../state/view";
import { DraftEntry } from "./DraftEntry";
import { addStock } from "./edits";
import { useDraftFault, useTried } from "./useDraft";

const PLAIN: Record<Axis, [string, string]> = { x: ["width", "300 mm"], y: ["depth", "200 mm"], z: ["height", "150 mm"] };

/** Through the two walls that stand across the axis, where the design has such; else from 0. */
function firstRun(doc: Doc, axis: Axis): [Entry, Entry] {
  const names = new Set(Object.values(doc.parts).map((p) => p.name));
  const [low, high] = FACES[axis];
  if (names.has(low) && names.has(high)) return [typed(`${low}.${low}`), typed(`${high}.${high}`)];
  const [size, plain] = PLAIN[axis];
  return [typed("0"), fresh(Object.values(doc.sizes).some((s) => s.name === size) ? size : plain)];
}

export function RodDraft() {
  const doc = useDesign((s) => s.doc)!;
  const shown = useShown()!;
  const commit = useDesign((s) => s.commit);
  const { setDraft, select } = useView.getState();
  const key = useMemo(() => freshKey(doc.parts, `r${Math.random().toString(36).slice(2, 8)}`), [doc.parts]);
  const [name, setName] = useState(() => {
    const taken = new Set(Object.values(doc.parts).map((p) => p.name));
    for (let n = 1; ; n++) if (!taken.has(`rod_${n}`)) return `rod_${n}`;
  });
  const bar = formOf(useForms().stocks, "bar");
  const bars = barsOf(doc);
  const [chosen, setChosen] = useState("");
  const stock = chosen || bars[0]?.[0] || "";
  const [axis, setAxis] = useState<Axis>("x");
  const [run, setRun] = useState(() => firstRun(doc, "x"));
  const [at, setAt] = useState<Record<Axis, Entry>>(() => ({ x: fresh("50 mm"), y: fresh("50 mm"), z: fresh("50 mm") }));
  const across = AXES.filter((a) => a !== axis);
  const record = {
    kind: "rod",
    name,
    order: nextOrder(doc.parts),
    stock,
    axis,
    span: { low: run[0], high: run[1] },
    at: Object.fromEntries(across.map((a) => [a, at[a]])),
  };
  const base = pointer("parts", key);
  const patch = [{ op: "add", path: base, value: record }];
  useTried(stock ? patch : null);
  const fault = useDraftFault(base);
  const [low, high] = FACES[axis];

  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        void commit(`Add ${name}`, patch).then((fine) => {
          if (fine) select({ kind: "part", key });
        });
      }}
    >
      <h2>New rod</h2>
      {!stock ? (
        <section>
          <p role="alert">
            There is no bar in this design to cut it from. Take one from the workshop&rsquo;s shelf under Sizes, Stock, or add a
            round bar here.
          </p>
          <Button
            variant="filled"
            disabled={!bar}
            onClick={() => bar && void addStock(bar).then((made) => made && setChosen(made))}
          >
            Add a round bar
          </Button>
        </section>
      ) : (
        <>
          <section>
            <div className="entry">
              <label htmlFor="rod-name">Name</label>
              <TextInput
                id="rod-name"
                value={name}
                onChange={(e) => setName(e.target.value)}
                maxLength={40}
                onKeyDown={(e) => e.stopPropagation()}
              />
            </div>
            <ChoiceField
              label="Bar"
              value={stock}
              data={bars.map(([value, s]) => ({ value, label: s.name }))}
              onSave={setChosen}
            />
            <ChoiceField
              label="Runs"
              value={axis}
              data={AXES.map((a) => ({ value: a, label: AXIS_WORDS[a] }))}
              onSave={(a) => {
                setAxis(a as Axis);
                setRun(firstRun(shown.doc, a as Axis));
              }}
            />
          </section>
          <section>
            <h3>Where it runs</h3>
            <DraftEntry
              label={`${low} from`}
              entry={run[0]}
              path={`${base}/span/low`}
              axis={axis}
              fault={fault}
              onChange={(e) => setRun([e, run[1]])}
            />
            <DraftEntry
              label={`to ${high}`}
              entry={run[1]}
              path={`${base}/span/high`}
              axis={axis}
              fault={fault}
              onChange={(e) => setRun([run[0], e])}
            />
            <h3>Its centre line</h3>
            {across.map((a) => (
              <DraftEntry
                key={a}
                label={`from ${FACES[a][0]}`}
                entry={at[a]}
                path={`${base}/at/${a}`}
                axis={a}
                fault={fault}
                onChange={(e) => setAt({ ...at, [a]: e })}
              />
            ))}
          </section>
          {fault && !fault.entry.includes("/span/") && !fault.entry.includes("/at/") && (
            <p className="error" role="alert">
              {fault.message}
            </p>
          )}
        </>
      )}
      <div className="row" style={{ marginTop: 12 }}>
        {stock && (
          <Button type="submit" variant="filled">
            Add rod
          </Button>
        )}
        <Button onClick={() => setDraft(null)}>Leave it</Button>
      </div>
    </form>
  );
}
