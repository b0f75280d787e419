// The bars of a stock as live miniatures beside the sheets: each way to cut one, how many, and what they cost.
import type { BarsOut } from "../api/types";
import { laidEndToEnd } from "../fields/BarPlan";
import { money, plural } from "../lib/figures";
import { useShown } from "../state/design";
import { useView } from "../state/view";

/** So many ways to cut a bar are drawn, those of most bars first. */
const MOST = 6;
/** How a bar is drawn: its height and the room to the next, in parts of its length. */
const HIGH = 0.045;
const APART = 0.065;

export function BarMini({ stock, plan }: { stock: string; plan: BarsOut }) {
  const { doc } = useShown()!;
  const record = doc.stocks[stock];
  const longest = Math.max(...plan.patterns.map((p) => p.bar), 1);
  const shown = plan.patterns.slice(0, MOST);
  const [high, apart] = [longest * HIGH, longest * APART];
  const pad = longest * 0.008;
  const missing = plan.missing.reduce((n, m) => n + m.count, 0);
  return (
    <button type="button" className="sheetmini" onClick={() => useView.getState().go("nest")} title="How its bars are cut">
      <svg
        viewBox={`${-pad} ${-pad} ${longest + 2 * pad} ${shown.length * apart + 2 * pad}`}
        preserveAspectRatio="xMidYMid meet"
        style={{ width: 190, height: "auto", alignSelf: "center", background: "none" }}
        role="img"
        aria-label={`${record?.name}: ${plural(plan.bars, "bar")}`}
      >
        {shown.map((p, row) => (
          <g key={row} transform={`translate(0 ${row * apart})`}>
            <rect width={p.bar} height={high} fill="var(--paper-sunk)" stroke="var(--pencil)" strokeWidth={longest * 0.002} />
            {laidEndToEnd(p.cuts).map((c) => (
              <rect
                key={c.x}
                x={c.x}
                width={c.length}
                height={high}
                fill={record?.tint ?? "#ccc"}
                stroke="var(--edge)"
                strokeWidth={longest * 0.002}
              />
            ))}
          </g>
        ))}
      </svg>
      <span className="facts">
        <b>{record?.name}</b>
        <br />
        {plural(plan.bars, "bar")}
        {plan.patterns.length > MOST && `, ${plan.patterns.length - MOST} more ways`}
        <br />
        {missing > 0 ? (
          <span className="warn">{plural(missing, "piece")} found none</span>
        ) : (
          plan.cost > 0 && <span className="figure">{money(plan.cost, doc.currency)}</span>
        )}
      </span>
    </button>
  );
}
