// A sheet while it is cut, as large as there is room for it.
import { useEffect, useMemo, useRef, useState } from "react";
import type { ProgramOut } from "../api/types";
import { type Colours, drawAt, drawNumbers, drawOutlines, traced, viewOf } from "./sheetCut";

function coloursOf(el: Element, stock: string): Colours {
  const style = getComputedStyle(el);
  const of = (name: string) => style.getPropertyValue(name).trim();
  return {
    bed: of("--canvas"),
    sheet: stock || of("--paper-sunk"),
    loose: of("--paper-raised"),
    coming: of("--pencil"),
    inside: of("--cut-inside"),
    outside: of("--cut"),
    mark: of("--mark"),
    rapid: of("--ink-soft"),
    head: of("--ink"),
    depth: of("--depth"),
    shade: of("--ink"),
    left: of("--cut"),
  };
}

/** A piece's number where it lies; `done` where it is off the bed, or spoiled. */
export type PieceNumber = { text: string; x: number; y: number; size: number; done: "" | "off" | "spoiled" };

type Props = {
  program: ProgramOut;
  /** seconds of the program that are done */
  t: number;
  /** its colour */
  stock: string;
  /** the part that is shown among the others */
  lit: string;
  label: string;
  test: string;
  numbers?: PieceNumber[];
  /** outlines of pieces that this program does not cut out, as path data */
  outlines?: string[];
  /** a place on the sheet (mm) that was pressed on */
  onPlace?: (x: number, y: number) => void;
};

export function SheetCanvas({ program, t, stock, lit, label, test, numbers, outlines, onPlace }: Props) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const box = useRef<HTMLDivElement>(null);
  const [size, setSize] = useState({ wide: 600, high: 400 });
  const paths = useMemo(() => traced(program), [program]);

  useEffect(() => {
    if (!box.current) return;
    const watch = new ResizeObserver(([e]) => setSize({ wide: e.contentRect.width, high: e.contentRect.height }));
    watch.observe(box.current);
    return () => watch.disconnect();
  }, []);

  useEffect(() => {
    const el = canvas.current;
    const g = el?.getContext("2d");
    if (!el || !g) return;
    const dots = window.devicePixelRatio || 1;
    el.width = size.wide * dots;
    el.height = size.high * dots;
    g.scale(dots, dots);
    g.clearRect(0, 0, size.wide, size.high);
    const view = viewOf(program, size.wide, size.high);
    const colours = coloursOf(el, stock);
    drawAt(g, program, t, paths, view, colours, lit);
    if (outlines) drawOutlines(g, outlines, view, colours, program.under ? program.length : 0);
    if (numbers) drawNumbers(g, numbers, view, colours, program.under ? program.length : 0);
  }, [program, stock, t, paths, size, lit, numbers, outlines]);

  return (
    <div ref={box} className="dryrunsheet">
      <canvas
        ref={canvas}
        style={{ width: "100%", height: "100%", position: "absolute", inset: 0, cursor: onPlace && "crosshair" }}
        onClick={(e) => {
          const view = viewOf(program, size.wide, size.high);
          const box = e.currentTarget.getBoundingClientRect();
          onPlace?.((e.clientX - box.left - view.x) / view.scale, (view.y - e.clientY + box.top) / view.scale);
        }}
        data-testid={test}
        data-time={t.toFixed(2)}
        aria-label={label}
        role="img"
      />
    </div>
  );
}
