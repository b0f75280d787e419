// A frame of tubes to begin with: what it is, of what, and between which places its outside lies.
import { Button } from "@mantine/core";
import { useState } from "react";
import { ChoiceField } from "../fields/PlainField";
import { AXES, AXIS_WORDS, type Axis, barsOf, type Doc, type Entry } from "../lib/document";
import { fresh, typed, useDesign } from "../state/design";
import { useForms } from "../state/forms";
import { useWorkedOut } from "../state/operations";
import { useView } from "../state/view";
import { NoBars } from "./NoBars";
import { Run } from "./Run";
import { useTried } from "./useDraft";

const PLAIN: Record<Axis, [string, string]> = { x: ["width", "600 mm"], y: ["depth", "400 mm"], z: ["height", "700 mm"] };

function firstPlaces(doc: Doc): Record<Axis, [Entry, Entry]> {
  const names = new Set(Object.values(doc.sizes).map((s) => s.name));
  const run = (a: Axis): [Entry, Entry] => [typed("0"), names.has(PLAIN[a][0]) ? typed(PLAIN[a][0]) : fresh(PLAIN[a][1])];
  return { x: run("x"), y: run("y"), z: run("z") };
}

export function FrameDraft() {
  const doc = useDesign((s) => s.doc)!;
  const { frames } = useForms();
  const { setDraft, select } = useView.getState();
  const bars = barsOf(doc);
  const [chosen, setChosen] = useState("");
  const stock = chosen || (bars.find(([, s]) => s.wall) ?? bars[0])?.[0] || "";
  const [kind, setKind] = useState("box");
  const form = frames?.find((f) => f.kind === kind);
  const [count, setCount] = useState("");
  const [ends, setEnds] = useState<"cut" | "connectors">("cut");
  const [places, setPlaces] = useState(() => firstPlaces(doc));
  const texts = Object.fromEntries(AXES.map((a) => [a, places[a].map((e) => e.text)])) as Record<Axis, [string, string]>;
  const asked = stock
    ? {
        operation: "add_frame" as const,
        kind: kind as "box",
        stock,
        places: texts,
        count: Number(count || form?.usual || 0),
        ends,
      }
    : null;
  const { label, patch, fault, fresh: ready } = useWorkedOut(asked);
  const [busy, setBusy] = useState(false);
  useTried(patch);
  const tried = useDesign((s) => s.tryFault ?? s.trying?.built.problems.find((p) => p.entry.startsWith("/frames/")));
  function add() {
    if (!patch || !ready || busy) return;
    setBusy(true);
    const made = patch.map((op) => String(op.path)).find((path) => path.startsWith("/frames/"));
    void useDesign
      .getState()
      .commit(label, patch)
      .then((fine) => {
        setBusy(false);
        if (fine && made) select({ kind: "frame", key: made.split("/")[2] });
      });
  }
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        add();
      }}
    >
      <h2>New frame</h2>
      {!stock ? (
        <NoBars onMade={setChosen} />
      ) : (
        <>
          <p className="soft" style={{ margin: "2px 0 10px" }}>
            {form?.words}
            {ends === "connectors" && " Their middles lie on these places."}
          </p>
          <section>
            <ChoiceField
              label="Frame"
              value={kind}
              data={(frames ?? []).map((f) => ({ value: f.kind, label: f.title }))}
              onSave={setKind}
            />
            <ChoiceField
              label="Of"
              value={stock}
              data={bars.map(([value, s]) => ({ value, label: s.name }))}
              onSave={setChosen}
            />
            <ChoiceField
              label="Where they meet"
              value={ends}
              data={[
                { value: "cut", label: "cut to one another" },
                { value: "connectors", label: "in connectors" },
              ]}
              onSave={(v) => setEnds(v as typeof ends)}
            />
            {form?.count && (
              <ChoiceField
                label={form.count}
                value={count || String(form.usual)}
                data={Array.from({ length: 12 }, (_, n) => ({ value: String(n + 1), label: String(n + 1) }))}
                onSave={setCount}
              />
            )}
          </section>
          {AXES.map((a) => (
            <section key={a}>
              <h3>{AXIS_WORDS[a]}</h3>
              <Run axis={a} run={places[a]} path="" fault={null} onChange={(run) => setPlaces({ ...places, [a]: run })} />
            </section>
          ))}
          {(fault || tried) && (
            <p className="error" role="alert">
              {fault || tried?.message}
            </p>
          )}
        </>
      )}
      <div className="row" style={{ marginTop: 12 }}>
        {stock && (
          <Button type="submit" variant="filled" disabled={!patch || !ready || busy || Boolean(fault)}>
            Add frame
          </Button>
        )}
        <Button onClick={() => setDraft(null)}>Leave it</Button>
      </div>
    </form>
  );
}
