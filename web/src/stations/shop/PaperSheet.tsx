// A page as it is on paper: its lines light what they are of, its dimensions and balloons are dragged, places take new dimensions.
import { memo, type PointerEvent, useEffect, useMemo, useRef, useState } from "react";
import type { PaperDimensionOut, PaperInkOut, PaperOut, PaperPenOut } from "../../api/types";
import { isLit, nearest, selectedBy } from "../../lib/paper";
import { useShown } from "../../state/design";
import { pictureAt } from "../../state/files";
import { operate } from "../../state/operations";
import { usePapers } from "../../state/papers";
import { lightOf } from "../../state/shape";
import { useView } from "../../state/view";
import { pressedOn } from "./pressedOn";

type Props = { paper: PaperOut; pens: PaperPenOut[]; zoom: number; onFault: (fault: string) => void };
/** `live` while it is in the hand; let go it stays where it is until the paper comes anew. */
type Drag = { name: string; x: number; y: number; dx: number; dy: number; live: boolean };

export function PaperSheet({ paper, pens, zoom, onFault }: Props) {
  const svg = useRef<SVGSVGElement>(null);
  const { chosen, choose, tool, picked } = usePapers();
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
    onFault(await pressedOn(paper, x, y));
  }

  async function drop() {
    if (!drag?.live) return;
    const { name, dx, dy } = drag;
    if (Math.hypot(dx, dy) < least(name)) return setDrag(null);
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
      // of a view the very line that is pressed is meant
      const line = (e.target as Element).closest("[data-of]")?.getAttribute("data-of");
      const selection = selectedBy(line ?? of);
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
      data-sloped={paper.sloped || undefined}
      data-face={paper.face || undefined}
    >
      <Ink ink={paper.fixed} pen={pen} wide={paper.wide} sloped={paper.sloped} pressed={!tool} />
      {paper.views.map((own) => (
        <Held key={own.name} name={own.name} drag={drag} chosen={chosen === own.name} grip={grip(own.name, "")}>
          <Ink ink={own} pen={pen} wide={paper.wide} sloped={paper.sloped} pressed={false} />
        </Held>
      ))}
      {paper.movable.map((own) => (
        <Held key={own.name} name={own.name} drag={drag} chosen={chosen === own.name} grip={grip(own.name, ofInk(own))}>
          <Ink ink={own} pen={pen} wide={paper.wide} sloped={paper.sloped} pressed={false} />
        </Held>
      ))}
      {paper.dimensions.map((d) => (
        <Held key={d.name} name={d.name} view={d.view} drag={drag} chosen={chosen === d.name} grip={grip(d.name, d.of)}>
          <Grasp dimension={d} />
          <Ink ink={d} pen={pen} wide={paper.wide} sloped={paper.sloped} pressed={false} />
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
      {picked.map(({ anchor }) => (
        <circle key={anchor.name} className="paperfirst" cx={anchor.x} cy={anchor.y} r={1.6} />
      ))}
    </svg>
  );
}

/** A press that goes less far (mm) is no pull: views are pressed for what their lines are of. */
const least = (name: string) => (name.startsWith("view/") ? 2 : 0.4);

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
  /** the view that it stands at */
  view?: string;
  grip: { onPointerDown: (e: PointerEvent) => void };
  children: React.ReactNode;
};

/** What stands in a view's place goes along with it. */
const goes = (name: string, drag: Drag | null, view = "") =>
  drag && (drag.name === name || drag.name === `view/${view || name.split("/").slice(0, -2).join("/")}`);

function Held({ name, drag, chosen, grip, view, children }: HeldProps) {
  const moved =
    drag && goes(name, drag, view) && Math.hypot(drag.dx, drag.dy) >= least(drag.name)
      ? `translate(${drag.dx} ${drag.dy})`
      : undefined;
  return (
    <g className="paperheld" data-name={name} data-chosen={chosen || undefined} transform={moved} {...grip}>
      {children}
    </g>
  );
}

type InkProps = { ink: PaperInkOut; pen: Record<string, PaperPenOut>; wide: number; sloped: boolean; pressed: boolean };

const turn = (w: PaperInkOut["words"][number], sloped: boolean) =>
  [
    w.turned ? `rotate(${w.turned} ${w.x} ${w.y})` : "",
    sloped ? `translate(${w.x} ${w.y}) skewX(-15) translate(${-w.x} ${-w.y})` : "",
  ]
    .filter(Boolean)
    .join(" ") || undefined;

/** Lines, areas, words and pictures; where they are `pressed` each selects what it is of. */
const Ink = memo(function Ink({ ink, pen, wide, sloped, pressed }: InkProps) {
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
      {ink.pictures.map((p) => (
        <image key={p.picture} href={pictureAt(p.picture)} x={p.x} y={p.y} width={p.wide} height={p.high} />
      ))}
      {ink.strokes.map((s, i) => (
        <g key={`${s.pen}${s.of}${i}`} data-of={s.of || undefined} {...press(s.of)}>
          {s.of && <path d={s.d} className="papernear" />}
          {isLit(s.of, lit, selection) && <path d={s.d} className="paperlit" />}
          <path
            d={s.d}
            strokeWidth={(pen[s.pen]?.width ?? 0.25) * wide}
            strokeDasharray={pen[s.pen]?.dashes.join(" ") || undefined}
          />
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
          transform={turn(w, sloped)}
          {...press(w.of)}
        >
          {w.text}
        </text>
      ))}
    </>
  );
});
