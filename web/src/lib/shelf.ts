// What the shelf has of a bar stock, as bars to cut from.
import { type BarStock, type Doc, type Entry, ordered } from "./document";

type Remainder = { length: number };
type Bars = { bars: { length: string; count: number; price: number }[]; kerf: string; trim: string };

/** What is left of other bars costs next to nothing, so that it is used first. */
const LEFT_OVER = 0.01;

/** Its lengths, those that are counted as often as they are there, and what is left of others; its saw's cut and its trim. */
export function barsOfStock(stock: BarStock, there: Record<string, number>, left: Remainder[]): Bars {
  const sold = ordered(stock.lengths).filter(([k]) => there[k] !== 0);
  const trim = stock.trim ? typedOut(stock.trim) : "";
  return {
    bars: [
      ...left.map((r) => ({ length: `${r.length} mm`, count: 1, price: LEFT_OVER })),
      // 0 is any number
      ...sold.map(([k, bar]) => ({ length: typedOut(bar.length), count: there[k] ?? 0, price: bar.price || 1 })),
    ],
    kerf: stock.kerf ? typedOut(stock.kerf) : "",
    trim: /^0\b/.test(trim) ? "" : trim,
  };
}

/** How many new bars have been cut, by the key of their length, once a plan is cut too: those of earlier plans stay cut. */
export function barsTaken(patterns: { size: string; times: number }[], before: Record<string, number>): Record<string, number> {
  const taken = { ...before };
  for (const p of patterns) if (p.size) taken[p.size] = (taken[p.size] ?? 0) + p.times;
  return taken;
}

/** Which sheets and bars of a design are cut; another text where others are. */
export function cutMarks(doc: Doc): string {
  const bars = Object.entries(doc.stocks).map(([key, s]) => (s.kind === "bar" && s.sawn ? [key, s.sawn] : []));
  const sheets = Object.entries(doc.nest.arranged).map(([key, a]) => [
    key,
    Object.entries(a.sheets)
      .filter(([, s]) => s.cut)
      .map(([k]) => k),
  ]);
  return JSON.stringify([bars.filter((b) => b.length), sheets.filter(([, cut]) => cut.length)]);
}

/** A sheet's size in words, its unit said once. */
export function sheetSize(length: Typed, width: Typed): string {
  const [a, b] = [typedOut(length), typedOut(width)];
  const unit = / (mm|in)$/.exec(b)?.[0];
  return unit && a.endsWith(unit) ? `${a.slice(0, -unit.length)} × ${b}` : `${a} × ${b}`;
}

type Typed = Pick<Entry, "text"> & { unit?: string };

/** An entry with its unit, whatever a bare number means where it goes. */
export function typedOut({ text, unit }: Typed): string {
  return /[a-z"']/i.test(text) ? text : `${text} ${unit ?? "mm"}`;
}
