// The sheet strip: every sheet in use as a live miniature, with how much of it is used, cost and time.
import { duration, mass, money, percent, plural } from "../lib/figures";
import { useDesign, useShown } from "../state/design";
import { lightOf, standFor } from "../state/shape";
import { useView } from "../state/view";
import { BarMini } from "./BarMini";
import { SheetDrawing } from "./SheetMini";
import { useNestFigures } from "./useNestFigures";

export function SheetStrip() {
  const shown = useShown();
  const nest = useDesign((s) => s.nest);
  const view = useView();
  const figures = useNestFigures();
  if (!shown) return <footer className="strip" />;
  const { doc, built } = shown;
  const every = lightOf(view.selection, built, doc);
  const lit = [...new Set([...every, ...every.map((k) => standFor(built.parts, k))])];
  const running = nest?.run && (nest.run.status === "queued" || nest.run.status === "running");
  return (
    <footer className="strip">
      {built.plans.length === 0 && !built.bars.some((b) => b.plan) && (
        <div className="soft" style={{ padding: 16 }}>
          Sheets and bars show here as soon as there are parts to cut.
        </div>
      )}
      {built.plans.map((plan) => {
        const state = nest?.stocks.find((s) => s.stock === plan.stock);
        const layout = state?.layout;
        const stock = doc.stocks[plan.stock];
        if (!layout)
          return (
            <div className="sheetmini" key={plan.stock}>
              <span className="facts">
                <b>{stock.name}</b>
                <br />
                <span className="soft">{running ? "being laid out…" : `about ${plural(plan.expected_sheets, "sheet")}`}</span>
              </span>
            </div>
          );
        const old = layout.digest !== plan.digest;
        return layout.sheets.map((sheet, i) => (
          <button
            type="button"
            key={`${plan.stock}-${i}`}
            className={old ? "sheetmini estimate" : "sheetmini"}
            onClick={() => view.go("nest")}
            title={old ? "The last layout; the new one is on its way" : undefined}
          >
            <SheetDrawing sheet={sheet} tint={stock?.tint ?? "#ccc"} lit={lit} hover={view.hover} />
            <span className="facts">
              <b>{stock?.name}</b>
              <br />
              {i + 1} of {layout.sheets.length}, {percent(sheet.share)} used
              <br />
              {sheet.known ? (
                <span className="figure">
                  {duration(sheet.seconds)}, {money(sheet.cost, doc.currency)}
                </span>
              ) : (
                <span className="warn">no speeds for this stock</span>
              )}
              {old && <span className="soft"> · being redone</span>}
            </span>
          </button>
        ));
      })}
      {built.bars.map((b) => b.plan && <BarMini key={b.stock} stock={b.stock} plan={b.plan} />)}
      {built.parts.length > 0 && (
        <div className={figures.estimate ? "sums estimate" : "sums"} data-testid="sums">
          <span>Sheets</span>
          <b className="figure">{money(figures.sheetCost, doc.currency)}</b>
          {figures.bars > 0 && (
            <>
              <span>{plural(figures.bars, "bar")}</span>
              <b className="figure">{money(figures.barCost, doc.currency)}</b>
            </>
          )}
          <span>Cutting, {duration(figures.seconds)}</span>
          <b className="figure">{money(figures.cutCost, doc.currency)}</b>
          <span>Bought · {mass(built.totals.mass)} cut parts</span>
          <b className="figure">{money(built.totals.bought, doc.currency)}</b>
          <span>{figures.estimate ? "Together, about" : "Together"}</span>
          <b className="figure">{money(figures.cost, doc.currency)}</b>
        </div>
      )}
    </footer>
  );
}
