// Relations on the sheet: dimensions with their figures, and a small sign for what is level, square, equal and the like.
import type { DrawingOut } from "../../../api/types";
import { type Pair, type Sight, toScreen } from "../../../lib/plane";
import { useOutline } from "../../../state/outline";
import { pathOf } from "./Curves";

type Props = { d: DrawingOut; sight: Sight };
type Relation = DrawingOut["relations"][number];
/** Pixels by which a dimension stands off what it measures, and between signs at one place. */
const OFF = 22;
const APART = 15;

/** A sign is a letter or two of the word that it stands for, so that it can be read aloud. */
const SIGNS: Record<string, string> = {
  level: "lv",
  upright: "up",
  parallel: "pa",
  square: "sq",
  in_line: "ln",
  tangent: "sm",
  equal: "eq",
  same_place: "at",
  on: "on",
  middle: "mid",
  mirrored: "mi",
  same_centre: "ce",
  held: "held",
};

export function Marks({ d, sight }: Props) {
  const centre: Pair = [d.size[0] / 2, d.size[1] / 2];
  const taken = new Map<string, number>();
  return (
    <g>
      {d.relations
        .filter((r) => r.state !== "out")
        .map((r) => {
          if (r.figure) return <Dimension key={r.key} r={r} sight={sight} centre={centre} />;
          const [x, y] = toScreen(sight, r.at);
          const cell = `${Math.round(x / APART)} ${Math.round(y / APART)}`;
          const n = taken.get(cell) ?? 0;
          taken.set(cell, n + 1);
          return <Sign key={r.key} r={r} at={[x + 10 + n * APART * 1.2, y + 12]} />;
        })}
    </g>
  );
}

function usePressed(r: Relation) {
  const on = useOutline((s) => s.chosen.includes(r.key));
  const choose = useOutline((s) => s.choose);
  const press = (e: React.MouseEvent) => {
    e.stopPropagation();
    choose(r.key, e.shiftKey);
  };
  return { on, press };
}

function Sign({ r, at: [x, y] }: { r: Relation; at: Pair }) {
  const { on, press } = usePressed(r);
  const says = SIGNS[r.kind] ?? r.kind;
  return (
    <g className="drawnsign" data-state={r.state} data-on={on} onClick={press} data-testid={`relation ${r.key}`}>
      <title>{r.words.replaceAll("_", " ")}</title>
      <rect x={x - 2} y={y - 9} width={says.length * 6.2 + 5} height={12} rx={3} />
      <text x={x} y={y}>
        {says}
      </text>
    </g>
  );
}

/** A dimension's line stands off what it measures, away from the middle of the part; a radius, a diameter and an angle lie where they are. */
function Dimension({ r, sight, centre }: { r: Relation; sight: Sight; centre: Pair }) {
  const { on, press } = usePressed(r);
  const stands = ["distance", "across", "up"].includes(r.kind) && r.line.length === 2;
  const ends = r.line.map((p) => toScreen(sight, p));
  let [tx, ty] = toScreen(sight, r.at);
  let path = pathOf(sight, r.line);
  if (stands) {
    const [[ax, ay], [bx, by]] = ends;
    const long = Math.hypot(bx - ax, by - ay);
    const [cx, cy] = toScreen(sight, centre);
    if (long > 1) {
      let [nx, ny] = [-(by - ay) / long, (bx - ax) / long];
      if (((ax + bx) / 2 - cx) * nx + ((ay + by) / 2 - cy) * ny < 0) [nx, ny] = [-nx, -ny];
      const [p, q] = [
        [ax + nx * OFF, ay + ny * OFF],
        [bx + nx * OFF, by + ny * OFF],
      ];
      const tick = (x: number, y: number) => `M${x - 3 + nx * 3},${y - 3 + ny * 3}L${x + 3 - nx * 3},${y + 3 - ny * 3}`;
      path = `M${ax + nx * 3},${ay + ny * 3}L${p[0] + nx * 5},${p[1] + ny * 5}M${bx + nx * 3},${by + ny * 3}L${q[0] + nx * 5},${q[1] + ny * 5}M${p}L${q}${tick(p[0], p[1])}${tick(q[0], q[1])}`;
      [tx, ty] = [(p[0] + q[0]) / 2, (p[1] + q[1]) / 2];
    }
  } else if (r.kind === "radius" || r.kind === "diameter") [tx, ty] = [ends[1][0] + 14, ends[1][1] - 10];
  const figure = { radius: `R ${r.figure}`, diameter: `⌀ ${r.figure}` }[r.kind] ?? r.figure;
  const says = r.state === "measured" ? `(${figure})` : figure;
  const wide = says.length * 6.9 + 8;
  return (
    <g className="drawndimension" data-state={r.state} data-on={on} onClick={press} data-testid={`relation ${r.key}`}>
      <title>{r.words.replaceAll("_", " ")}</title>
      <path d={path} />
      <rect x={tx - wide / 2} y={ty - 9} width={wide} height={17} rx={3} />
      <text x={tx} y={ty + 4} textAnchor="middle">
        {says}
      </text>
    </g>
  );
}
