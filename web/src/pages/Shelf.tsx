// The shelf of the workshop: how many sheets and bars there are, and what finished ones gave back, by stock.

import type { OffcutOut } from "../api/types";
import { StockCount } from "../fields/StockCount";
import { OffcutCard } from "../frame/OffcutCard";
import { PageHead } from "../frame/PageHead";
import { ordered, type Stock } from "../lib/document";
import { area, plural } from "../lib/figures";
import { sheetSize, typedOut } from "../lib/shelf";
import { useOffcuts } from "../state/offcuts";
import { useShelf } from "../state/shelf";

/** A stock of the shelf, or one of which only offcuts are left. */
type Kept = { key: string; name: string; stock?: Stock; offcuts: OffcutOut[] };

export function Shelf() {
  const offcuts = useOffcuts();
  const shelf = useShelf();
  const fault = offcuts.error ?? shelf.error;
  const kept = onShelf((shelf.data?.stocks ?? {}) as Record<string, Stock>, offcuts.data ?? []);
  return (
    <main className="home">
      <PageHead title="Shelf" />
      <p className="soft" style={{ maxWidth: 760 }}>
        Count what there is, and layouts and bar plans take no more than that; what is not counted can be bought as needed. What
        is cut of a design is taken off. What is left of sheets and bars comes here once you say under them that they are cut.
      </p>
      {fault && (
        <div className="problem" role="alert">
          {fault.message}
        </div>
      )}
      {(offcuts.isPending || shelf.isPending) && <p className="soft">Looking at the shelf…</p>}
      {kept.map((k) => (
        <OneStock key={k.name} kept={k} />
      ))}
    </main>
  );
}

function OneStock({ kept: { key, name, stock, offcuts } }: { kept: Kept }) {
  const tint = stock?.tint ?? "#ccc";
  const bars = stock?.kind === "bar";
  return (
    <section aria-label={name} className="kept">
      <div className="row">
        <h2 className="keptname">
          <span className="swatch" style={{ background: tint }} />
          {name}
        </h2>
        <div className="counts">
          {stock &&
            soldAs(stock).map(([size, words]) => (
              <StockCount key={size} stock={key} size={size} unit={bars ? "bars" : "sheets"} label={words} />
            ))}
          {stock && !soldAs(stock).length && <span className="soft">sold from the roll, not counted</span>}
        </div>
        <span className="soft">
          {offcuts.length > 0 &&
            (bars
              ? plural(offcuts.length, "remainder")
              : `${plural(offcuts.length, "offcut")}, ${area(
                  offcuts.reduce((sum, o) => sum + o.area, 0),
                  "mm",
                )}`)}
        </span>
      </div>
      {offcuts.length > 0 && (
        <div className="offcuts">
          {offcuts.map((o) => (
            <OffcutCard key={o.label} offcut={o} tint={tint} display="mm" />
          ))}
        </div>
      )}
    </section>
  );
}

/** What a stock is sold in by the piece, each with its size in words. */
function soldAs(stock: Stock): [string, string][] {
  if (stock.kind === "bar") return ordered(stock.lengths).map(([k, bar]) => [k, typedOut(bar.length)]);
  return ordered(stock.sheets)
    .filter(([, s]) => !s.roll)
    .map(([k, s]) => [k, sheetSize(s.length, s.width)]);
}

/** What is on the shelf, in its order; a stock that is not there is named by its offcuts. */
function onShelf(stocks: Record<string, Stock>, offcuts: OffcutOut[]): Kept[] {
  const kept: Kept[] = ordered(stocks).map(([key, stock]) => ({
    key,
    name: stock.name,
    stock,
    offcuts: offcuts.filter((o) => o.stock_name === stock.name),
  }));
  for (const o of offcuts) {
    if (kept.some((k) => k.name === o.stock_name)) continue;
    kept.push({ key: o.stock, name: o.stock_name, offcuts: offcuts.filter((p) => p.stock_name === o.stock_name) });
  }
  return kept;
}
