// The cutter: kerf, smallest feature, bed, speeds a stock; the layers of its files; and the fits.
import { Button, ColorInput } from "@mantine/core";
import { EntryField } from "../../fields/EntryField";
import { ChoiceField, NumberField, TextField } from "../../fields/PlainField";
import { type Cutter, freshKey, pointer, sheetsOf } from "../../lib/document";
import { fresh, useDesign } from "../../state/design";
import { FitTable } from "./FitTable";

export function CutterTable() {
  const doc = useDesign((s) => s.doc)!;
  const commit = useDesign((s) => s.commit);
  const cutter = doc.cutters[doc.cutter];
  return (
    <>
      <div style={{ maxWidth: 420 }}>
        <ChoiceField
          label="Cut with"
          value={doc.cutter}
          data={Object.entries(doc.cutters).map(([value, c]) => ({ value, label: c.name }))}
          onSave={(v) => void commit(`Cut with ${doc.cutters[v].name}`, [{ op: "replace", path: "/cutter", value: v }])}
        />
      </div>
      <Button
        size="compact-xs"
        style={{ marginBottom: 12 }}
        onClick={() => {
          const key = freshKey(doc.cutters, "laser");
          const base = cutter ?? {
            kind: "laser",
            kerf: fresh("0.2 mm"),
            smallest: fresh("1 mm"),
            bed_length: fresh("900 mm"),
            bed_width: fresh("600 mm"),
          };
          void commit("Add a cutter", [
            { op: "add", path: pointer("cutters", key), value: { ...base, name: "Another laser" } },
            { op: "replace", path: "/cutter", value: key },
          ]);
        }}
      >
        Another cutter
      </Button>
      {cutter && <CutterEditor key={doc.cutter} cutter={cutter} />}
    </>
  );
}

const LAYER_WORDS = {
  mark: "Marks",
  depth: "Depths (face and depth follow)",
  inside: "Cut inside",
  outside: "Cut outside",
  drill: "Left to a drill",
  bend_up: "▲ Bends up",
  bend_down: "▼ Bends down",
  note: "Notes and text",
} as const;
const KINDS = [
  { value: "laser", label: "Laser: cuts straight through" },
  { value: "router", label: "Router: a round bit, with depth" },
  { value: "saw", label: "Saw: straight cuts only" },
];

