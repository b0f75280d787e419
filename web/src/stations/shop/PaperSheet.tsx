// A page as it is on paper: its lines light what they are of, its dimensions and balloons are dragged, places take new dimensions.
import { memo, type PointerEvent, useEffect, useMemo, useRef, useState } from "react";
import type { PaperDimensionOut, PaperInkOut, PaperOut, PaperPenOut } from "../../api/types";
import { isLit, nearest, selectedBy, standsOff, wayBetween } from "../../lib/paper";
import { useShown } from "../../state/design";
import { operate } from "../../state/operations";
import { usePapers } from "../../state/papers";
import { lightOf } from "../../state/shape";
import { useView } from "../../state/view";

type Props = { paper: PaperOut; pens: PaperPenOut[]; zoom: number; onFault: (fault: string) => void };
/** `live` while it is in the hand; let go it stays where it is until the paper comes anew. */
type Drag = { name: string; x: number; y: number; dx: number; dy: number; live: boolean };

export function PaperSheet({ paper, pens, zoom, onFault }: Props) {
  const svg = useRef<SVGSVGElement>(null);
  const { chosen, choose, tool, first, begin } = usePapers();
  const [drag, setDrag] = useState<Drag | null>(null);
  const [at, setAt] = useState<{ x: number; y: number } | null>(null);
  // what was let go stands in its new place now
  // biome-ignore lint/correctness/useExhaustiveDependencies: the paper is what it waits for
  useEffect(() => setDrag(null), [paper]);
  const pen = useMemo(() => Object.fromEntries(pens.map((p) => [p.name, p])), [pens]);

  function place(e: PointerEvent): { x: number; y: number } {
    const box = svg.current?.getBoundingClientRect();
    if (!box) return { x: 0, y: 0 };
    return {
      x: ((e.clientX - box.left) / box.width) * paper.width,
      y: ((e.clientY - box.top) / box.height) * paper.height,
    };
  }

  const near = tool && at ? nearest(paper, at.x, at.y, 6) : null;

  async function press(e: PointerEvent) {
    const { x, y } = place(e);
    if (tool === "note") {
      const found = nearest(paper, x, y, 3);
      usePapers.getState().take("");
      const note = { note: "Note", at: { x, y: paper.height - y }, wide: 80, view: "", anchor: "", order: 0 };
      const beside = found
        ? { ...note, at: { x: x + 12, y: paper.height - y + 12 }, view: found.view, anchor: found.anchor.name }
        : note;
      onFault(await operate({ operation: "add_note", subject: paper.subject, note: beside }));
      return;
    }
    if (tool !== "dimension") return;
    const found = nearest(paper, x, y, 6);
    if (!first) {
      if (found) begin(found);
      return;
    }
    // the second place, and then where its line goes
    if (!second.current && found && found.view === first.view && found.anchor.name !== first.anchor.name) {
      second.current = found.anchor;
      setAt({ x, y });
      return;
    }
    if (!second.current) return;
    const way = wayBetween(first.anchor, second.current, x, y);
    const line = standsOff(first.anchor, second.current, way, x, y);
    const dimension = { view: first.view, a: first.anchor.name, b: second.current.name, way, line, order: 0 };
    second.current = null;
    usePapers.getState().take("");
    onFault(await operate({ operation: "add_dimension", subject: paper.subject, dimension }));
  }
  const second = useRef<PaperOut["anchors"][string][number] | null>(null);
  if (tool !== "dimension" || !first) second.current = null;

  async function drop() {
    if (!drag?.live) return;
    const { name, dx, dy } = drag;
    if (Math.hypot(dx, dy) < 0.4) return setDrag(null);
    setDrag({ ...drag, live: false });
    const fault = await operate({ operation: "move_on_paper", subject: paper.subject, name, x: dx, y: -dy });
    if (fault) setDrag(null);
    onFault(fault);
  }

  const grip = (name: string, of: string) => ({
    onPointerDown: (e: PointerEvent) => {
      if (tool) return;
      e.stopPropagation();
      (e.target as Element).setPointerCapture(e.pointerId);
      choose(name);
      const selection = selectedBy(of);
      if (selection) useView.getState().select(selection);
      setDrag({ name, ...place(e), dx: 0, dy: 0, live: true });
    },
  });

  return (
    <svg
      ref={svg}
      role="img"
      aria-label={`${paper.title}, page ${paper.page}`}
      className="papersheet"
      data-subject={paper.subject}
      style={{ width: `${100 * zoom}%`, cursor: tool ? "crosshair" : undefined }}
      viewBox={`0 0 ${paper.width} ${paper.height}`}
      onPointerMove={(e) => {
        if (drag?.live) {
          const now = place(e);
          setDrag({ ...drag, dx: now.x - drag.x, dy: now.y - drag.y });
        } else if (tool) setAt(place(e));
      }}
      onPointerUp={() => void drop()}
      onPointerDown={(e) => void press(e)}
    >
      <Ink ink={paper.fixed} pen={pen} pressed={!tool} />
      {paper.movable.map((own) => (
        <Held key={own.name} name={own.name} drag={drag} chosen={chosen === own.name} grip={grip(own.name, ofInk(own))}>
          <Ink ink={own} pen={pen} pressed={false} />
        </Held>
      ))}
      {paper.dimensions.map((d) => (
        <Held key={d.name} name={d.name} drag={drag} chosen={chosen === d.name} grip={grip(d.name, d.of)}>
          <Grasp dimension={d} />
          <Ink ink={d} pen={pen} pressed={false} />
        </Held>
      ))}
      {near && (
        <g className="paperplace">
          <circle cx={near.anchor.x} cy={near.anchor.y} r={1.6} />
          <text x={near.anchor.x + 2.5} y={near.anchor.y - 2.5}>
            {near.anchor.words}
          </text>
        </g>
      )}
      {first && <circle className="paperfirst" cx={first.anchor.x} cy={first.anchor.y} r={1.6} />}
    </svg>
  );
}

