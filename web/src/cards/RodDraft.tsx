// A new rod: the bar, the way it runs, both ends, and its centre line.
import { Button } from "@mantine/core";
import { useState } from "react";
import { ChoiceField } from "../fields/PlainField";
import { AXES, AXIS_WORDS, type Axis, barsOf, type Doc, type Entry, FACES, hasWidth, nextOrder } from "../lib/document";
import { fresh, typed, useDesign, useShown } from "../state/design";
import { formOf, useForms } from "../state/forms";
import { CentreLine } from "./CentreLine";
import { addStock } from "./edits";
import { NameField, NewPartForm, useDraftedPart, useNewPart } from "./NewPart";
import { WidthField } from "./RodSection";
import { Run } from "./Run";

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
  const part = useNewPart("r", "rod");
  const bar = formOf(useForms().stocks, "bar");
  const bars = barsOf(doc);
  const [chosen, setChosen] = useState("");
  const stock = chosen || bars[0]?.[0] || "";
  const [axis, setAxis] = useState<Axis>("x");
  const [run, setRun] = useState(() => firstRun(doc, "x"));
  const [at, setAt] = useState<Record<Axis, Entry>>(() => ({ x: fresh("50 mm"), y: fresh("50 mm"), z: fresh("50 mm") }));
  const [lain, setWide] = useState<Axis>();
  const across = AXES.filter((a) => a !== axis);
  const wide = hasWidth(doc, stock) && lain && lain !== axis ? { wide: lain } : {};
  const record = {
    kind: "rod",
    order: nextOrder(doc.parts),
    stock,
    axis,
    span: { low: run[0], high: run[1] },
    at: Object.fromEntries(across.map((a) => [a, at[a]])),
    ...wide,
  };
  const { base } = part;
  const { fault, add } = useDraftedPart(part, stock ? record : null);
  const beside = fault && !fault.entry.includes("/span/") && !fault.entry.includes("/at/");
  return (
    <NewPartForm
      title="New rod"
      words={stock && "Add rod"}
      fault={stock && beside ? fault.message : ""}
      onAdd={stock ? add : null}
    >
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
            <NameField part={part} />
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
            {hasWidth(doc, stock) && <WidthField axis={axis} wide={wide.wide} onSave={setWide} />}
          </section>
          <section>
            <h3>Where it runs</h3>
            <Run axis={axis} run={run} path={`${base}/span`} fault={fault} onChange={setRun} />
            <h3>Its centre line</h3>
            <CentreLine axis={axis} at={at} path={`${base}/at`} fault={fault} onChange={setAt} />
          </section>
        </>
      )}
    </NewPartForm>
  );
}
