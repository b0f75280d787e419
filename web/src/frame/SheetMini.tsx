// A sheet drawn small or large, with its parts as they lie.
import type { SheetOut } from "../api/types";

type Props = {
  sheet: SheetOut;
  tint: string;
  lit: string[];
  hover: string;
  onPoint?: (part: string) => void;
  onPick?: (part: string) => void;
  names?: (part: string) => string;
  kerf?: number;
};

export function SheetDrawing({ sheet, tint, lit, hover, onPoint, onPick, names, kerf }: Props) {
  const { length, width } = sheet;
  const pad = names ? Math.max(length, width) * 0.012 : 2;
  return (
    <svg
      viewBox={`${-pad} ${-width - pad} ${length + 2 * pad} ${width + 2 * pad}`}
      preserveAspectRatio="xMidYMid meet"
      style={{ aspectRatio: `${length + 2 * pad} / ${width + 2 * pad}` }}
    >
      <rect
        x={0}
        y={-width}
        width={length}
        height={width}
        fill={tint}
        fillOpacity={0.28}
        stroke="var(--ink)"
        strokeWidth={1}
        vectorEffect="non-scaling-stroke"
      />
      {sheet.offcut && (
        <g>
          <rect
            x={sheet.offcut[0]}
            y={-sheet.offcut[1] - sheet.offcut[3]}
            width={sheet.offcut[2]}
            height={sheet.offcut[3]}
            fill="none"
            stroke="var(--good)"
            strokeDasharray="6 4"
            strokeWidth={1}
            vectorEffect="non-scaling-stroke"
          />
          {names && sheet.offcut[2] > width * 0.12 && (
            <text
              x={sheet.offcut[0] + sheet.offcut[2] / 2}
              y={-width / 2}
              textAnchor="middle"
              fontSize={width * 0.032}
              fill="var(--good)"
            >
              offcut
            </text>
          )}
        </g>
      )}
      {sheet.parts.map((p, i) => (
        <g
          key={i}
          data-laid={p.part}
          onMouseEnter={() => onPoint?.(p.part)}
          onMouseLeave={() => onPoint?.("")}
          onClick={() => onPick?.(p.part)}
          style={{ cursor: onPick ? "pointer" : undefined }}
        >
          {kerf ? (
            <path d={p.outside + p.inside.join("")} fill="none" stroke="var(--cut)" strokeOpacity={0.35} strokeWidth={kerf} />
          ) : null}
          <path
            d={p.outside + p.inside.join("")}
            fillRule="evenodd"
            fill={lit.includes(p.part) ? "var(--marker)" : hover === p.part ? "var(--marker-soft)" : tint}
            stroke="var(--cut)"
            strokeWidth={names ? 1.1 : 0.6}
            vectorEffect="non-scaling-stroke"
          />
          {names && (
            <>
              <path
                d={(p.depths ?? []).join("")}
                fill="var(--depth)"
                fillOpacity={0.25}
                stroke="var(--depth)"
                strokeWidth={0.7}
                vectorEffect="non-scaling-stroke"
              />
              <path d={p.marks.join("")} fill="none" stroke="var(--mark)" strokeWidth={0.8} vectorEffect="non-scaling-stroke" />
            </>
          )}
          {names && Math.min(p.size[0], p.size[1]) > width * 0.045 && (
            <text
              x={label(p).x}
              y={label(p).y}
              dy="0.35em"
              textAnchor="middle"
              fontSize={Math.min(width * 0.034, Math.min(p.size[0], p.size[1]) * 0.3)}
              fill="#1f2b37"
              transform={label(p).turned ? `rotate(-90 ${label(p).x} ${label(p).y})` : undefined}
              pointerEvents="none"
            >
              {names(p.part)}
            </text>
          )}
        </g>
      ))}
    </svg>
  );
}

/** Where a part's name stands: along its long side, off the middle, which is where marks and holes mostly are. */
function label(p: SheetOut["parts"][number]): { x: number; y: number; turned: boolean } {
  const turned = p.size[1] > 1.25 * p.size[0];
  const off = Math.max(p.size[0], p.size[1]) * 0.3;
  return { x: p.middle[0] - (turned ? 0 : off), y: -p.middle[1] + (turned ? off : 0), turned };
}
