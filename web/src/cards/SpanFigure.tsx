// A small figure of a board drawn to its real values: its outline with what is cut, and its size over all.
import { figure } from "../lib/figures";
import { isLine } from "../lib/flat";
import { useShown } from "../state/design";
import { flat } from "../state/resources";

export function SpanFigure({ partKey }: { partKey: string }) {
  const shown = useShown()!;
  const part = shown.built.parts.find((p) => p.key === partKey);
  const found = part?.flat ? flat(part.flat) : undefined;
  if (!part || !found) return null;
  const [x0, y0, x1, y1] = found.bounds;
  const [w, h] = [x1 - x0, y1 - y0];
  const pad = Math.max(w, h) * 0.13;
  const tint = shown.doc.stocks[part.stock]?.tint ?? "#ccc";
  const size = Math.max(w, h * 1.6) * 0.058;
  return (
    <svg
      className="drawing"
      viewBox={`${x0 - pad} ${-y1 - pad * 0.5} ${w + pad * 1.6} ${h + pad * 1.6}`}
      style={{ maxHeight: 132, marginBottom: 8 }}
      role="img"
      aria-label={`${part.path}, drawn to its values`}
    >
      <path
        d={found.contours
          .filter((c) => !isLine(c))
          .map((c) => c.d)
          .join("")}
        fill={tint}
        fillRule="evenodd"
        stroke="var(--edge)"
        strokeWidth={1}
        vectorEffect="non-scaling-stroke"
      />
      <path
        d={found.contours
          .filter(isLine)
          .map((c) => c.d)
          .join("")}
        fill="none"
        stroke="var(--mark)"
        strokeWidth={0.8}
        vectorEffect="non-scaling-stroke"
      />
      <path className="dimension" d={`M${x0} ${-y0 + pad * 0.35}H${x1}M${x0 - pad * 0.35} ${-y0}V${-y1}`} />
      <text x={(x0 + x1) / 2} y={-y0 + pad * 0.42 + size} fontSize={size} textAnchor="middle" fill="var(--ink)" className="mono">
        {figure(w, shown.doc.display)}
      </text>
      <text
        x={x0 - pad * 0.45}
        y={-(y0 + y1) / 2}
        fontSize={size}
        textAnchor="middle"
        fill="var(--ink)"
        className="mono"
        transform={`rotate(-90 ${x0 - pad * 0.45} ${-(y0 + y1) / 2})`}
      >
        {figure(h, shown.doc.display)}
      </text>
    </svg>
  );
}
