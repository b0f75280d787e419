// Shop: what the shop floor needs. Downloads, the cut list, and the problems that go with them.
import { Button, SegmentedControl } from "@mantine/core";
import { IconDownload } from "@tabler/icons-react";
import { useState } from "react";
import { ProblemList } from "../../cards/Problem";
import { figure, length, mass, money, unitOf } from "../../lib/figures";
import { useDesign, useShown } from "../../state/design";
import { distinctParts, litOf, standFor, words } from "../../state/shape";
import { useView } from "../../state/view";
import { DrillingTable } from "./DrillingTable";

export function Shop() {
  const shown = useShown();
  const id = useDesign((s) => s.id);
  const nest = useDesign((s) => s.nest);
  const view = useView();
  const [kerf, setKerf] = useState<"compensated" | "nominal">("compensated");
  if (!shown) return null;
  const { doc, built } = shown;
  const every = litOf(view.selection, built, doc);
  const lit = [...new Set([...every, ...every.map((k) => standFor(built.parts, k))])];
  const base = `/api/designs/${id}/files`;
  const drawn = distinctParts(built.parts);
  const rows = built.rows.map((row) => ({
    row,
    p: built.parts.find((x) => x.key === row.keys[0])!,
    files: drawn.filter((x) => row.keys.includes(x.key) && x.flat && x.made === "cut"),
  }));
  const open = built.problems.filter((p) => !p.kept);
  const kept = built.problems.filter((p) => p.kept);
  const laid = built.plans
    .map((p) => ({ plan: p, layout: nest?.stocks.find((s) => s.stock === p.stock)?.layout }))
    .filter((x) => x.layout && x.layout.digest === x.plan.digest);
  if (!built.parts.length)
    return (
      <div className="empty">
        <h2>Nothing to make yet</h2>
        <div>Cut files and the cut list show here as soon as there are parts.</div>
      </div>
    );
  return (
    <div className="scroll">
      {open.length > 0 && (
        <div className="paper">
          <h3 className="error">Before you cut</h3>
          <ProblemList problems={open} />
        </div>
      )}
      <div className="paper">
        <div className="row" style={{ marginBottom: 10 }}>
          <h2 className="grow">Cut files</h2>
          <SegmentedControl
            value={kerf}
            onChange={(v) => setKerf(v as typeof kerf)}
            aria-label="Kerf in files"
            data={[
              { value: "compensated", label: "With kerf allowance" },
              { value: "nominal", label: "Nominal" },
            ]}
          />
          <Button component="a" variant="filled" leftSection={<IconDownload size={15} />} href={`${base}/all?kerf=${kerf}`}>
            Everything, one ZIP
          </Button>
        </div>
        <p className="soft" style={{ margin: "0 0 8px" }}>
          {kerf === "compensated"
            ? "The paths stand half the kerf off the nominal line; parts come out at their nominal size. Do not let the cutter's program compensate again."
            : "The lines are the parts' nominal sizes; the cutter's program still has to take half its kerf on each side."}{" "}
          Every file says which it is, in its name and on its note layer.
        </p>
        <div className="row" style={{ flexWrap: "wrap" }}>
          {laid.flatMap(({ plan, layout }) =>
            layout!.sheets.map((_, i) => (
              <span
                key={`${plan.stock}-${i}`}
                className="row"
                style={{ border: "1px solid var(--rule)", padding: "4px 8px", gap: 6 }}
              >
                {doc.stocks[plan.stock]?.name}, sheet {i + 1}
                <a href={`${base}/sheets/${plan.stock}/${i + 1}?to=dxf&kerf=${kerf}`}>DXF</a>
                <a href={`${base}/sheets/${plan.stock}/${i + 1}?to=svg&kerf=${kerf}`}>SVG</a>
              </span>
            )),
          )}
          {laid.length < built.plans.length && <span className="soft">Some sheets are still being laid out.</span>}
        </div>
      </div>
      <div className="paper">
        <div className="row" style={{ flexWrap: "wrap" }}>
          <h2 className="grow">Solids</h2>
          {(["step", "stl", "3mf", "glb"] as const).map((to) => (
            <Button key={to} component="a" leftSection={<IconDownload size={15} />} href={`${base}/solids?to=${to}`}>
              {to.toUpperCase()}
            </Button>
          ))}
        </div>
        <p className="soft" style={{ margin: "6px 0 0" }}>
          All parts in their places, at nominal size: STEP is exact, the others are meshes. Single parts are in the cut list.
        </p>
      </div>
      <div className="paper">
        <div className="row" style={{ marginBottom: 6 }}>
          <h2 className="grow">Cut list</h2>
          <Button component="a" leftSection={<IconDownload size={15} />} href={`${base}/cut-list`}>
            Cut list, CSV
          </Button>
        </div>
        <table className="plain" aria-label="Cut list">
          <thead>
            <tr>
              <th className="num">No.</th>
              <th>Part</th>
              <th className="num">Pieces</th>
              <th>Stock</th>
              <th className="num">Thick, {unitOf(doc.display)}</th>
              <th className="num">Length, {unitOf(doc.display)}</th>
              <th className="num">Width, {unitOf(doc.display)}</th>
              <th className="num">Mass</th>
              <th>Files</th>
            </tr>
          </thead>
          <tbody>
            {rows.map(({ row, p, files }) => (
              <tr
                key={p.key}
                className={row.keys.some((k) => lit.includes(k)) ? "on" : undefined}
                onClick={() => view.select({ kind: "part", key: p.key })}
                onMouseEnter={() => view.point(p.key)}
                onMouseLeave={() => view.point("")}
              >
                <td className="num figure" style={{ whiteSpace: "nowrap" }}>
                  {row.code}
                </td>
                <td>
                  <b>{words(row.name)}</b>
                  {p.note && (
                    <span className={p.made === "bought" ? "soft" : "warn"} style={{ display: "block", fontSize: 12 }}>
                      {p.note}
                    </span>
                  )}
                </td>
                <td className="num figure">{row.quantity}</td>
                <td style={{ whiteSpace: "nowrap" }}>{p.stock ? doc.stocks[p.stock]?.name : "bought"}</td>
                <td className="num figure">
                  {p.kind === "rod" && "⌀ "}
                  {p.nominal == null ? "" : figure(p.nominal, doc.display)}
                  {p.measured != null && <span className="soft"> ({figure(p.measured, doc.display)})</span>}
                </td>
                <td className="num figure">{p.length === null ? "" : figure(p.length, doc.display)}</td>
                <td className="num figure">{p.width === null ? "" : figure(p.width, doc.display)}</td>
                <td className="num figure">{p.mass === null ? "" : mass(p.mass)}</td>
                <td>
                  {files.length ? (
                    files.map((f) => (
                      <span
                        className="row"
                        style={{ flexWrap: "wrap", columnGap: 8 }}
                        key={f.key}
                        onClick={(e) => e.stopPropagation()}
                      >
                        {files.length > 1 && <span className="soft">{words(f.path)}</span>}
                        <a href={`${base}/parts/${f.key}?to=dxf&kerf=${kerf}`} aria-label={`${f.path} as DXF`}>
                          DXF
                        </a>
                        <a href={`${base}/parts/${f.key}?to=svg&kerf=${kerf}`} aria-label={`${f.path} as SVG`}>
                          SVG
                        </a>
                        <a href={`${base}/solids?to=step&part=${f.key}`} aria-label={`${f.path} as STEP`}>
                          STEP
                        </a>
                        {f.folded && (
                          <a href={`${base}/solids?to=step&part=${f.key}&flat=true`} aria-label={`Flat of ${f.path} as STEP`}>
                            flat STEP
                          </a>
                        )}
                        {f.turns && (
                          <a
                            href={`${base}/parts/${f.key}?to=dxf&kerf=${kerf}&turned=true`}
                            aria-label={`${f.path}, second side, as DXF`}
                          >
                            2nd side
                          </a>
                        )}
                      </span>
                    ))
                  ) : p.solid && p.made === "cut" ? (
                    <a
                      href={`${base}/solids?to=step&part=${p.key}`}
                      aria-label={`${p.path} as STEP`}
                      onClick={(e) => e.stopPropagation()}
                    >
                      STEP
                    </a>
                  ) : (
                    <span className="soft">bought</span>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        <p className="soft" style={{ margin: "8px 0 0" }}>
          {mass(built.totals.mass)} together; bought things {money(built.totals.bought, doc.currency)}. Thicknesses are nominal,
          measured ones in brackets
          {Object.values(doc.stocks).some((s) => s.measured) &&
            Object.keys(doc.stocks)
              .filter((k) => built.parts.some((p) => p.stock === k) && doc.stocks[k].measured)
              .map((k) => {
                const [n, m] = [built.values[`/stocks/${k}/nominal`], built.values[`/stocks/${k}/measured`]];
                return n && m ? `; ${doc.stocks[k].name} measures ${length(m.value, doc.display)}` : "";
              })}
          .
        </p>
      </div>
      <DrillingTable base={base} />
      {kept.length > 0 && (
        <div className="paper">
          <h3>Problems that are knowingly kept</h3>
          <ProblemList problems={kept} />
        </div>
      )}
    </div>
  );
}