/** What the first ink of a group is of. */
function ofInk(own: PaperInkOut): string {
  return [...own.words, ...own.strokes, ...own.areas].map((i) => i.of).find(Boolean) ?? "";
}

/** Room about a dimension's figure, for fingers. */
function Grasp({ dimension: d }: { dimension: PaperDimensionOut }) {
  const [x, y, wide, high] = d.box;
  return <rect className="papergrasp" x={x - 1} y={y - 1} width={wide + 2} height={high + 2} />;
}

type HeldProps = {
  name: string;
  drag: Drag | null;
  chosen: boolean;
  grip: { onPointerDown: (e: PointerEvent) => void };
  children: React.ReactNode;
};

function Held({ name, drag, chosen, grip, children }: HeldProps) {
  const moved = drag?.name === name ? `translate(${drag.dx} ${drag.dy})` : undefined;
  return (
    <g className="paperheld" data-name={name} data-chosen={chosen || undefined} transform={moved} {...grip}>
      {children}
    </g>
  );
}

type InkProps = { ink: PaperInkOut; pen: Record<string, PaperPenOut>; pressed: boolean };

/** Lines, areas and words; where they are `pressed` each selects what it is of. */
const Ink = memo(function Ink({ ink, pen, pressed }: InkProps) {
  const shown = useShown();
  const selection = useView((s) => s.selection);
  const lit = useMemo(() => (shown ? lightOf(selection, shown.built, shown.doc) : []), [selection, shown]);
  const press = (of: string) =>
    pressed && of
      ? {
          onPointerDown: (e: PointerEvent) => {
            e.stopPropagation();
            useView.getState().select(selectedBy(of));
          },
          style: { cursor: "pointer" },
        }
      : {};
  return (
    <>
      {ink.strokes.map((s, i) => (
        <g key={`${s.pen}${s.of}${i}`} {...press(s.of)}>
          {pressed && s.of && <path d={s.d} className="papernear" />}
          {isLit(s.of, lit, selection) && <path d={s.d} className="paperlit" />}
          <path d={s.d} strokeWidth={pen[s.pen]?.width} strokeDasharray={pen[s.pen]?.dashes.join(" ") || undefined} />
        </g>
      ))}
      {ink.areas.map((a, i) => (
        <path key={`${a.fill}${i}`} d={a.d} className={a.fill === "ink" ? "paperfilled" : "paperbare"} />
      ))}
      {ink.words.map((w, i) => (
        <text
          key={`${w.text}${i}`}
          x={w.x}
          y={w.y}
          fontSize={w.size}
          textAnchor={w.anchor}
          fontWeight={w.bold ? 650 : 420}
          textLength={w.text ? w.long : undefined}
          lengthAdjust="spacingAndGlyphs"
          transform={w.turned ? `rotate(${w.turned} ${w.x} ${w.y})` : undefined}
          {...press(w.of)}
        >
          {w.text}
        </text>
      ))}
    </>
  );
});
