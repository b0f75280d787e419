// How tight the parts lie, over the time of a run: a step line a stock.
import type { RunOut } from "../../api/types";
import type { Doc } from "../../lib/document";
import { percent, plural } from "../../lib/figures";

const [W, H, LEFT, BOTTOM] = [420, 74, 34, 16];

export function YieldChart({ run, doc }: { run: RunOut; doc: Doc }) {
  const stocks = [...new Set(run.trace.map((t) => t.stock))];
  if (!run.trace.length) return null;
  const end = Math.max(run.trace[run.trace.length - 1].at, run.seconds, 1);
  const shares = run.trace.map((t) => t.tightness);
  const low = Math.max(0, Math.floor(Math.min(...shares) * 20 - 1e-9) / 20);
  const high = Math.min(1, Math.max(Math.ceil(Math.max(...shares) * 20 + 1e-9) / 20, low + 0.05));
  const x = (t: number) => LEFT + (t / end) * (W - LEFT - 6);
  const y = (s: number) => 6 + (1 - (s - low) / (high - low)) * (H - 6 - BOTTOM);
  return (
    <div className="row" style={{ alignItems: "flex-start", gap: 18 }}>
      <svg
        viewBox={`0 0 ${W} ${H}`}
        width={W}
        height={H}
        role="img"
        aria-label={`Yield over time: ${stocks.map((s) => doc.stocks[s]?.name ?? s).join(", ")}`}
      >
        {[low, high].map((s) => (
          <g key={s}>
            <line x1={LEFT} x2={W - 6} y1={y(s)} y2={y(s)} stroke="var(--rule)" />
            <text x={LEFT - 4} y={y(s)} dy="0.35em" textAnchor="end" fontSize={10} fill="var(--ink-soft)">
              {percent(s)}
            </text>
          </g>
        ))}
        <text x={LEFT} y={H - 3} fontSize={10} fill="var(--ink-soft)">
          0 s
        </text>
        <text x={W - 6} y={H - 3} fontSize={10} textAnchor="end" fill="var(--ink-soft)">
          {end.toFixed(1)} s
        </text>
        {stocks.map((stock) => {
          const own = run.trace.filter((t) => t.stock === stock);
          let d = "";
          own.forEach((t, i) => {
            d += i ? `H${x(t.at)}V${y(t.tightness)}` : `M${x(t.at)} ${y(t.tightness)}`;
          });
          const last = own[own.length - 1];
          d += `H${x(end)}`;
          return (
            <g key={stock}>
              <path d={d} fill="none" stroke="var(--ink)" strokeWidth={3.4} />
              <path d={d} fill="none" stroke={doc.stocks[stock]?.tint ?? "#ccc"} strokeWidth={2} />
              <circle cx={x(end)} cy={y(last.tightness)} r={3} fill={doc.stocks[stock]?.tint ?? "#ccc"} stroke="var(--ink)" />
            </g>
          );
        })}
      </svg>
      <div className="soft" style={{ fontSize: 12 }}>
        <div>Yield over time, the last sheet only as far as it is used</div>
        {stocks.map((stock) => {
          const own = run.trace.filter((t) => t.stock === stock);
          const [first, last] = [own[0], own[own.length - 1]];
          return (
            <div key={stock}>
              <span className="swatch" style={{ background: doc.stocks[stock]?.tint }} />
              {doc.stocks[stock]?.name}: <span className="figure">{percent(first.tightness)}</span> to{" "}
              <span className="figure">{percent(last.tightness)}</span>, {plural(last.sheets, "sheet")}
              {own.length > 1 ? `, ${plural(own.length - 1, "time")} better` : ""}
            </div>
          );
        })}
      </div>
    </div>
  );
}
