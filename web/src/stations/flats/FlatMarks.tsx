// What is written on a flat: bends with their labels, dimensions over all, holes into the edges, the grain.
import type { FlatOut, PartOut } from "../../api/types";
import { figure, length } from "../../lib/figures";
import { selectionOf, useView } from "../../state/view";
import type { Contour, Display, MeasuredEdge } from "./flatSides";
import { type placeLabels, RING, TRIANGLE } from "./labels";

type BendLabelsProps = {
  part: PartOut;
  bends: FlatOut["bends"];
  labels: ReturnType<typeof placeLabels>["bends"];
  owners: string[];
  text: number;
  display: Display;
};

/** The mark of each bend at the end of its line: its step in a ring, which way it folds, how far; its radius where that is not the part's. */
export function BendLabels({ part, bends, labels, owners, text, display }: BendLabelsProps) {
  const view = useView();
  return (
    <>
      {labels.map((label) => {
        const b = bends.find((x) => x.key === label.key)!;
        return (
          <g
            key={`bend${b.key}`}
            className="bendlabel"
            transform={`translate(${label.x} ${label.y}) rotate(${label.turn})`}
            onClick={() => view.select(selectionOf(b.owner, part.key))}
          >
            <rect
              x={-label.halfWidth}
              y={-label.halfHeight}
              width={2 * label.halfWidth}
              height={2 * label.halfHeight}
              fill={owners.includes(b.owner) ? "var(--marker)" : "var(--canvas)"}
              fillOpacity={0.9}
            />
            <circle
              cx={label.ring * (label.halfWidth - (text * RING) / 2)}
              r={text * 0.68}
              fill="var(--paper-raised)"
              stroke="var(--ink)"
              strokeWidth={text * 0.07}
            />
            <text
              transform={`translate(${label.ring * (label.halfWidth - (text * RING) / 2)} 0) rotate(${-label.turn})`}
              y={text * 0.27}
              fontSize={text * 0.78}
              textAnchor="middle"
              fill="var(--ink)"
              className="mono"
            >
              {label.step}
            </text>
            {/* the triangle stays upright however the label is turned: it says up or down */}
            <path
              d={b.direction === "up" ? "M0 -0.4L0.42 0.36H-0.42Z" : "M0 0.4L0.42 -0.36H-0.42Z"}
              transform={`translate(${(label.ring < 0 ? text * (RING + TRIANGLE / 2) : text * TRIANGLE * 0.5) - label.halfWidth} 0) rotate(${-label.turn}) scale(${text})`}
              fill="var(--ink)"
            />
            <text
              x={(label.ring < 0 ? text * (RING + TRIANGLE) : text * TRIANGLE) - label.halfWidth}
              y={text * 0.3}
              fontSize={text * 0.82}
              fill="var(--ink)"
              className="mono"
            >
              {label.text}
            </text>
            <title>{`Bends ${b.direction}, towards ${b.direction === "up" ? "you" : "the bench"}; allowance ${length(b.allowance, display)}`}</title>
          </g>
        );
      })}
    </>
  );
}

/** The two dimensions over all. */
export function OverAll({
  bounds,
  pad,
  text,
  display,
}: {
  bounds: FlatOut["bounds"];
  pad: number;
  text: number;
  display: Display;
}) {
  const [x0, y0, x1, y1] = bounds;
  const [w, h] = [x1 - x0, y1 - y0];
  return (
    <>
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
    </>
  );
}

type EdgeBoresProps = { part: PartOut; flat: FlatOut; turned: boolean; owner: string; display: Display };

