// Relations on the sheet: dimensions with their figures, and a small sign for what is level, square, equal and the like.
import type { DrawingOut } from "../../../api/types";
import { middleOf, type Pair, type Sight, toScreen } from "../../../lib/plane";
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
  const centre = toScreen(sight, middleOf(d));
  const taken: Box[] = [];
  const shown = d.relations.filter((r) => r.state !== "out");
  // figures stand first, signs beside them
  const figures = shown.filter((r) => r.figure).map((r) => ({ r, drawn: besideOthers(taken, r, sight, centre) }));
  return (
    <g>
      {shown
        .filter((r) => !r.figure)
        .map((r) => {
          const [x, y] = toScreen(sight, r.at);
          return <Sign key={r.key} r={r} at={freeAt(taken, [x + 10, y + 12], wide(r))} />;
        })}
      {figures.map(({ r, drawn }) => (
        <Dimension key={r.key} r={r} drawn={drawn} />
      ))}
    </g>
  );
}

type Box = [number, number, number];

const saysOf = (r: Relation) => SIGNS[r.kind] ?? r.kind;
const wide = (r: Relation) => saysOf(r).length * 6.2 + 6;

/** A place for a sign so wide where none stands yet: to the right of those before it, then below. */
function freeAt(taken: Box[], [x, y]: Pair, w: number): Pair {
  for (let row = 0; row < 4; row++) {
    let at = x;
    const beside = () => taken.find(([bx, by, bw]) => Math.abs(by - (y + row * APART)) < 14 && at < bx + bw && bx < at + w);
    for (let found = beside(); found && at < x + 60; found = beside()) at = found[0] + found[2] + 1;
    if (at < x + 60) {
      taken.push([at, y + row * APART, w]);
      return [at, y + row * APART];
    }
  }
  return [x, y];
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
  const says = saysOf(r);
  return (
    <g className="drawnsign" data-state={r.state} data-on={on} onClick={press} data-testid={`relation ${r.key}`}>
      <title>{r.words.replaceAll("_", " ")}</title>
      <rect x={x - 2} y={y - 9} width={wide(r) - 1} height={12} rx={3} />
      <text x={x} y={y}>
        {says}
      </text>
    </g>
  );
}

type Drawn = { path: string; at: Pair };

/** A dimension's line stands off what it measures, away from the middle of the part; a radius, a diameter and an angle lie where they are. */
function drawnAs(r: Relation, sight: Sight, centre: Pair, off: number): Drawn {
  const ends = r.line.map((p) => toScreen(sight, p));
  const at = toScreen(sight, r.at);
  const plain = { path: pathOf(sight, r.line), at };
  if (r.kind === "radius" || r.kind === "diameter") return { ...plain, at: [ends[1][0] + 14, ends[1][1] - 10] };
  if (r.kind === "angle" || ends.length !== 2) return plain;
  const [[ax, ay], [bx, by]] = ends;
  const long = Math.hypot(bx - ax, by - ay);
  if (long < 1) return plain;
  let [nx, ny] = [-(by - ay) / long, (bx - ax) / long];
  if (((ax + bx) / 2 - centre[0]) * nx + ((ay + by) / 2 - centre[1]) * ny < 0) [nx, ny] = [-nx, -ny];
  const p: Pair = [ax + nx * off, ay + ny * off];
  const q: Pair = [bx + nx * off, by + ny * off];
  const tick = ([x, y]: Pair) => `M${x - 3 + nx * 3},${y - 3 + ny * 3}L${x + 3 - nx * 3},${y + 3 - ny * 3}`;
  const leader = ([x, y]: Pair, to: Pair) => `M${x + nx * 3},${y + ny * 3}L${to[0] + nx * 5},${to[1] + ny * 5}`;
  return {
    path: `${leader([ax, ay], p)}${leader([bx, by], q)}M${p}L${q}${tick(p)}${tick(q)}`,
    at: [(p[0] + q[0]) / 2, (p[1] + q[1]) / 2],
  };
}

function figureOf(r: Relation): string {
  const figure = { radius: `R ${r.figure}`, diameter: `⌀ ${r.figure}` }[r.kind] ?? r.figure;
  return r.state === "measured" ? `(${figure})` : figure;
}

/** How a dimension is drawn where none that stands already covers its figure. */
function besideOthers(taken: Box[], r: Relation, sight: Sight, centre: Pair): Drawn {
  const long = figureOf(r).length * 6.9 + 8;
  let found = drawnAs(r, sight, centre, OFF);
  for (let n = 1; n < 6; n++) {
    const [x, y] = found.at;
    if (!taken.some(([bx, by, bw]) => Math.abs(by - y) < 17 && x - long / 2 < bx + bw && bx < x + long / 2)) break;
    found = drawnAs(r, sight, centre, OFF * (1 + n));
  }
  taken.push([found.at[0] - long / 2, found.at[1], long]);
  return found;
}

function Dimension({ r, drawn }: { r: Relation; drawn: Drawn }) {
  const { on, press } = usePressed(r);
  const says = figureOf(r);
  const [tx, ty] = drawn.at;
  const long = says.length * 6.9 + 8;
  return (
    <g className="drawndimension" data-state={r.state} data-on={on} onClick={press} data-testid={`relation ${r.key}`}>
      <title>{r.words.replaceAll("_", " ")}</title>
      <path d={drawn.path} />
      <rect x={tx - long / 2} y={ty - 9} width={long} height={17} rx={3} />
      <text x={tx} y={ty + 4} textAnchor="middle">
        {says}
      </text>
    </g>
  );
}
