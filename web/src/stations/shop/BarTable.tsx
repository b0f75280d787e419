// The bars that a design is cut from: how each is cut, how many it takes, and what is left.
import { BarPlan } from "../../fields/BarPlan";
import { money } from "../../lib/figures";
import { useShown } from "../../state/design";

export function BarTable() {
  const { doc, built } = useShown()!;
  if (!built.bars.length) return null;
  return (
    <div className="paper">
      <h2>Bars</h2>
      <p className="soft" style={{ margin: "0 0 6px" }}>
        Lengths as they are finished; the saw&rsquo;s cut is reckoned with each.
      </p>
      {built.bars.map((b) => (
        <section key={b.stock} aria-label={doc.stocks[b.stock]?.name}>
          <h3>{doc.stocks[b.stock]?.name}</h3>
          {b.plan ? (
            <BarPlan plan={b.plan} price={(x) => money(x, doc.currency)} display={doc.display} />
          ) : (
            <p className="warn">{b.refused}</p>
          )}
        </section>
      ))}
    </div>
  );
}
