// A loop or a box drawn round things on the canvas; what lies wholly inside is taken.
import { useRef, useState } from "react";

export type Point = [number, number];

/** Whether a point lies inside a polygon (even-odd). */
export function inside([x, y]: Point, polygon: Point[]): boolean {
  let odd = false;
  for (let i = 0, j = polygon.length - 1; i < polygon.length; j = i++) {
    const [xi, yi] = polygon[i];
    const [xj, yj] = polygon[j];
    if (yi > y !== yj > y && x < ((xj - xi) * (y - yi)) / (yj - yi) + xi) odd = !odd;
  }
  return odd;
}

export function LoopTool({
  shape,
  onDone,
}: {
  shape: "loop" | "box";
  onDone: (polygon: Point[], event: { more: boolean }) => void;
}) {
  const [points, setPoints] = useState<Point[]>([]);
  const drawing = useRef(false);
  const at = (e: React.PointerEvent): Point => {
    const box = e.currentTarget.getBoundingClientRect();
    return [e.clientX - box.left, e.clientY - box.top];
  };
  const polygon: Point[] =
    shape === "box" && points.length > 1
      ? [points[0], [points[1][0], points[0][1]], points[1], [points[0][0], points[1][1]]]
      : points;
  return (
    <svg
      className="loop"
      data-testid="loop"
      role="presentation"
      onPointerDown={(e) => {
        e.currentTarget.setPointerCapture(e.pointerId);
        drawing.current = true;
        setPoints([at(e)]);
      }}
      onPointerMove={(e) => {
        if (!drawing.current) return;
        const p = at(e);
        setPoints((now) => (shape === "box" ? [now[0], p] : [...now, p]));
      }}
      onPointerUp={(e) => {
        drawing.current = false;
        if (polygon.length > 2) onDone(polygon, { more: e.shiftKey || e.ctrlKey });
        setPoints([]);
      }}
    >
      {polygon.length > 1 && <polygon points={polygon.map((p) => p.join(",")).join(" ")} />}
    </svg>
  );
}
