// The offcut shelf of the workshop: what finished sheets gave back, by stock.
import { OffcutCard } from "../frame/OffcutCard";
import { PageHead } from "../frame/PageHead";
import { area, plural } from "../lib/figures";
import { useOffcuts } from "../state/offcuts";
import { useShelf } from "../state/shelf";

export function Offcuts() {
  const offcuts = useOffcuts();
  const shelf = useShelf();
  const stocks = [...new Set(offcuts.data?.map((o) => o.stock_name))];
  return (
    <main className="home">
      <PageHead title="Offcut shelf" />
      {offcuts.isError && (
        <div className="problem" role="alert">
          {offcuts.error.message}
        </div>
      )}
      {offcuts.isPending && <p className="soft">Looking at the shelf…</p>}
      {offcuts.data?.length === 0 && (
        <div className="paper" style={{ marginTop: 20, textAlign: "center", padding: 50 }}>
          <h2>The shelf is empty</h2>
          <p className="soft">When a sheet has been cut, say so under it in Nest: what is left comes here with its outline.</p>
        </div>
      )}
      {stocks.map((name) => {
        const own = offcuts.data?.filter((o) => o.stock_name === name) ?? [];
        const stock = shelf.data?.stocks[own[0].stock] as { tint?: string } | undefined;
        return (
          <section key={name} aria-label={name} style={{ marginTop: 18 }}>
            <h2>
              <span className="swatch" style={{ background: stock?.tint ?? "#ccc" }} />
              {name}{" "}
              <span className="soft" style={{ fontSize: 13.5, fontWeight: 400 }}>
                {plural(own.length, "offcut")},{" "}
                {area(
                  own.reduce((sum, o) => sum + o.area, 0),
                  "mm",
                )}
              </span>
            </h2>
            <div className="offcuts">
              {own.map((o) => (
                <OffcutCard key={o.label} offcut={o} tint={stock?.tint ?? "#ccc"} display="mm" />
              ))}
            </div>
          </section>
        );
      })}
    </main>
  );
}
