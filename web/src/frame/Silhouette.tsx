// A part's silhouette, drawn to a scale that all rows share.
import { isLine } from "../lib/flat";
import { flat } from "../state/resources";

export function Silhouette({ id, tint, scale, box = 42 }: { id: string; tint: string; scale: number; box?: number }) {
  const found = flat(id);
  if (!found) return <svg width={box} height={box} aria-hidden="true" />;
  const [x0, y0, x1, y1] = found.bounds;
  const size = Math.max(box / scale, 1e-6);
  const cx = (x0 + x1) / 2;
  const cy = -(y0 + y1) / 2;
  const d = found.contours.filter((c) => !isLine(c)).map((c) => c.d);
  return (
    <svg width={box} height={box} viewBox={`${cx - size / 2} ${cy - size / 2} ${size} ${size}`} aria-hidden="true">
      <path
        d={d.join("")}
        fill={tint}
        stroke="var(--edge)"
        strokeWidth={0.8}
        vectorEffect="non-scaling-stroke"
        fillRule="evenodd"
      />
    </svg>
  );
}
