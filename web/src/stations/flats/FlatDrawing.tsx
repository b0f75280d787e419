// One flat drawn large: contours by what is done to them, dimensions over all and of holes, and what the kerf does.
import { useState } from "react";
import type { FlatOut, PartOut } from "../../api/types";
import { figure, length } from "../../lib/figures";
import { useShown } from "../../state/design";
import { ownerOf, selectionOf, useView } from "../../state/view";

export function FlatDrawing({ part, flat }: { part: PartOut; flat: FlatOut }) {
  const shown = useShown()!;
  const view = useView();
  const [over, setOver] = useState<number | null>(null);
  const { doc } = shown;
  const display = doc.display;
  const [x0, y0, x1, y1] = flat.bounds;
  const [w, h] = [x1 - x0, y1 - y0];
  const pad = Math.max(w, h) * 0.11;
  const text = Math.max(w / 900, h / 560, 0.02) * 19;
  const tint = doc.stocks[part.stock]?.tint ?? "#ccc";
  const owner = ownerOf(view.selection);
  const problems = shown.built.problems.filter((p) => p.part === part.key && p.at && !p.kept);
  const cut = view.asCut;
  const flipped = doc.parts[part.key]?.kind === "board" && (doc.parts[part.key] as { up: string }).up === "b";
  const pointed = over !== null ? flat.contours[over] : null;
  const body = flat.contours
    .filter((c) => c.operation !== "mark")
    .map((c) => c.d)
    .join("");
  return (
    <>
      <svg
        style={{ position: "absolute", inset: "50px 8px 34px 8px", width: "calc(100% - 16px)", height: "calc(100% - 84px)" }}
        viewBox={`${x0 - pad * 1.25} ${-y1 - pad * 0.7} ${w + pad * 2.1} ${h + pad * 1.9}`}
        role="img"
        aria-label={`Flat of ${part.path}`}
        data-testid="flat"
      >
        <path
          d={body}
          fill={tint}
          fillRule="evenodd"
          fillOpacity={cut ? 0.45 : 0.9}
          stroke="none"
          onClick={() => view.select({ kind: "part", key: part.key })}
        />
        {flat.contours.map((c, i) => (
          <g
            key={i}
            onMouseEnter={() => setOver(i)}
            onMouseLeave={() => setOver(null)}
            onClick={() => view.select(selectionOf(c.owners[0][0], part.key))}
            style={{ cursor: "pointer" }}
          >
            {cut && c.operation !== "mark" && (
              <path
                d={c.d}
                fill="none"
                stroke="var(--pencil)"
                strokeWidth={0.7}
                strokeDasharray="3 3"
                vectorEffect="non-scaling-stroke"
              />
            )}
            {cut && c.operation !== "mark" && (
              <path d={c.cut} fill="none" stroke="var(--cut)" strokeOpacity={0.3} strokeWidth={flat.kerf} />
            )}
            <path
              d={cut ? c.cut : c.d}
              fill="none"
              className={c.operation === "mark" ? "marks" : c.operation}
              strokeWidth={over === i ? 2.2 : 1.25}
              vectorEffect="non-scaling-stroke"
            />
            <path
              d={c.d}
              fill="none"
              stroke="transparent"
              strokeWidth={9}
              vectorEffect="non-scaling-stroke"
              pointerEvents="stroke"
            />
            {owner &&
              c.owners.map(
                ([name, d], k) =>
                  name === owner && (
                    <path
                      key={k}
                      d={d || c.d}
                      fill="none"
                      stroke="var(--marker)"
                      strokeOpacity={0.95}
                      strokeWidth={4}
                      vectorEffect="non-scaling-stroke"
                      pointerEvents="none"
                    />
                  ),
              )}
          </g>
        ))}
        <g className="dimension">
          <path
            className="dimension"
            d={`M${x0} ${-y0 + pad * 0.2}V${-y0 + pad * 0.62}M${x1} ${-y0 + pad * 0.2}V${-y0 + pad * 0.62}M${x0} ${-y0 + pad * 0.5}H${x1}`}
          />
          <path
            className="dimension"
            d={`M${x0 - pad * 0.2} ${-y0}H${x0 - pad * 0.62}M${x0 - pad * 0.2} ${-y1}H${x0 - pad * 0.62}M${x0 - pad * 0.5} ${-y0}V${-y1}`}
          />
        </g>
        <Label x={(x0 + x1) / 2} y={-y0 + pad * 0.5} size={text}>
          {length(w, display)}
        </Label>
        <Label x={x0 - pad * 0.5} y={-(y0 + y1) / 2} size={text} turned>
          {length(h, display)}
        </Label>
        {flat.contours
          .filter((c) => c.circle && c.operation === "inside")
          .map((c, i) => (
            <text
              key={i}
              x={c.circle![0]}
              y={-c.circle![1] - c.circle![2] - text * 0.5}
              fontSize={text * 0.86}
              textAnchor="middle"
              fill="var(--ink)"
              className="mono"
            >
              ⌀ {figure(c.circle![2] * 2, display)}
            </text>
          ))}
        {problems.map((p) => (
          <g key={p.id} transform={`translate(${flipped ? x0 + x1 - p.at![0] : p.at![0]} ${-p.at![1]})`}>
            <circle r={text * 0.95} fill="none" stroke="var(--cut)" strokeWidth={2} vectorEffect="non-scaling-stroke" />
            <title>{p.message}</title>
          </g>
        ))}
      </svg>
      <div className="hint" style={{ pointerEvents: "auto", right: 10 }} data-testid="flat-facts">
        {pointed ? (
          <Facts contour={pointed} kerf={flat.kerf} display={display} />
        ) : (
          <>
            {cut
              ? `As cut: the beam's middle, ${length(flat.kerf / 2, display)} off the nominal line; its width is drawn in. `
              : "Nominal: no kerf in these lines. "}
            Kerf {length(flat.kerf, display)}. Cut in the order: marks, inside, outside.
          </>
        )}
      </div>
    </>
  );
}

function Facts({
  contour,
  kerf,
  display,
}: {
  contour: FlatOut["contours"][number];
  kerf: number;
  display: "mm" | "in" | "fraction";
}) {
  const [x0, y0, x1, y1] = contour.bounds;
  const size = contour.circle
    ? `⌀ ${length(contour.circle[2] * 2, display)}`
    : `${figure(x1 - x0, display)} × ${length(y1 - y0, display)}`;
  const words = { mark: "Engraved", inside: "Cut inside", outside: "Cut outside" }[contour.operation];
  const online = contour.circle
    ? `⌀ ${length(contour.on_line[0], display)}`
    : `${figure(contour.on_line[0], display)} × ${length(contour.on_line[1], display)}`;
  return (
    <>
      <b>{words}</b> <span className="figure">{size}</span>
      {contour.operation !== "mark" && kerf > 0 && (
        <>
          . If it were cut on the line it would measure <span className="figure">{online}</span>.
        </>
      )}
    </>
  );
}

function Label({ x, y, size, turned, children }: { x: number; y: number; size: number; turned?: boolean; children: string }) {
  const width = children.length * size * 0.64;
  return (
    <g transform={turned ? `rotate(-90 ${x} ${y})` : undefined}>
      <rect x={x - width / 2} y={y - size * 0.7} width={width} height={size * 1.4} fill="var(--canvas)" />
      <text x={x} y={y + size * 0.36} fontSize={size} textAnchor="middle" fill="var(--ink)" className="mono">
        {children}
      </text>
    </g>
  );
}
