// A bar that is bent by a table: straight pieces, turns and bends as a bender is told them.
import { Button, TextInput } from "@mantine/core";
import { IconPlus, IconX } from "@tabler/icons-react";
import { useState } from "react";
import { ChoiceField, TextField } from "../fields/PlainField";
import { AXES, type Axis, barsOf } from "../lib/document";
import { fresh, useDesign } from "../state/design";
import { type Operation, useWorkedOut } from "../state/operations";
import { useView } from "../state/view";
import { NoBars } from "./NoBars";
import { useTried } from "./useDraft";

type Table = Extract<Operation, { operation: "bent_from_table" }>;
type Row = Table["rows"][number];
type Toward = NonNullable<Table["way"]>;

const WAYS: { value: Toward; label: string; axis: Axis }[] = [
  { value: "right", label: "to the right", axis: "x" },
  { value: "left", label: "to the left", axis: "x" },
  { value: "back", label: "to the back", axis: "y" },
  { value: "front", label: "to the front", axis: "y" },
  { value: "up", label: "up", axis: "z" },
  { value: "down", label: "down", axis: "z" },
];
const axisOf = (way: Toward) => WAYS.find((w) => w.value === way)?.axis;
const MOST_ROWS = 49;

export function BentDraft() {
  const doc = useDesign((s) => s.doc)!;
  const { setDraft, select } = useView.getState();
  const bars = barsOf(doc);
  const [chosen, setChosen] = useState("");
  const stock = chosen || (bars.find(([, s]) => !s.wall) ?? bars[0])?.[0] || "";
  const [rows, setRows] = useState<Row[]>(() => [{ straight: fresh("100 mm").text, turn: "0", bend: "90" }]);
  const [end, setEnd] = useState(() => fresh("100 mm").text);
  const [radius, setRadius] = useState(() => fresh("40 mm").text);
  const [start, setStart] = useState<Record<Axis, string>>({ x: "0", y: "0", z: "0" });
  const [way, setWay] = useState<Toward>("right");
  const [toward, setToward] = useState<Toward>("up");
  const asked: Table | null = stock ? { operation: "bent_from_table", stock, rows, end, radius, start, way, toward } : null;
  const { label, patch, fault, fresh: ready } = useWorkedOut(asked);
  const [busy, setBusy] = useState(false);
  useTried(patch);

  function run(next: Toward): void {
    setWay(next);
    if (axisOf(next) === axisOf(toward)) setToward(axisOf(next) === "z" ? "right" : "up");
  }

  async function add(): Promise<void> {
    if (!patch || !ready || busy) return;
    setBusy(true);
    const made = patch.map((op) => String(op.path)).find((path) => path.startsWith("/parts/"));
    const fine = await useDesign.getState().commit(label, patch);
    setBusy(false);
    if (fine && made) select({ kind: "part", key: made.split("/")[2] });
  }

  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        void add();
      }}
    >
      <h2>Bent by a table</h2>
      {!stock ? (
        <NoBars onMade={setChosen} />
      ) : (
        <>
          <section>
            <ChoiceField
              label="Of"
              value={stock}
              data={bars.map(([value, s]) => ({ value, label: s.name }))}
              onSave={setChosen}
            />
            <TextField label="Radius" value={radius} live onSave={setRadius} />
          </section>
          <BentRows rows={rows} onChange={setRows} />
          <TextField label="Then straight" value={end} live onSave={setEnd} />
          <section>
            <h3>In the room</h3>
            <ChoiceField label="It runs" value={way} data={WAYS} onSave={(v) => run(v as Toward)} />
            <ChoiceField
              label="First bend"
              value={toward}
              data={WAYS.filter((w) => w.axis !== axisOf(way))}
              onSave={(v) => setToward(v as Toward)}
            />
            {AXES.map((a) => (
              <TextField
                key={a}
                label={`Begins at ${a}`}
                value={start[a]}
                live
                onSave={(text) => setStart({ ...start, [a]: text })}
              />
            ))}
          </section>
          {fault && (
            <p className="error" role="alert">
              {fault}
            </p>
          )}
          <div className="row" style={{ marginTop: 12 }}>
            <Button type="submit" variant="filled" disabled={!patch || !ready || busy || Boolean(fault)}>
              Add it
            </Button>
            <Button onClick={() => setDraft(null)}>Leave it</Button>
          </div>
        </>
      )}
    </form>
  );
}

/** The table: what is straight before each bend, how far the bar is turned about itself, and the bend. */
function BentRows({ rows, onChange }: { rows: Row[]; onChange: (rows: Row[]) => void }) {
  const set = (n: number, some: Partial<Row>) => onChange(rows.map((r, i) => (i === n ? { ...r, ...some } : r)));
  const cell = (n: number, field: keyof Row, words: string) => (
    <td>
      <TextInput
        aria-label={`${words} ${n + 1}`}
        value={rows[n][field]}
        classNames={{ input: "mono" }}
        onChange={(e) => set(n, { [field]: e.currentTarget.value })}
        onKeyDown={(e) => e.stopPropagation()}
      />
    </td>
  );
  return (
    <section>
      <table className="plain" aria-label="Bends">
        <thead>
          <tr>
            <th>Straight</th>
            <th title="about the bar since the last bend, right-hand along the feed">Turn, °</th>
            <th>Bend, °</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {rows.map((_, n) => (
            <tr key={n}>
              {cell(n, "straight", "Straight")}
              {cell(n, "turn", "Turn")}
              {cell(n, "bend", "Bend")}
              <td>
                <Button
                  size="compact-xs"
                  variant="subtle"
                  aria-label={`Take bend ${n + 1} out`}
                  onClick={() => onChange(rows.filter((__, i) => i !== n))}
                >
                  <IconX size={13} />
                </Button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <Button
        size="compact-xs"
        style={{ margin: "6px 0 10px" }}
        leftSection={<IconPlus size={13} />}
        disabled={rows.length >= MOST_ROWS}
        onClick={() => onChange([...rows, { straight: rows.at(-1)?.straight ?? "0", turn: "0", bend: "90" }])}
      >
        Another bend
      </Button>
    </section>
  );
}
