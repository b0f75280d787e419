// The cut list as the shop reads it: sizes, masses, and the files of each part.
import { Button } from "@mantine/core";
import { IconDownload } from "@tabler/icons-react";
import type { PartOut } from "../../api/types";
import { acrossMark, cutHere, isLength, notesOf } from "../../lib/document";
import { figure, length, mass, money, unitOf } from "../../lib/figures";
import { useShown } from "../../state/design";
import { useFormats } from "../../state/forms";
import { distinctParts, lightOf, standFor, words } from "../../state/shape";
import { useView } from "../../state/view";
import type { Kerf } from "./CutFiles";

export function CutTable({ base, kerf }: { base: string; kerf: Kerf }) {
  const { doc, built } = useShown()!;
  const view = useView();
  const every = lightOf(view.selection, built, doc);
  const lit = [...new Set([...every, ...every.map((k) => standFor(built.parts, k))])];
  const drawn = distinctParts(built.parts);
  const rows = built.rows.map((row) => ({
    row,
    p: built.parts.find((x) => x.key === row.keys[0])!,
    files: drawn.filter((x) => row.keys.includes(x.key) && x.flat && cutHere(x.made)),
  }));
  return (
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
                {notesOf(doc, row.keys) && (
                  <span className="soft" style={{ display: "block", fontSize: 12 }}>
                    {notesOf(doc, row.keys)}
                  </span>
                )}
                {p.note && (
                  <span className={cutHere(p.made) ? "warn" : "soft"} style={{ display: "block", fontSize: 12 }}>
                    {p.note}
                  </span>
                )}
              </td>
              <td className="num figure">{row.quantity}</td>
              <td style={{ whiteSpace: "nowrap" }}>{p.stock ? doc.stocks[p.stock]?.name : p.made}</td>
              <td className="num figure">
                {isLength(p) && acrossMark(doc, p.stock)}
                {p.nominal == null ? "" : figure(p.nominal, doc.display)}
                {p.measured != null && <span className="soft"> ({figure(p.measured, doc.display)})</span>}
              </td>
              <td className="num figure">{p.length === null ? "" : figure(p.length, doc.display)}</td>
              <td className="num figure">{p.width === null ? "" : figure(p.width, doc.display)}</td>
              <td className="num figure">{p.mass === null ? "" : mass(p.mass)}</td>
              <td>
                <PartFiles p={p} files={files} base={base} kerf={kerf} />
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
  );
}

/** The files of one row: of each part that is drawn on its own, or the solid of what has no flat. */
function PartFiles({ p, files, base, kerf }: { p: PartOut; files: PartOut[]; base: string; kerf: Kerf }) {
  const drawings = useFormats("drawing");
  return files.length ? (
    files.map((f) => (
      <span className="row" style={{ flexWrap: "wrap", columnGap: 8 }} key={f.key} onClick={(e) => e.stopPropagation()}>
        {files.length > 1 && <span className="soft">{words(f.path)}</span>}
        {drawings.map(({ suffix }) => (
          <a
            key={suffix}
            href={`${base}/parts/${f.key}?to=${suffix}&kerf=${kerf}`}
            aria-label={`${f.path} as ${suffix.toUpperCase()}`}
          >
            {suffix.toUpperCase()}
          </a>
        ))}
        <a href={`${base}/solids?to=step&part=${f.key}`} aria-label={`${f.path} as STEP`}>
          STEP
        </a>
        {f.folded && (
          <a href={`${base}/solids?to=step&part=${f.key}&flat=true`} aria-label={`Flat of ${f.path} as STEP`}>
            flat STEP
          </a>
        )}
        {f.turns && (
          <a href={`${base}/parts/${f.key}?to=dxf&kerf=${kerf}&turned=true`} aria-label={`${f.path}, second side, as DXF`}>
            2nd side
          </a>
        )}
      </span>
    ))
  ) : p.solid && cutHere(p.made) ? (
    <a href={`${base}/solids?to=step&part=${p.key}`} aria-label={`${p.path} as STEP`} onClick={(e) => e.stopPropagation()}>
      STEP
    </a>
  ) : (
    <span className="soft">{p.made}</span>
  );
}
