// A sheet drawn small or large, with its parts as they lie.
import type { PlacedOut, SheetOut } from "../api/types";
import { type Laid, laidKey, moved } from "../stations/nest/hand";

type Props = {
  sheet: SheetOut;
  tint: string;
  lit: string[];
  hover: string;
  onPoint?: (part: string) => void;
  onPick?: (part: string) => void;
  names?: (part: string) => string;
  kerf?: number;
  title?: (part: string) => string;
  /** the longest sheet that it stands with: all are drawn to one scale */
  longest?: number;
  hand?: HandProps;
};

/** What laying by hand adds to a drawing: presses on pieces, the one that is picked, and the one that the hand carries. */
export type HandProps = {
  svg: (element: SVGSVGElement | null) => void;
  onGrab: (event: React.PointerEvent, piece: PlacedOut) => void;
  picked: string;
  carried: string;
  ghost: { piece: PlacedOut; to: Laid } | null;
};

export function SheetDrawing({ sheet, tint, lit, hover, onPoint, onPick, names, kerf, hand, title, longest }: Props) {
  const { length, width } = sheet;
  // words on a small offcut are as large as on the sheets that it stands with
  const word = longest ? Math.min(Math.max(width, longest * 0.4), longest * 0.5) : width;
  const pad = names ? Math.max(length, width) * 0.012 : 2;
  return (
    <svg
      ref={hand?.svg}
      viewBox={`${-pad} ${-width - pad} ${length + 2 * pad} ${width + 2 * pad}`}
      preserveAspectRatio="xMidYMid meet"
      style={{
        aspectRatio: `${length + 2 * pad} / ${width + 2 * pad}`,
        width: longest ? `${(100 * length) / longest}%` : undefined,
      }}
    >
      <Ground sheet={sheet} tint={tint} word={names ? word : 0} />
      {sheet.parts.map((p, i) => (
        <g
          key={i}
          data-laid={p.part}
          onMouseEnter={() => onPoint?.(p.part)}
          onMouseLeave={() => onPoint?.("")}
          onClick={() => onPick?.(p.part)}
          onPointerDown={hand ? (e) => hand.onGrab(e, p) : undefined}
          opacity={hand?.carried === laidKey(p) ? 0.25 : undefined}
          style={{ cursor: hand && !p.locked && !sheet.cut ? "grab" : onPick ? "pointer" : undefined }}
        >
          {title && <title>{title(p.part)}</title>}
          {kerf ? (
            <path d={p.outside + p.inside.join("")} fill="none" stroke="var(--cut)" strokeOpacity={0.35} strokeWidth={kerf} />
          ) : null}
          <path
            d={p.outside + p.inside.join("")}
            fillRule="evenodd"
            fill={lit.includes(p.part) ? "var(--marker)" : hover === p.part ? "var(--marker-soft)" : tint}
            stroke="var(--cut)"
            strokeWidth={hand?.picked === laidKey(p) ? 2.6 : names ? 1.1 : 0.6}
            vectorEffect="non-scaling-stroke"
          />
          {names && p.locked && !sheet.cut && (
            <Padlock x={p.middle[0]} y={-p.middle[1]} size={Math.min(width * 0.04, Math.min(...p.size) * 0.5)} />
          )}
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
          {names && Math.min(p.size[0], p.size[1]) > word * 0.045 && (
            <text
              x={label(p).x}
              y={label(p).y}
              dy="0.35em"
              textAnchor="middle"
              fontSize={Math.min(word * 0.034, Math.min(p.size[0], p.size[1]) * 0.3)}
              fill="#1f2b37"
              transform={label(p).turned ? `rotate(-90 ${label(p).x} ${label(p).y})` : undefined}
              pointerEvents="none"
            >
              {names(p.part)}
            </text>
          )}
        </g>
      ))}
      {hand?.ghost && (
        <path
          className="carried"
          d={hand.ghost.piece.outside + hand.ghost.piece.inside.join("")}
          fillRule="evenodd"
          fill="var(--marker)"
          fillOpacity={0.85}
          stroke="var(--ink)"
          strokeWidth={1.6}
          vectorEffect="non-scaling-stroke"
          pointerEvents="none"
          transform={moved(hand.ghost.piece, hand.ghost.to)}
        />
      )}
    </svg>
  );
}

/** The sheet itself, and what of it is left for the shelf, named where words are so large. */
function Ground({ sheet, tint, word }: { sheet: SheetOut; tint: string; word: number }) {
  const { length, width } = sheet;
  return (
    <>
      {sheet.outline ? (
        <path
          d={sheet.outline}
          fillRule="evenodd"
          fill={tint}
          fillOpacity={0.28}
          stroke="var(--ink)"
          vectorEffect="non-scaling-stroke"
        />
      ) : (
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
      )}
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
          {word > 0 && sheet.offcut[2] > width * 0.12 && (
            <text
              x={sheet.offcut[0] + sheet.offcut[2] / 2}
              y={-sheet.offcut[1] - sheet.offcut[3] / 2}
              textAnchor="middle"
              fontSize={word * 0.032}
              fill="var(--good)"
            >
              offcut
            </text>
          )}
        </g>
      )}
    </>
  );
}

/** A small padlock: the piece stays where it is. */
function Padlock({ x, y, size }: { x: number; y: number; size: number }) {
  return (
    <g transform={`translate(${x - size / 2} ${y - size / 2}) scale(${size / 10})`} pointerEvents="none" aria-label="locked">
      <path d="M2.6 4.6V3a2.4 2.4 0 0 1 4.8 0v1.6" fill="none" stroke="var(--edge)" strokeWidth={1.1} />
      <rect x={1.2} y={4.4} width={7.6} height={5.4} rx={0.9} fill="var(--edge)" />
    </g>
  );
}

/** Where a part's name stands: along its long side, off the middle, which is where marks and holes mostly are. */
function label(p: SheetOut["parts"][number]): { x: number; y: number; turned: boolean } {
  const turned = p.size[1] > 1.25 * p.size[0];
  const off = Math.max(p.size[0], p.size[1]) * 0.3;
  return { x: p.middle[0] - (turned ? 0 : off), y: -p.middle[1] + (turned ? off : 0), turned };
}