/** Holes into the edges, as they run under the face. */
export function EdgeBores({ part, flat, turned, owner, display }: EdgeBoresProps) {
  const view = useView();
  const [x0, , x1] = flat.bounds;
  return (
    <>
      {flat.bores.map((b) => {
        const [bx0, by0, bx1, by1] = turned ? [x0 + x1 - b.line[0], b.line[1], x0 + x1 - b.line[2], b.line[3]] : b.line;
        return (
          <g
            key={`${b.edge}${b.along}`}
            onClick={() => view.select(selectionOf(b.owner, part.key))}
            style={{ cursor: "pointer" }}
          >
            <path
              d={`M${bx0} ${-by0}L${bx1} ${-by1}`}
              stroke={owner === b.owner ? "var(--joint)" : "var(--drill)"}
              strokeOpacity={0.4}
              strokeWidth={b.diameter}
              fill="none"
            />
            <path
              d={`M${bx0} ${-by0}L${bx1} ${-by1}`}
              stroke="var(--drill)"
              strokeDasharray="8 3 2 3"
              strokeWidth={1}
              vectorEffect="non-scaling-stroke"
              fill="none"
            />
            <title>{`${length(b.diameter, display)} bore, ${length(b.depth, display)} deep into the ${b.edge} edge`}</title>
          </g>
        );
      })}
    </>
  );
}

/** Holes drilled askew: their axes under the face, and their mouths on the face that lies down. */
export function SkewBores({ part, flat, turned, owner, display }: EdgeBoresProps) {
  const view = useView();
  const [x0, , x1] = flat.bounds;
  const over = (x: number) => (turned ? x0 + x1 - x : x);
  return (
    <>
      {flat.skew_bores.map((b) => {
        const [u0, v0, u1, v1] = b.line;
        const stroke = owner === b.owner ? "var(--joint)" : "var(--drill)";
        const across = b.lean == null;
        const how = across ? "from edge to edge" : `${figure(Number((b.lean ?? 0).toFixed(2)), "mm")}° off square`;
        return (
          <g
            key={`${b.owner}${b.line.join()}`}
            onClick={() => view.select(selectionOf(b.owner, part.key))}
            style={{ cursor: "pointer" }}
            data-testid="skew-bore"
          >
            {across && (
              <path
                d={`M${over(u0)} ${-v0}L${over(u1)} ${-v1}`}
                stroke={stroke}
                strokeOpacity={0.4}
                strokeWidth={b.diameter}
                fill="none"
              />
            )}
            <path
              d={`M${over(u0)} ${-v0}L${over(u1)} ${-v1}`}
              stroke={stroke}
              strokeDasharray="8 3 2 3"
              strokeWidth={1}
              vectorEffect="non-scaling-stroke"
              fill="none"
            />
            {b.under && (
              <path
                d={b.under}
                transform={turned ? `translate(${x0 + x1} 0) scale(-1 1)` : undefined}
                stroke={stroke}
                strokeDasharray="5 3"
                strokeWidth={1}
                vectorEffect="non-scaling-stroke"
                fill={stroke}
                fillOpacity={0.12}
              />
            )}
            <title>{`${length(b.diameter, display)} bore, ${how}, by the drill`}</title>
          </g>
        );
      })}
    </>
  );
}

