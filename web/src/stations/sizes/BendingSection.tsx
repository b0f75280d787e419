// How a sheet metal bends: the rule that its allowances are reckoned by, its table, radii, strength, and the strip that tests it.
import { Button, FileButton } from "@mantine/core";
import { useRef, useState } from "react";
import { api, got } from "../../api/client";
import { operate } from "../../cards/edits";
import { EntryField } from "../../fields/EntryField";
import { ChoiceField, NumberField } from "../../fields/PlainField";
import { type Bending, pointer, type SheetStock } from "../../lib/document";
import { figure } from "../../lib/figures";
import { useDesign } from "../../state/design";

const RULES = [
  { value: "k", label: "K-factor" },
  { value: "table", label: "the shop's own bend table" },
  { value: "din6935", label: "DIN 6935" },
  { value: "handbook-soft", label: "handbook: soft copper, brass" },
  { value: "handbook-half-hard", label: "handbook: soft steel, aluminium" },
  { value: "handbook-hard", label: "handbook: hard copper, spring steel" },
];
const START: Partial<Bending> = { rule: "k" };

export function BendingSection({ stockKey, stock }: { stockKey: string; stock: SheetStock }) {
  const doc = useDesign((s) => s.doc)!;
  const { commit, id } = useDesign.getState();
  const [fault, setFault] = useState("");
  const reset = useRef<() => void>(null);
  const bending = stock.bending;
  const base = ["stocks", stockKey, "bending"];
  const p = (...k: string[]) => pointer(...base, ...k);
  if (!bending)
    return (
      <Button size="compact-xs" onClick={() => void commit(`${stock.name}: bends`, [{ op: "add", path: p(), value: START }])}>
        Say how it bends
      </Button>
    );
  const table = bending.table ?? [];

  async function read(file: File | null) {
    if (!file) return;
    reset.current?.(); // so that the same file can be read again once it was put right
    setFault("");
    const form = new FormData();
    form.append("file", file);
    try {
      const { rows } = await got(
        api.POST("/api/designs/{design_id}/bend-rows", {
          params: { path: { design_id: id } },
          body: form as never,
          bodySerializer: (body) => body as never,
        }),
      );
      await commit(`${stock.name}: bend table of ${rows.length} rows from ${file.name}`, [
        { op: "add", path: p("table"), value: rows },
        { op: "add", path: p("rule"), value: "table" },
      ]);
    } catch (error) {
      setFault(error instanceof Error ? error.message : String(error));
    }
  }

  return (
    <section aria-label="Bends" style={{ gridColumn: "1 / -1", borderTop: "1px solid var(--rule)", marginTop: 8, paddingTop: 8 }}>
      <h3 style={{ margin: "0 0 6px" }}>Bends</h3>
      <div style={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: "0 24px" }}>
        <div>
          <ChoiceField
            label="Reckoned by"
            value={bending.rule}
            data={RULES}
            onSave={(v) => void commit(`${stock.name}: bends by ${v}`, [{ op: "add", path: p("rule"), value: v }])}
          />
          {bending.rule === "k" && (
            <NumberField label="K" value={bending.k ?? 1 / 3} path={p("k")} edit={`${stock.name}, K`} max={1} step={0.01} />
          )}
          <EntryField
            path={p("radius")}
            label="Inside radius"
            optional
            placeholder="by the tools"
            edit={`${stock.name}, inside radius`}
          />
          <EntryField
            path={p("least_radius")}
            label="Least radius"
            optional
            placeholder="the thickness"
            edit={`${stock.name}, least radius`}
          />
        </div>
        <div>
          <EntryField
            path={p("hole_distance")}
            label="Hole to bend"
            optional
            placeholder="2 T + R"
            edit={`${stock.name}, least from a hole to a bend`}
          />
          <NumberField
            label="Strength"
            value={bending.strength ?? 400}
            path={p("strength")}
            edit={`${stock.name}, tensile strength`}
            suffix=" N/mm²"
            min={1}
            max={3000}
            step={10}
          />
          <NumberField
            label="Air-bend radius"
            value={bending.air ?? 0.16}
            path={p("air")}
            edit={`${stock.name}, radius of an air bend`}
            suffix=" of V"
            min={0.01}
            max={1}
            step={0.01}
          />
        </div>
      </div>
      <div className="row" style={{ flexWrap: "wrap", margin: "4px 0" }}>
        <FileButton resetRef={reset} accept=".csv,text/csv" onChange={(file) => void read(file)}>
          {(props) => (
            <Button size="compact-xs" {...props}>
              Read a bend table, CSV
            </Button>
          )}
        </FileButton>
        <Button
          size="compact-xs"
          disabled={!doc.cutter}
          onClick={() => void operate({ operation: "bend_test", stock: stockKey, cutter: doc.cutter }).then(setFault)}
        >
          Cut a bend test strip
        </Button>
        <span className="soft">
          A table has the columns thickness, radius, angle, and one of k, allowance, deduction; mm and degrees.
        </span>
      </div>
      {fault && (
        <p className="error" role="alert">
          {fault}
        </p>
      )}
      {bending.rule === "table" && (
        <table className="plain" aria-label="Bend table of the shop">
          <thead>
            <tr>
              {["Thickness, mm", "Radius, mm", "Angle", "K", "Allowance, mm", "Deduction, mm"].map((h) => (
                <th key={h} className="num">
                  {h}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {table.slice(0, 40).map((r) => (
              <tr key={`${r.thickness} ${r.radius} ${r.angle}`}>
                <td className="num figure">{figure(r.thickness, "mm")}</td>
                <td className="num figure">{figure(r.radius, "mm")}</td>
                <td className="num figure">{r.angle}°</td>
                <td className="num figure">{r.k?.toFixed(3) ?? ""}</td>
                <td className="num figure">{r.allowance === undefined ? "" : figure(r.allowance, "mm")}</td>
                <td className="num figure">{r.deduction === undefined ? "" : figure(r.deduction, "mm")}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {bending.rule === "table" && table.length === 0 && (
        <p className="soft">No rows yet: K {(bending.k ?? 1 / 3).toFixed(3)} stands.</p>
      )}
      {table.length > 40 && <p className="soft">and {table.length - 40} more rows</p>}
    </section>
  );
}
