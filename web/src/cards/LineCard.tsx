// Lines in hand: what lies on them, where the next one begins, how far it runs; all of it also from the keyboard.
import { Button, Select, TextInput } from "@mantine/core";
import { useEffect } from "react";
import { ChoiceField } from "../fields/PlainField";
import { type Axis, barsOf } from "../lib/document";
import type { Vec } from "../lib/ghost";
import { useDesign } from "../state/design";
import { placeOf, useDrawing } from "../state/drawing";
import { words } from "../state/shape";
import { useView } from "../state/view";

const HERE = "0, 0, 0";
const AXIS_KEYS: Axis[] = ["x", "y", "z"];
const WAYS: Record<Axis, string> = { x: "to the right", y: "to the back", z: "up" };

export function LineCard() {
  const doc = useDesign((s) => s.doc)!;
  const frames = useDesign((s) => s.head?.frames) ?? [];
  const drawing = useDrawing();
  const { start, over, typed, axis, why, stock, drawn, busy } = drawing;
  const { setDraft } = useView.getState();
  useEffect(() => {
    useDrawing.getState().begin();
    return () => useDrawing.getState().end();
  }, []);
  useKeys();
  const bars = barsOf(doc);
  const along = axis || over?.axis || "z";
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        void drawing.byLength();
      }}
    >
      <h2>Draw tubes</h2>
      <p className="soft" style={{ margin: "2px 0 10px" }}>
        {start
          ? "Press where it ends: along an axis, on a point, a face, a corner or another tube."
          : "Press where it begins: on the ground, a face, a corner, a point or another tube."}
      </p>
      <section>
        <ChoiceField
          label="On it lies"
          value={stock}
          data={[...bars.map(([value, s]) => ({ value, label: s.name })), { value: "", label: "nothing yet" }]}
          onSave={drawing.setStock}
        />
        <div className="entry">
          <label htmlFor="line-start">Begins at</label>
          <Select
            id="line-start"
            searchable
            selectFirstOptionOnChange
            placeholder="press it, or choose"
            value={start?.spot.point || (start ? "pressed" : null)}
            data={[
              ...(start && !start.spot.point ? [{ value: "pressed", label: start.words }] : []),
              { value: HERE, label: "0, 0, 0" },
              ...frames.flatMap((f) =>
                f.points.map((p) => ({ value: `${f.key}:${p.key}`, label: `${words(f.name)}, point ${p.number}` })),
              ),
            ]}
            onChange={(v) => {
              if (v === HERE) drawing.setStart({ spot: { at: [0, 0, 0] }, at: [0, 0, 0] as Vec, words: "0, 0, 0" });
              else if (v && v !== "pressed") drawing.setStart(placeOf(v));
            }}
          />
        </div>
        <ChoiceField
          label="Runs"
          value={axis}
          data={[{ value: "", label: "as pressed" }, ...AXIS_KEYS.map((a) => ({ value: a, label: WAYS[a] }))]}
          onSave={(a) => drawing.setAxis(a as Axis | "")}
        />
        <div className="entry">
          <label htmlFor="line-clear">Keeps clear by</label>
          <TextInput
            id="line-clear"
            placeholder="on what is pressed"
            value={drawing.clear}
            onChange={(e) => drawing.setClear(e.currentTarget.value)}
            onKeyDown={(e) => e.stopPropagation()}
          />
        </div>
        <div className="entry">
          <label htmlFor="line-length">Length</label>
          <TextInput
            id="line-length"
            placeholder="as pressed, or type it"
            value={typed}
            onChange={(e) => drawing.type(e.currentTarget.value)}
            onKeyDown={(e) => e.stopPropagation()}
            rightSection={<span className="soft">{along}</span>}
          />
        </div>
      </section>
      <p className={why ? "error" : "soft"} aria-live="polite" role={why ? "alert" : undefined} data-testid="line-said">
        {why || (start ? `From ${start.words}${over ? ` to ${over.words}` : ""}.` : (over?.words ?? "Nothing pressed yet."))}
      </p>
      <div className="row" style={{ marginTop: 12, flexWrap: "wrap" }}>
        <Button type="submit" variant="filled" disabled={!start || !typed.trim() || busy}>
          Draw it
        </Button>
        {drawn.length > 0 && <Button onClick={() => void drawing.join()}>Join what meets</Button>}
        {drawn.length > 1 && <Button onClick={() => void drawing.bend()}>Bend from one bar</Button>}
        {start && <Button onClick={() => drawing.setStart(null)}>Begin elsewhere</Button>}
        <Button onClick={() => setDraft(null)}>Done</Button>
      </div>
      <p className="soft keysline">
        <span className="kbd">X</span> <span className="kbd">Y</span> <span className="kbd">Z</span> run along that axis; digits
        set the length, <span className="kbd">Enter</span> draws it
      </p>
    </form>
  );
}

/** The keys while a line is in hand; in a field they are the field's. */
function useKeys() {
  useEffect(() => {
    function down(event: KeyboardEvent) {
      const target = event.target as HTMLElement;
      if (event.ctrlKey || event.metaKey || event.altKey || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName)) return;
      const wanted = acted(event, target.tagName === "BUTTON");
      if (!wanted) return;
      event.preventDefault();
      event.stopPropagation();
      wanted();
    }
    window.addEventListener("keydown", down, true);
    return () => window.removeEventListener("keydown", down, true);
  }, []);
}

function acted(event: KeyboardEvent, onButton: boolean): (() => void) | null {
  const { typed, type, axis, setAxis, byLength, start } = useDrawing.getState();
  const pressed = AXIS_KEYS.find((a) => a === event.key.toLowerCase());
  if (pressed) return () => setAxis(axis === pressed ? "" : pressed);
  if (start && /^[\d.,-]$/.test(event.key)) return () => type(typed + event.key);
  if (event.key === "Backspace" && typed) return () => type(typed.slice(0, -1));
  if (event.key === "Enter" && typed && !onButton) return () => void byLength();
  return null;
}
