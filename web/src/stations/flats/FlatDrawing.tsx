// One flat drawn large: contours by what is done to them, dimensions over all and of holes, and what the kerf does.

import { useRef, useState } from "react";
import type { FlatOut, PartOut } from "../../api/types";
import { inside, LoopTool, type Point } from "../../frame/Loop";
import { type Axis, FACES, isPlate, lookOf, sheetOf } from "../../lib/document";
import { figure, length } from "../../lib/figures";
import { isOf } from "../../lib/owner";
import { stepNumbers, useBendPlan } from "../../state/bending";
import { useShown } from "../../state/design";
import { useDrilling } from "../../state/drilling";
import { ownersOf, selectionOf, useView } from "../../state/view";
import { placeLabels, type Rounds } from "./labels";

export function FlatDrawing({ part, flat, turned }: { part: PartOut; flat: FlatOut; turned: boolean }) {
  const shown = useShown()!;
  const view = useView();
  const [over, setOver] = useState<number | null>(null);
  const { doc } = shown;
  const display = doc.display;
  const [x0, y0, x1, y1] = flat.bounds;
  const [w, h] = [x1 - x0, y1 - y0];
  const pad = Math.max(w, h) * 0.11;
  const text = Math.max(w / 900, h / 560, 0.02) * (flat.bends.length ? 27 : 19); // the table of bends takes room from the drawing
  const record = doc.parts[part.of];
  const follows = isPlate(record) && sheetOf(doc, part.stock)?.grain !== "none" ? record.grain : "free";
  const grain = follows === "free" ? null : follows;
  const tint = lookOf(doc, part.stock).tint;
  const owners = ownersOf(view.selection);
  const owner = owners[0] ?? "";
  const numbers = stepNumbers(useBendPlan(flat.bends.length ? part.key : "", part.flat));
  const svg = useRef<SVGSVGElement>(null);
  const problems = shown.built.problems.filter((p) => p.part === part.of && part.handed > 0 && p.at && !p.kept);
  const cut = view.asCut;
  const tool = { laser: "Kerf", router: "Bit", saw: "Blade" }[doc.cutters[doc.cutter]?.kind ?? "laser"];
  // turned over, the drawing lies mirrored left to right about its own middle, and the problems' places with it
  const flipped = (flat.seen === "b") !== turned;
  const side = turned ? flat.under : flat.contours;
  const through = (c: FlatOut["contours"][number]) => c.operation === "inside" || c.operation === "outside";
  const outline = turned && !side.some(through) ? flat.contours.filter(through) : [];
  const contours = [...outline, ...side].sort((p, q) => p.depth - q.depth);
  // the other face's work shows through, dashed
  const hidden = (turned ? flat.contours : flat.under).filter(
    (c) => !through(c) && c.operation !== "note" && !c.operation.startsWith("bend"),
  );
  // the edges that the drilling list measures from, each with a triangle on it
  const rows = useDrilling().filter((r) => r.key === part.key);
  const from = new Set(rows.flatMap((r) => [r.along_from, r.across_from]).map((words) => words.split(" ")[0]));
  const marked = referenceEdges(part, flat, flipped).filter((e) => from.has(e.word));
  const faces = [...new Set(rows.filter((r) => r.surface === "edge").map((r) => r.across_from))];
  const pointed = over !== null ? contours[over] : null;
  const bends = turned ? flat.under_bends : flat.bends;
  const dimensionBox = (x: number, y: number, words: string, turn: number) => ({
    x,
    y,
    halfWidth: words.length * text * 0.32,
    halfHeight: text * 0.7,
    turn,
  });
  /** The round holes to be dimensioned, those of one owner and size by one label. */
  function holeGroups(of: FlatOut["contours"]): Rounds[] {
    const groups = new Map<string, Rounds>();
    for (const c of of) {
      if (!c.circle || (c.operation !== "inside" && c.operation !== "drill")) continue;
      const [x, y, radius] = c.circle;
      const key = `${c.owners[0][0]} ${radius.toFixed(4)}`;
      const group = groups.get(key) ?? { key, places: [], radius, text: "" };
      group.places.push([x, -y]);
      groups.set(key, group);
    }
    const sized = (g: Rounds) => `⌀ ${figure(2 * g.radius, display)}`;
    return [...groups.values()].flatMap((g) =>
      g.places.length < 3
        ? g.places.map((at, i) => ({ ...g, key: `${g.key} ${i}`, places: [at], text: sized(g) }))
        : [{ ...g, text: `${g.places.length} × ${sized(g)}` }],
    );
  }
  const labels = placeLabels(
    bends.map((b) => {
      const [bx0, by0, bx1, by1] = b.line;
      const number = numbers.get(b.key) ?? b.number;
      const shape = b.angle > 175 ? "hem" : `R${figure(b.radius, display)}`;
      const whole = `${number} ${b.direction} ${Number(b.angle.toFixed(2))}° ${shape}`;
      return { key: b.key, line: [bx0, -by0, bx1, -by1], whole, short: `${number}` };
    }),
    holeGroups(contours),
    text,
    [
      dimensionBox((x0 + x1) / 2, -y0 + pad * 0.5, length(w, display), 0),
      dimensionBox(x0 - pad * 0.5, -(y0 + y1) / 2, length(h, display), -90),
    ],
  );
  const body = contours
    .filter(through)
    .map((c) => c.d)
    .join("");
  /** The features that lie wholly inside a loop on the drawing. */
  function loop(polygon: Point[]) {
    const matrix = svg.current?.getScreenCTM();
    const frame = svg.current?.parentElement?.getBoundingClientRect();
    if (!matrix || !frame) return;
    const on = (x: number, y: number): Point => {
      const p = new DOMPoint(x, -y).matrixTransform(matrix);
      return [p.x - frame.left, p.y - frame.top];
    };
    const found = new Set<string>();
    for (const c of contours) {
      const own = c.owners[0][0];
      const [bx0, by0, bx1, by1] = c.bounds;
      const ends: Point[] = [on(bx0, by0), on(bx1, by0), on(bx1, by1), on(bx0, by1)];
      if (isOf(own, "feature") && ends.every((p) => inside(p, polygon))) found.add(own);
    }
    view.selectMany([], [...found]);
    view.setTool("");
  }

  return (
    <>
      {(view.tool === "loop" || view.tool === "box") && <LoopTool shape={view.tool} onDone={(polygon) => loop(polygon)} />}
      <svg
        ref={svg}
        style={{
          position: "absolute",
          inset: `${flat.bends.length ? 90 : 50}px 8px 34px 8px`,
          width: "calc(100% - 16px)",
          // the table of bends stands below the drawing
          height: flat.bends.length ? "calc(100% - 134px - min(30%, 230px))" : "calc(100% - 84px)",
        }}
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
        {contours
          .filter((c) => c.operation === "depth")
          .map((c, i) => (
            <path
              key={`floor${i}`}
              d={c.d}
              fill="var(--depth)"
              fillRule="evenodd"
              fillOpacity={0.14 + 0.5 * Math.min(1, c.depth / flat.thickness)}
              stroke="none"
              pointerEvents="none"
            />
          ))}
        {contours.map((c, i) => (
          <g
            key={i}
            onMouseEnter={() => setOver(i)}
            onMouseLeave={() => setOver(null)}
            onClick={() => view.select(selectionOf(c.owners[0][0], part.key))}
            style={{ cursor: "pointer" }}
          >
            {cut && cuts(c) && (
              <path
                d={c.d}
                fill="none"
                stroke="var(--pencil)"
                strokeWidth={0.7}
                strokeDasharray="3 3"
                vectorEffect="non-scaling-stroke"
              />
            )}
            {cut && cuts(c) && <path d={c.cut} fill="none" stroke="var(--cut)" strokeOpacity={0.3} strokeWidth={flat.kerf} />}
            <path
              d={cut ? c.cut : c.d}
              fill="none"
              className={c.operation === "mark" ? "marks" : outline.includes(c) ? "note" : c.operation}
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
                  owners.includes(name) && (
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
        {labels.bends.map((label) => {
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
              {/* the triangle stays upright however the label is turned: it says up or down */}
              <path
                d={b.direction === "up" ? "M0 -0.4L0.42 0.36H-0.42Z" : "M0 0.4L0.42 -0.36H-0.42Z"}
                transform={`translate(${text * 0.6 - label.halfWidth} 0) rotate(${-label.turn}) scale(${text})`}
                fill="var(--ink)"
              />
              <text x={text * 0.5} y={text * 0.3} fontSize={text * 0.82} textAnchor="middle" fill="var(--ink)" className="mono">
                {label.text}
              </text>
              <title>{`Bends ${b.direction}, towards ${b.direction === "up" ? "you" : "the bench"}; allowance ${length(b.allowance, display)}`}</title>
            </g>
          );
        })}
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
        {grain && <Grain way={grain} x={x1 + pad * 0.2 + text * 1.1} y={-y1 + pad * 0.5} size={text} />}
        {hidden.length > 0 && (
          <g className="hiddenwork" transform={`translate(${x0 + x1} 0) scale(-1 1)`}>
            <title>Worked from the other face</title>
            {hidden.map((c, i) => (
              <path key={`under${i}`} d={c.d} fill="none" vectorEffect="non-scaling-stroke" />
            ))}
          </g>
        )}
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
        {labels.holes.map((h) => (
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
        {marked.map((e) => (
          <g key={e.word} transform={`translate(${e.x} ${e.y}) rotate(${e.turn})`}>
            <path d={`M0 0L${text * 0.55} ${text * 0.95}H${-text * 0.55}Z`} fill="var(--drill)" />
            <title>The drilling list measures from its {e.word}</title>
          </g>
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
              ? `As cut: the ${tool === "Bit" ? "bit" : tool === "Blade" ? "blade" : "beam"}'s middle, ${length(flat.kerf / 2, display)} off the nominal line; its width is drawn in. `
              : "Nominal: no kerf in these lines. "}
            {tool} {length(flat.kerf, display)}. Cut in the order: marks, depths, inside, outside.
            {marked.length > 0 &&
              ` ▲ Holes are measured from here${faces.length ? `, and in the edges from the ${faces.join(", ")}` : ""}.`}
          </>
        )}
      </div>
    </>
  );
}

/** The four edges as they lie, with the middle of each and the turn of a triangle that points at it from outside. */
function referenceEdges(part: PartOut, flat: FlatOut, flipped: boolean) {
  const [x0, y0, x1, y1] = flat.bounds;
  const [left, right] = FACES[part.u as Axis] ?? ["", ""];
  const [low, high] = FACES[part.v as Axis] ?? ["", ""];
  return [
    { word: flipped ? right : left, x: x0, y: -(y0 + y1) / 2 + (y1 - y0) * 0.2, turn: 90 },
    { word: flipped ? left : right, x: x1, y: -(y0 + y1) / 2 + (y1 - y0) * 0.2, turn: -90 },
    { word: low, x: (x0 + x1) / 2 + (x1 - x0) * 0.2, y: -y0, turn: 0 },
    { word: high, x: (x0 + x1) / 2 + (x1 - x0) * 0.2, y: -y1, turn: 180 },
  ];
}

/** Whether the cutter runs along it with the width of its cut. */
function cuts(c: FlatOut["contours"][number]): boolean {
  return c.operation === "inside" || c.operation === "outside" || c.operation === "depth";
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
  const deep = contour.depth ? `, ${length(contour.depth, display)} deep` : "";
  const words = {
    mark: "Engraved",
    inside: "Cut inside",
    outside: "Cut outside",
    depth: "Pocket",
    drill: "Left to a drill",
    note: "Worked to by hand",
    "bend-up": "▲ Bends up, along this line",
    "bend-down": "▼ Bends down, along this line",
  }[contour.operation];
  const online = contour.circle
    ? `⌀ ${length(contour.on_line[0], display)}`
    : `${figure(contour.on_line[0], display)} × ${length(contour.on_line[1], display)}`;
  return (
    <>
      <b>{words}</b>{" "}
      <span className="figure">
        {size}
        {deep}
      </span>
      {(contour.operation === "inside" || contour.operation === "outside") && kerf > 0 && (
        <>
          . If it were cut on the line it would measure <span className="figure">{online}</span>.
        </>
      )}
    </>
  );
}

/** An arrow along the part's grain, beside the drawing. */
function Grain({ way, x, y, size }: { way: "u" | "v"; x: number; y: number; size: number }) {
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