/** An arrow along the part's grain, beside the drawing. */
export function Grain({ way, x, y, size }: { way: "u" | "v"; x: number; y: number; size: number }) {
  const [l, h] = [size * 1.1, size * 0.4];
  return (
    <g transform={`translate(${x} ${y})`} data-testid="grain">
      <path
        d={`M${-l} 0H${l}M${-l} 0l${h} ${-h}M${-l} 0l${h} ${h}M${l} 0l${-h} ${-h}M${l} 0l${-h} ${h}`}
        transform={way === "v" ? "rotate(90)" : undefined}
        fill="none"
        stroke="var(--ink)"
        strokeWidth={1.2}
        vectorEffect="non-scaling-stroke"
      />
      <text y={(way === "v" ? l : h) + size} fontSize={size * 0.8} textAnchor="middle" fill="var(--ink)">
        grain
      </text>
      <title>The grain runs this way in the part</title>
    </g>
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

/** How deep each pocket is. */
export function Depths({ contours, text, display }: { contours: Contour[]; text: number; display: Display }) {
  return (
    <>
      {contours
        .filter((c) => c.operation === "depth" && !c.circle)
        .map((c, i) => (
          <text
            key={`deep${i}`}
            x={c.spot[0]}
            y={-c.spot[1] + text * 0.3}
            fontSize={text * 0.8}
            textAnchor="middle"
            fill="var(--ink)"
            className="mono"
            pointerEvents="none"
          >
            ↧{figure(c.depth, display)}
          </text>
        ))}
    </>
  );
}

type HoleLabelsProps = { labels: ReturnType<typeof placeLabels>["holes"]; text: number };

/** The diameters of round holes. */
export function HoleLabels({ labels, text }: HoleLabelsProps) {
  return (
    <>
      {labels.map((h) => (
        <text
          key={h.key}
          x={h.x}
          y={h.y + text * 0.3}
          fontSize={text * 0.86}
          textAnchor="middle"
          fill="var(--ink)"
          className="mono"
          pointerEvents="none"
        >
          {h.text}
        </text>
      ))}
    </>
  );
}

/** A triangle at each edge that the drilling list measures from. */
export function MeasuredFrom({ edges, text }: { edges: MeasuredEdge[]; text: number }) {
  return (
    <>
      {edges.map((e) => (
        <g key={e.word} transform={`translate(${e.x} ${e.y}) rotate(${e.turn})`}>
          <path d={`M0 0L${text * 0.55} ${text * 0.95}H${-text * 0.55}Z`} fill="var(--drill)" />
          <title>The drilling list measures from its {e.word}</title>
        </g>
      ))}
    </>
  );
}

/** Edges that a profile or a band runs along, each with its label inside the board. */
export function AlongEdges({ part, flat, turned, owner, display, text }: EdgeBoresProps & { text: number }) {
  const view = useView();
  const [x0, , x1] = flat.bounds;
  const over = turned ? `translate(${x0 + x1} 0) scale(-1 1)` : undefined;
  const all = [
    ...flat.edges.map((e) => ({ ...e, on: e.face, label: edgeLabel(e, display), reach: e.width })),
    ...flat.bands.map((b) => ({ ...b, on: "" as const, label: `${length(b.thickness, display)} band`, reach: 0 })),
  ];
  const seen = turned ? (flat.seen === "a" ? "b" : "a") : flat.seen;
  return (
    <>
      {all.map((e) => {
        const [x, y, nx, ny] = e.spot;
        const away = e.reach + text * 1.1;
        const [lx, ly] = [x + nx * away, y + ny * away];
        const hidden = e.on !== "" && e.on !== seen;
        const stroke = owner === e.owner ? "var(--joint)" : "var(--drill)";
        return (
          <g
            key={`${e.owner}${e.on}${e.path}`}
            onClick={() => view.select(selectionOf(e.owner, part.key))}
            style={{ cursor: "pointer" }}
            data-testid="along-edge"
          >
            <path
              d={e.path}
              transform={over}
              stroke={stroke}
              strokeWidth={hidden ? 2 : 4}
              strokeDasharray={hidden ? "5 4" : e.on ? undefined : "10 3"}
              vectorEffect="non-scaling-stroke"
              fill="none"
            />
            {!hidden && (
              <Label x={turned ? x0 + x1 - lx : lx} y={-ly} size={text * 0.85} turned={Math.abs(nx) > Math.abs(ny)}>
                {e.label}
              </Label>
            )}
            <title>{hidden ? `${e.label}, on the face that lies down` : e.label}</title>
          </g>
        );
      })}
    </>
  );
}

function edgeLabel(e: FlatOut["edges"][number], display: Display): string {
  if (e.shape !== "chamfer") return `${e.shape === "cove" ? "cove " : ""}R ${length(e.width, display)}`;
  const down = e.height === e.width ? "" : ` × ${length(e.height, display)}`;
  return `${length(e.width, display)}${down} chamfer`;
}
