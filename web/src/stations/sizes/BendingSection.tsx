// How a sheet metal bends: the rule that its allowances are reckoned by, its table, radii, strength, and the strip that tests it.
import { Button, FileButton } from "@mantine/core";
import { useRef, useState } from "react";
import { said } from "../../api/client";
import { RecordForm } from "../../cards/RecordForm";
import { pointer, type SheetStock } from "../../lib/document";
import { figure, unitOf } from "../../lib/figures";
import { useDesign } from "../../state/design";
import { readBendRows } from "../../state/files";
import { useForms } from "../../state/forms";
import { operate } from "../../state/operations";

export function BendingSection({ stockKey, stock }: { stockKey: string; stock: SheetStock }) {
  const doc = useDesign((s) => s.doc)!;
  const { commit } = useDesign.getState();
  const [fault, setFault] = useState("");
  const reset = useRef<() => void>(null);
  const form = useForms().bending;
  const bending = stock.bending;
  const base = ["stocks", stockKey, "bending"];
  const p = (...k: string[]) => pointer(...base, ...k);
  if (!bending)
    return (
      <Button
        size="compact-xs"
        disabled={!form}
        onClick={() => void commit(`${stock.name}: bends`, [{ op: "add", path: p(), value: form?.start }])}
      >
        Say how it bends
      </Button>
    );
  if (!form) return null;
  const table = bending.table ?? [];
  const unit = unitOf(doc.display);
  // a table's figures are decimals, also where lengths are shown as fractions
  const decimals = unit === "in" ? "in" : "mm";
  const common = { form, path: base, record: { ...bending }, title: stock.name };

  async function read(file: File | null) {
    if (!file) return;
    reset.current?.(); // so that the same file can be read again once it was put right
    setFault("");
    try {
      const { rows } = await readBendRows(file);
      await commit(`${stock.name}: bend table of ${rows.length} rows from ${file.name}`, [
        { op: "add", path: p("table"), value: rows },
        { op: "add", path: p("rule"), value: "table" },
      ]);
    } catch (error) {
      setFault(said(error));
    }
  }

  return (
    <section aria-label="Bends" style={{ gridColumn: "1 / -1", borderTop: "1px solid var(--rule)", marginTop: 8, paddingTop: 8 }}>
      <h3 style={{ margin: "0 0 6px" }}>Bends</h3>
      <div style={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: "0 24px" }}>
        <div>
          <RecordForm {...common} />
        </div>
        <div>
          <RecordForm {...common} section="limits" />
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
          A table has the columns thickness, radius, angle in degrees, and one of k, allowance, deduction; lengths in {doc.unit}{" "}
          where a heading says no other, as <span className="mono">thickness (in)</span>.
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
              {[`Thickness, ${unit}`, `Radius, ${unit}`, "Angle", "K", `Allowance, ${unit}`, `Deduction, ${unit}`].map((h) => (
                <th key={h} className="num">
                  {h}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {table.slice(0, 40).map((r) => (
              <tr key={`${r.thickness} ${r.radius} ${r.angle}`}>
                <td className="num figure">{figure(r.thickness, decimals)}</td>
                <td className="num figure">{figure(r.radius, decimals)}</td>
                <td className="num figure">{r.angle}°</td>
                <td className="num figure">{r.k?.toFixed(3) ?? ""}</td>
                <td className="num figure">{r.allowance === undefined ? "" : figure(r.allowance, decimals)}</td>
                <td className="num figure">{r.deduction === undefined ? "" : figure(r.deduction, decimals)}</td>
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
