// Names that could stand at the caret of an entry. What they are worth comes from the core's values.
import { AXIS_WORDS, type Axis, type Doc, FACES, FRAME, isPlaced, isPlate } from "../lib/document";

export type Suggestion = { insert: string; words: string; note: string; more?: boolean };
const FUNCTIONS = ["min", "max", "mid", "round", "floor", "ceil", "abs", "sqrt", "sin", "cos", "tan"];
const MOST = 12;
/** What of a flange may be named. */
const FLANGE_FACES = ["inner", "outer", "end"];

/** A flange's key as entries write it. */
export const nameOfFlange = (key: string) => key.replace(/[^\p{L}\p{N}_]/gu, "_");

/** The name being typed before the caret: its start and text. */
export function wordAt(text: string, caret: number): { start: number; word: string } {
  const before = text.slice(0, caret);
  const found = before.match(/[\p{L}_][\p{L}\p{N}_]*(\.[\p{L}\p{N}_]*){0,2}$/u);
  // a unit straight after a number is no name
  const start = found ? caret - found[0].length : caret;
  if (found && /[\d.]\s*$/.test(before.slice(0, start))) return { start: caret, word: "" };
  return { start, word: found ? found[0] : "" };
}

export function suggestions(
  doc: Doc,
  word: string,
  worth: (size: string) => string,
  axis?: Axis,
  extra: string[] = [],
  placesOf: (part: string) => string[] = () => [],
): Suggestion[] {
  if (!word) return [];
  const [head, tail, last] = word.split(".");
  if (tail !== undefined) {
    const board = Object.values(doc.parts).find((p) => p.name === head && isPlaced(p));
    if (!board) return [];
    const flanges = isPlate(board) ? Object.keys(board.folding?.flanges ?? {}).map(nameOfFlange) : [];
    if (last !== undefined)
      return flanges.includes(tail)
        ? FLANGE_FACES.filter((f) => f.startsWith(last)).map((f) => {
            const whole = `${head}.${tail}.${f}`;
            return { insert: whole, words: whole, note: f === "end" ? "far edge" : "face" };
          })
        : [];
    const faces = axis ? [...FACES[axis], "centre"] : [...FACES.x, ...FACES.y, ...FACES.z];
    const own = board.kind === "hardware" ? placesOf(board.name) : ["thickness"];
    return [
      ...[...faces, ...own]
        .filter((f) => f.startsWith(tail))
        .map((f) => ({
          insert: `${head}.${f}`,
          words: `${head}.${f}`,
          note: f === "thickness" ? "thickness" : faces.includes(f) ? "face" : "place",
        })),
      ...flanges
        .filter((f) => f.startsWith(tail))
        .map((f) => ({ insert: `${head}.${f}.`, words: `${head}.${f}.…`, note: "flange", more: true })),
    ];
  }
  const low = head.toLowerCase();
  const starts = (name: string) => name.toLowerCase().startsWith(low);
  const sizes = Object.entries(doc.sizes)
    .filter(([, s]) => starts(s.name) && s.name !== head)
    .map(([key, s]) => ({ insert: s.name, words: s.name, note: worth(key) }));
  const parts = Object.values(doc.parts)
    .filter((p) => isPlaced(p) && starts(p.name))
    .map((p) => ({
      insert: `${p.name}.`,
      words: `${p.name}.…`,
      note: isPlate(p)
        ? FRAME[p.plane].words
        : p.kind === "rod"
          ? `rod, ${AXIS_WORDS[p.axis]}`
          : p.kind === "turned"
            ? `turned, ${AXIS_WORDS[p.axis]}`
            : p.kind === "member"
              ? "on a frame's line"
              : p.kind === "hardware"
                ? "hardware"
                : "",
      more: true,
    }));
  const fits = extra.filter((n) => starts(n) && n !== head).map((n) => ({ insert: n, words: n, note: "fit" }));
  const functions =
    low.length > 1
      ? FUNCTIONS.filter(starts).map((f) => ({ insert: `${f}(`, words: `${f}(…)`, note: "function", more: true }))
      : [];
  return [...sizes, ...fits, ...parts, ...functions].slice(0, MOST);
}

/** The text after a plain value is moved by so many steps, or null where it is no plain value. */
export function nudged(text: string, unit: "mm" | "in", steps: number, kind: string): string | null {
  const found = text.trim().match(/^(-?\d+(?:\.\d+)?)\s*(mm|cm|in|"|deg|°)?$/);
  if (!found) return null;
  const inches = found[2] === "in" || found[2] === '"' || (!found[2] && unit === "in" && kind === "length");
  const step = kind === "count" ? 1 : inches ? 1 / 16 : found[2] === "cm" ? 0.1 : 1;
  const places = inches ? 4 : 1;
  const moved = Number(found[1]) + steps * step;
  return `${Number(moved.toFixed(places))}${found[2] ? (found[2] === '"' || found[2] === "°" ? found[2] : ` ${found[2]}`) : ""}`;
}
