// Two layouts of one stock side by side: sheets, yield, cost, offcut, time; one of them is kept.
import { Button, Modal } from "@mantine/core";
import type { LayoutOut, StockState } from "../../api/types";
import { SheetDrawing } from "../../frame/SheetMini";
import type { Doc } from "../../lib/document";
import { area, duration, money, percent } from "../../lib/figures";
import { useEarlierLayout } from "../../state/laying";

/** What the layout on the other side is: what a search found beside the hand's, or one that was kept earlier. */
export type Other = { kind: "found" } | { kind: "earlier"; id: number; revision: number; stale: boolean };

type Props = { doc: Doc; state: StockState; other: Other; onClose: () => void; onKeep: (layout: LayoutOut) => Promise<void> };

export function Compare({ doc, state, other, onClose, onKeep }: Props) {
  const kept = useEarlierLayout(other.kind === "earlier" ? other.id : null);
  const theirs = other.kind === "found" ? state.found : kept.data;
  const ours = state.layout;
  const stock = doc.stocks[state.stock];
  if (!ours) return null;
  const title =
    other.kind === "found"
      ? `Found by the search, of revision ${state.found_revision}`
      : `Earlier, of revision ${other.revision}`;
  return (
    <Modal opened onClose={onClose} title={`${stock.name}: two layouts`} size={1080}>
      {kept.isError && <div className="error">{kept.error.message}</div>}
      <div className="compare">
        <Side doc={doc} layout={ours} beside={theirs ?? null} title={ours.hand ? "Laid by hand, as it stands" : "As it stands"}>
          <Button onClick={onClose}>Keep this one</Button>
        </Side>
        {theirs ? (
          <Side doc={doc} layout={theirs} beside={ours} title={title}>
            <Button variant="filled" onClick={() => void onKeep(theirs).then(onClose)}>
              {other.kind === "earlier" && other.stale ? "Keep this one, with what has changed mended" : "Keep this one"}
            </Button>
          </Side>
        ) : (
          <div className="soft">Being fetched…</div>
        )}
      </div>
    </Modal>
  );
}

type SideProps = { doc: Doc; layout: LayoutOut; beside: LayoutOut | null; title: string; children: React.ReactNode };

function Side({ doc, layout, beside, title, children }: SideProps) {
  const stock = doc.stocks[layout.stock];
  const rows = figures(layout, doc);
  const others = beside && figures(beside, doc);
  return (
    <section aria-label={title}>
      <h3 style={{ marginBottom: 6 }}>{title}</h3>
      <table className="plain" style={{ marginBottom: 10 }}>
        <tbody>
          {rows.map((r, i) => (
            <tr key={r.name}>
              <td>{r.name}</td>
              <td className="num figure">
                <span className={others && better(r, others[i]) ? "good" : undefined}>
                  {r.shown}
                  {others && better(r, others[i]) ? " ✓" : ""}
                </span>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <div className="row" style={{ justifyContent: "flex-end", marginBottom: 10 }}>
        {children}
      </div>
      {layout.sheets.map((s, i) => (
        <div key={i} style={{ marginBottom: 8 }}>
          <SheetDrawing sheet={s} tint={stock?.tint ?? "#ccc"} lit={[]} hover="" />
        </div>
      ))}
    </section>
  );
}

type Row = { name: string; value: number; less: boolean; shown: string };

function figures(layout: LayoutOut, doc: Doc): Row[] {
  const rest = layout.sheets.reduce((most, s) => Math.max(most, s.offcut ? s.offcut[2] * s.offcut[3] : 0), 0);
  const [seconds, cost] = layout.sheets.reduce(([t, c], s) => [t + s.seconds, c + s.cost], [0, 0]);
  const missing = Object.values(layout.unplaced).reduce((a, b) => a + b, 0);
  const row = (name: string, value: number, less: boolean, shown: string) => ({ name, value, less, shown });
  return [
    row("Sheets", layout.sheets.length, true, String(layout.sheets.length)),
    row("Without a place", missing, true, String(missing)),
    row("Yield", Math.round(layout.share * 1000), false, percent(layout.share)),
    row("Cost of the sheets", layout.sheet_cost, true, money(layout.sheet_cost, doc.currency)),
    row("Largest offcut", Math.round(rest), false, rest ? area(rest, doc.display) : "none"),
    row("Cutting", Math.round(seconds), true, `${duration(seconds)}, ${money(cost, doc.currency)}`),
  ];
}

function better(a: Row, b: Row): boolean {
  return a.less ? a.value < b.value - 1e-9 : a.value > b.value + 1e-9;
}
