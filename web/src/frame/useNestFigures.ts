// What the sheets come to: from the layouts where they are those of what is shown, else an estimate that says so.
import { sheetOf } from "../lib/document";
import { useDesign, useShown } from "../state/design";

export type NestFigures = {
  sheets: number;
  share: number | null;
  seconds: number;
  cost: number;
  sheetCost: number;
  bars: number;
  barCost: number;
  cutCost: number;
  estimate: boolean;
  known: boolean;
};

export function useNestFigures(): NestFigures {
  const shown = useShown();
  const nest = useDesign((s) => s.nest);
  const none = {
    sheets: 0,
    share: null,
    seconds: 0,
    cost: 0,
    sheetCost: 0,
    bars: 0,
    barCost: 0,
    cutCost: 0,
    estimate: false,
    known: true,
  };
  if (!shown) return none;
  const { built, doc } = shown;
  let [sheets, seconds, sheetCost, cutCost, used, area] = [0, 0, 0, 0, 0, 0];
  let estimate = false;
  let known = true;
  for (const plan of built.plans) {
    const state = nest?.stocks.find((s) => s.stock === plan.stock);
    const layout = state?.layout;
    if (layout) {
      sheets += layout.sheets.length;
      sheetCost += layout.sheet_cost;
      for (const s of layout.sheets) {
        seconds += s.seconds;
        cutCost += s.cost;
        known = known && s.known;
        if (!s.timed) estimate = true;
        used += s.length * s.width;
        area += s.share * s.length * s.width;
      }
      if (layout.digest !== plan.digest) estimate = true;
    } else {
      estimate = true;
      sheets += plan.expected_sheets;
      const first = Object.values(sheetOf(doc, plan.stock)?.sheets ?? {})[0];
      sheetCost += (first?.price ?? 0) * plan.expected_sheets;
    }
  }
  if (estimate && !nest?.stocks.some((s) => s.layout)) {
    seconds = built.totals.cut_seconds;
    cutCost = built.totals.cut_cost;
  }
  const bars = built.bars.reduce((sum, b) => sum + (b.plan?.bars ?? 0), 0);
  const barCost = built.bars.reduce((sum, b) => sum + (b.plan?.cost ?? 0), 0);
  return {
    sheets,
    share: used ? area / used : null,
    seconds,
    sheetCost,
    cutCost,
    bars,
    barCost,
    cost: sheetCost + cutCost + barCost + built.totals.bought,
    estimate,
    known,
  };
}
