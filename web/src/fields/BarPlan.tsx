// How lengths are cut from bars: the patterns, how many bars they take, and what is proven of that.
import type { BarsOut } from "../api/types";
import type { Display } from "../lib/document";
import { duration, figure, length, plural } from "../lib/figures";

type Pattern = BarsOut["patterns"][number] & { shared?: number; saved?: number; remainder?: string };
type Told = Pick<BarsOut, "bars" | "cost" | "bound" | "proven" | "missing"> & {
  patterns: Pattern[];
  saw_cuts?: number;
  seconds?: number;
};

/** ``price`` writes what bars cost; without prices their number alone is told. */
export function BarPlan({ plan, price, display }: { plan: Told; price: (cost: number) => string; display: Display }) {
  const longest = Math.max(...plan.patterns.map((p) => p.bar), 1);
  const scale = 640 / longest;
  return (
    <>
      <p role="status" style={{ margin: "2px 0 6px", fontWeight: 600 }}>
        {plural(plan.bars, "bar")}
        {plan.cost > 0 && `, ${price(plan.cost)}`}:{" "}
        {plan.proven ? (
          <span className="good">proven, {plan.cost > 0 ? "nothing cheaper" : "no fewer"} can do</span>
        ) : (
          <span className="warn">{plan.bound > 0 ? `no less than ${price(plan.bound)} can do` : "fewer may do"}</span>
        )}
      </p>
      {plan.saw_cuts ? (
        <div className="soft">
          {plural(plan.saw_cuts, "cut")}
          {plan.seconds ? `, ${duration(plan.seconds)} at the saw` : ""}
        </div>
      ) : null}
      {plan.missing.map((m) => (
        <div className="problem" key={`${m.name}${m.length}`}>
          {m.name.replaceAll("_", " ") || length(m.length, display)}: {plural(m.count, "piece")} found no bar; none is left.
        </div>
      ))}
      {plan.patterns.map((p, n) => (
        <div key={n} style={{ marginTop: 12 }}>
          <div className="row facts soft" style={{ flexWrap: "nowrap", alignItems: "baseline" }}>
            <b className="figure" style={{ whiteSpace: "nowrap" }}>
              {p.times} ×
            </b>
            <span>
              {p.remainder ? `${p.remainder}, what is left of a bar,` : "bar"} of{" "}
              <span className="figure">{length(p.bar, display)}</span>:{" "}
              {p.cuts
                .map((c) => `${c.count} × ${c.name ? `${c.name.replaceAll("_", " ")} ` : ""}${length(c.length, display)}`)
                .join(", ")}
              ; left <span className="figure">{length(p.rest, display)}</span>
              {p.shared ? (
                <>
                  , or <span className="figure">{length(p.rest + (p.saved ?? 0), display)}</span> where{" "}
                  {plural(p.shared, "slanting cut")} {p.shared === 1 ? "is" : "are"} shared by two pieces
                </>
              ) : null}
            </span>
          </div>
          <svg viewBox="0 -1 644 26" style={{ width: "100%", maxWidth: 644 }} role="img" aria-label={`Pattern ${n + 1}`}>
            <rect
              x={1}
              y={0}
              width={p.bar * scale}
              height={24}
              fill="var(--paper-sunk)"
              stroke="var(--pencil)"
              strokeDasharray="4 3"
            />
            {laidEndToEnd(p.cuts).map((c) => (
              <g key={c.x}>
                <rect x={1 + c.x * scale} y={0} width={c.length * scale} height={24} fill="#c9d1d6" stroke="var(--edge)" />
                {c.length * scale > 38 && (
                  <text x={1 + (c.x + c.length / 2) * scale} y={16} textAnchor="middle" fontSize={10.5} fill="var(--edge)">
                    {figure(c.length, display)}
                  </text>
                )}
              </g>
            ))}
          </svg>
        </div>
      ))}
    </>
  );
}

/** Each piece of a bar with where it begins, in mm. */
export function laidEndToEnd(cuts: { length: number; count: number }[]): { x: number; length: number }[] {
  const found: { x: number; length: number }[] = [];
  let x = 0;
  for (const c of cuts)
    for (let n = 0; n < c.count; n++) {
      found.push({ x, length: c.length });
      x += c.length;
    }
  return found;
}
