// Lines, arcs and points of a drawing, and what it refers to. What is settled is a filled dot; what can move an open ring, with arrows along its way.
import type { DrawingOut } from "../../../api/types";
import { offered } from "../../../lib/outline";
import { type Sight, toScreen } from "../../../lib/plane";
import { drop, useOutline } from "../../../state/outline";

type Props = { d: DrawingOut; sight: Sight };
/** Pixels of the arrows that show a way. */
const ARROW = 15;

/** A path on the screen; at an empty place the pen is lifted. */
export const pathOf = (sight: Sight, path: readonly (readonly number[])[]): string =>
  path
    .map((p, i) => (p.length ? `${i && path[i - 1].length ? "L" : "M"}${toScreen(sight, p).map((x) => x.toFixed(1))}` : ""))
    .join("");

/** What the drawing refers to, and what it may refer to; faint until it is pointed at. */
export function Referred({ d, sight }: Props) {
  const chosen = useOutline((s) => s.chosen);
  const over = useOutline((s) => s.over?.on ?? "");
  const all = [
    ...offered(d).map((c) => ({ key: c.id, words: c.words, path: c.path, kind: "may" })),
    ...d.references.map((r) => ({ key: r.key, words: r.words, path: r.path, kind: "does" })),
  ];
  return (
    <g>
      {all.map((r) => (
        <g key={r.key} className="drawnfast" data-kind={r.kind} data-on={chosen.includes(r.key)} data-over={over === r.key}>
          <path d={pathOf(sight, r.path)} />
          {(over === r.key || chosen.includes(r.key)) && <Label sight={sight} at={r.path[r.path.length - 1]} words={r.words} />}
        </g>
      ))}
    </g>
  );
}

function Label({ sight, at, words }: { sight: Sight; at: readonly number[]; words: string }) {
  const [x, y] = toScreen(sight, at);
  return (
    <text x={x + 6} y={y - 6}>
      {words.replaceAll("_", " ")}
    </text>
  );
}

export function Curves({ d, sight }: Props) {
  const chosen = useOutline((s) => s.chosen);
  const over = useOutline((s) => s.over?.on ?? "");
  return (
    <g>
      {d.curves.map((c) => (
        <g
          key={c.key}
          className="drawncurve"
          data-helping={c.helping}
          data-on={chosen.includes(c.key)}
          data-over={over.split(".")[0] === c.key}
          data-testid={`curve ${c.key}`}
        >
          <path d={pathOf(sight, c.path)} />
        </g>
      ))}
      {d.faults.map((f) => {
        const [x, y] = toScreen(sight, f.at);
        return (
          <g key={`${f.words} ${f.at.join()}`} className="drawnfault">
            <circle cx={x} cy={y} r={11} />
            <title>{f.words}</title>
          </g>
        );
      })}
    </g>
  );
}

export function Points({ d, sight }: Props) {
  const chosen = useOutline((s) => s.chosen);
  const over = useOutline((s) => s.over?.on ?? "");
  const choose = useOutline((s) => s.choose);
  return (
    <g>
      {d.points.map((p) => {
        const [x, y] = toScreen(sight, p.at);
        const way = p.way ? wayOnScreen(sight, p.at, p.way) : null;
        const state = p.state === "settled" ? "settled" : p.state === "way" ? "can move along one way" : "can move";
        return (
          <g
            key={p.key}
            className="drawnpoint"
            data-state={p.state}
            data-on={chosen.includes(p.key)}
            data-over={over === p.key}
            data-testid={`point ${p.key}`}
            role="button"
            tabIndex={0}
            aria-label={`${p.words}, ${state}`}
            aria-pressed={chosen.includes(p.key)}
            onKeyDown={(e) => {
              if (e.key === " ") {
                e.preventDefault();
                e.stopPropagation();
                choose(p.key, true);
              }
              const by = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[e.key];
              if (!by) return;
              e.preventDefault();
              e.stopPropagation();
              void drop(d, { [p.key]: [p.at[0] + by[0], p.at[1] + by[1]] }, {});
            }}
          >
            {way && (
              <path
                className="way"
                d={`M${x - way[0]},${y - way[1]}L${x + way[0]},${y + way[1]}${head(x, y, way)}${head(x, y, [-way[0], -way[1]])}`}
              />
            )}
            <circle cx={x} cy={y} r={p.state === "settled" ? 3.2 : 4.4} />
          </g>
        );
      })}
    </g>
  );
}

function wayOnScreen(sight: Sight, at: readonly number[], way: readonly number[]): [number, number] {
  const [x, y] = toScreen(sight, at);
  const [u, v] = toScreen(sight, [at[0] + way[0], at[1] + way[1]]);
  const long = Math.hypot(u - x, v - y) || 1;
  return [((u - x) / long) * ARROW, ((v - y) / long) * ARROW];
}

function head(x: number, y: number, [dx, dy]: [number, number]): string {
  const [tx, ty] = [x + dx, y + dy];
  const [bx, by] = [tx - dx * 0.3, ty - dy * 0.3];
  return `M${bx - dy * 0.2},${by + dx * 0.2}L${tx},${ty}L${bx + dy * 0.2},${by - dx * 0.2}`;
}
