// One flat drawn large: contours by what is done to them, dimensions over all and of holes, and what the kerf does.

import { useRef, useState } from "react";
import type { FlatOut, PartOut } from "../../api/types";
import { inside, LoopTool, type Point } from "../../frame/Loop";
import { isPlate, lookOf, sheetOf } from "../../lib/document";
import { length } from "../../lib/figures";
import { isOf } from "../../lib/owner";
import { stepNumbers, useBendPlan } from "../../state/bending";
import { useShown } from "../../state/design";
import { ownersOf, selectionOf, useView } from "../../state/view";
import { FactLine } from "./FlatFacts";
import { AlongEdges, BendLabels, Depths, EdgeBores, Grain, HoleLabels, MeasuredFrom, OverAll, SkewBores } from "./FlatMarks";
import { bendTexts, type Contour, holeGroups, sidesOf, through, useMeasuredFrom } from "./flatSides";
import { placeLabels } from "./labels";

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
  const { flipped, outline, contours, hidden } = sidesOf(flat, turned);
  const { marked, faces } = useMeasuredFrom(part, flat, flipped);
  const bends = turned ? flat.under_bends : flat.bends;
  const dimensionBox = (x: number, y: number, words: string, turn: number) => ({
    x,
    y,
    halfWidth: words.length * text * 0.32,
    halfHeight: text * 0.7,
    turn,
  });
  const labels = placeLabels(bendTexts(bends, numbers, display), holeGroups(contours, display), text, [
    dimensionBox((x0 + x1) / 2, -y0 + pad * 0.5, length(w, display), 0),
    dimensionBox(x0 - pad * 0.5, -(y0 + y1) / 2, length(h, display), -90),
  ]);
  const body = contours
    .filter(through)
    .map((c) => c.d)
    .join("");
  function loop(polygon: Point[]) {
    if (svg.current) view.selectMany([], featuresWithin(polygon, contours, svg.current));
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
        <Contours {...{ part, flat, contours, outline, over, owners, cut }} onOver={setOver} />
        <BendLabels {...{ part, bends, owners, text, display }} labels={labels.bends} />
        <OverAll bounds={flat.bounds} {...{ pad, text, display }} />
        {grain && <Grain way={grain} x={x1 + pad * 0.2 + text * 1.1} y={-y1 + pad * 0.5} size={text} />}
        {hidden.length > 0 && (
          <g className="hiddenwork" transform={`translate(${x0 + x1} 0) scale(-1 1)`}>
            <title>Worked from the other face</title>
            {hidden.map((c, i) => (
              <path key={`under${i}`} d={c.d} fill="none" vectorEffect="non-scaling-stroke" />
            ))}
          </g>
        )}
        <Depths {...{ contours, text, display }} />
        <EdgeBores {...{ part, flat, turned, owner, display }} />
        <SkewBores {...{ part, flat, turned, owner, display }} />
        <AlongEdges {...{ part, flat, turned, owner, display }} text={text} />
        <HoleLabels labels={labels.holes} text={text} />
        <MeasuredFrom edges={marked} text={text} />
        {problems.map((p) => (
          <g key={p.id} transform={`translate(${flipped ? x0 + x1 - p.at![0] : p.at![0]} ${-p.at![1]})`}>
            <circle r={text * 0.95} fill="none" stroke="var(--cut)" strokeWidth={2} vectorEffect="non-scaling-stroke" />
            <title>{p.message}</title>
          </g>
        ))}
      </svg>
      <FactLine
        contour={over !== null ? contours[over] : null}
        kerf={flat.kerf}
        asCut={cut}
        measured={marked.length > 0}
        faces={faces}
      />
    </>
  );
}

type ContoursProps = {
  part: PartOut;
  flat: FlatOut;
  contours: Contour[];
  /** Those of the whole part, where the side that is worked has none of its own. */
  outline: Contour[];
  over: number | null;
  onOver: (n: number | null) => void;
  owners: string[];
  cut: boolean;
};

/** The lines of a flat, with the width of the cut where that is shown, and what is picked marked. */
function Contours({ part, flat, contours, outline, over, onOver, owners, cut }: ContoursProps) {
  const view = useView();
  const owner = owners[0] ?? "";
  return (
    <>
      {contours.map((c, i) => (
        <g
          key={i}
          onMouseEnter={() => onOver(i)}
          onMouseLeave={() => onOver(null)}
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
    </>
  );
}

/** The features that lie wholly inside a loop on the drawing. */
function featuresWithin(polygon: Point[], contours: Contour[], svg: SVGSVGElement): string[] {
  const matrix = svg.getScreenCTM();
  const frame = svg.parentElement?.getBoundingClientRect();
  if (!matrix || !frame) return [];
  const on = (x: number, y: number): Point => {
    const p = new DOMPoint(x, -y).matrixTransform(matrix);
    return [p.x - frame.left, p.y - frame.top];
  };
  const found = new Set<string>();
  for (const c of contours) {
    const own = c.owners[0][0];
    const [x0, y0, x1, y1] = c.bounds;
    const ends: Point[] = [on(x0, y0), on(x1, y0), on(x1, y1), on(x0, y1)];
    if (isOf(own, "feature") && ends.every((p) => inside(p, polygon))) found.add(own);
  }
  return [...found];
}

/** Whether the cutter runs along it with the width of its cut. */
function cuts(c: FlatOut["contours"][number]): boolean {
  return c.operation === "inside" || c.operation === "outside" || c.operation === "depth";
}