function CutterEditor({ cutter }: { cutter: Cutter }) {
  const doc = useDesign((s) => s.doc)!;
  const commit = useDesign((s) => s.commit);
  const p = (...k: string[]) => pointer("cutters", doc.cutter, ...k);
  return (
    <>
      <div style={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: "0 24px" }}>
        <div>
          <TextField
            label="Name"
            value={cutter.name}
            onSave={(v) => v && void commit(`Cutter: ${v}`, [{ op: "replace", path: p("name"), value: v }])}
          />
          <ChoiceField
            label="Kind"
            value={cutter.kind}
            data={KINDS}
            onSave={(v) => void commit(`${cutter.name}: a ${v}`, [{ op: "replace", path: p("kind"), value: v }])}
          />
          {cutter.kind === "router" ? (
            <>
              <EntryField
                path={p("bit")}
                label="Bit diameter"
                optional
                placeholder={cutter.kerf.text}
                edit={`${cutter.name}, bit`}
              />
              <EntryField
                path={p("pass_depth")}
                label="Depth of a pass"
                optional
                placeholder="all at once"
                edit={`${cutter.name}, depth of a pass`}
              />
            </>
          ) : (
            <EntryField
              path={p("kerf")}
              label={cutter.kind === "saw" ? "Blade width" : "Kerf"}
              edit={`${cutter.name}, ${cutter.kind === "saw" ? "blade width" : "kerf"}`}
            />
          )}
          <EntryField path={p("smallest")} label="Smallest cut-out" edit={`${cutter.name}, smallest cut-out`} />
        </div>
        <div>
          <EntryField path={p("bed_length")} label="Bed length" edit={`${cutter.name}, bed length`} />
          <EntryField path={p("bed_width")} label="Bed width" edit={`${cutter.name}, bed width`} />
          <NumberField
            label="Travel"
            value={cutter.travel}
            path={p("travel")}
            edit={`${cutter.name}, travel`}
            suffix=" mm/s"
            min={1}
          />
          <NumberField
            label="An hour costs"
            value={cutter.hourly}
            path={p("hourly")}
            edit={`${cutter.name}, hour`}
            suffix={` ${doc.currency}`}
          />
        </div>
      </div>
      <h3 style={{ margin: "10px 0 4px" }}>Speeds by stock</h3>
      <table className="plain">
        <thead>
          <tr>
            <th>Stock</th>
            <th>Cutting</th>
            <th>Marking</th>
            <th>Pierce</th>
            {cutter.kind !== "router" && <th>Kerf of its own</th>}
          </tr>
        </thead>
        <tbody>
          {sheetsOf(doc).map(([key, s]) => (
            <tr key={key}>
              <td>{s.name}</td>
              {cutter.work[key] ? (
                <>
                  <td>
                    <Bare>
                      <NumberField
                        label=""
                        value={cutter.work[key].cut_speed}
                        path={p("work", key, "cut_speed")}
                        edit={`${s.name}, cutting`}
                        suffix=" mm/s"
                        min={0.01}
                      />
                    </Bare>
                  </td>
                  <td>
                    <Bare>
                      <NumberField
                        label=""
                        value={cutter.work[key].mark_speed}
                        path={p("work", key, "mark_speed")}
                        edit={`${s.name}, marking`}
                        suffix=" mm/s"
                        min={0.01}
                      />
                    </Bare>
                  </td>
                  <td>
                    <Bare>
                      <NumberField
                        label=""
                        value={cutter.work[key].pierce}
                        path={p("work", key, "pierce")}
                        edit={`${s.name}, pierce`}
                        suffix=" s"
                        step={0.1}
                      />
                    </Bare>
                  </td>
                  {cutter.kind !== "router" && (
                    <td>
                      <EntryField
                        path={p("work", key, "kerf")}
                        label={`Kerf in ${s.name}`}
                        hideLabel
                        optional
                        placeholder={cutter.kerf.text}
                        edit={`Kerf in ${s.name}`}
                      />
                    </td>
                  )}
                </>
              ) : (
                <td colSpan={4}>
                  <Button
                    size="compact-xs"
                    onClick={() =>
                      void commit(`Speeds for ${s.name}`, [
                        { op: "add", path: p("work", key), value: { cut_speed: 10, mark_speed: 100, pierce: 0.5 } },
                      ])
                    }
                  >
                    Give speeds
                  </Button>
                </td>
              )}
            </tr>
          ))}
        </tbody>
      </table>
      <FitTable />
      <h3 style={{ margin: "12px 0 4px" }}>Layers in files, in cutting order</h3>
      <table className="plain">
        <thead>
          <tr>
            <th>Operation</th>
            <th>Layer name</th>
            <th>Colour</th>
            <th>Line width</th>
            <th>Line</th>
          </tr>
        </thead>
        <tbody>
          {(Object.keys(LAYER_WORDS) as (keyof typeof LAYER_WORDS)[]).map((n) => (
            <tr key={n}>
              <td>{LAYER_WORDS[n]}</td>
              <td>
                <Bare>
                  <TextField
                    label=""
                    value={cutter.layers[n].name}
                    maxLength={60}
                    onSave={(v) => v && void commit(`Layer ${v}`, [{ op: "replace", path: p("layers", n, "name"), value: v }])}
                  />
                </Bare>
              </td>
              <td>
                <ColorInput
                  size="xs"
                  aria-label={`Colour of ${LAYER_WORDS[n]}`}
                  value={cutter.layers[n].colour}
                  onChangeEnd={(v) =>
                    /^#[0-9a-f]{6}$/i.test(v) &&
                    void commit(`Colour of ${LAYER_WORDS[n]}`, [{ op: "replace", path: p("layers", n, "colour"), value: v }])
                  }
                  withEyeDropper={false}
                />
              </td>
              <td>
                <Bare>
                  <NumberField
                    label=""
                    value={cutter.layers[n].line_width}
                    path={p("layers", n, "line_width")}
                    edit={`Line width of ${LAYER_WORDS[n]}`}
                    suffix=" mm"
                    max={2}
                    step={0.05}
                  />
                </Bare>
              </td>
              <td>
                <Bare>
                  <ChoiceField
                    label=""
                    value={cutter.layers[n].line ?? "continuous"}
                    data={["continuous", "dashed", "chain"].map((value) => ({ value, label: value }))}
                    onSave={(v) =>
                      void commit(`${LAYER_WORDS[n]}: ${v} lines`, [{ op: "add", path: p("layers", n, "line"), value: v }])
                    }
                  />
                </Bare>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  );
}

/** A field without the room for its label, as in a table. */
function Bare({ children }: { children: React.ReactNode }) {
  return <div className="barefield">{children}</div>;
}
