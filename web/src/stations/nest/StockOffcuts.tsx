// The offcuts of one stock on the shelf, and which of them this design uses before new sheets.
import { Button } from "@mantine/core";
import { useState } from "react";
import type { OffcutOut } from "../../api/types";
import { OffcutCard } from "../../frame/OffcutCard";
import { type Doc, nextOrder, pointer, sheetOf } from "../../lib/document";
import { plural } from "../../lib/figures";
import { useDesign } from "../../state/design";
import { useOffcutChanges, useOffcuts } from "../../state/offcuts";

/** Sheets of one stock do not differ by more than this (mm) in thickness. */
const SAME_THICKNESS = 0.35;

type Props = { doc: Doc; stockKey: string; thickness: number; cut: string[] };

export function StockOffcuts({ doc, stockKey, thickness, cut }: Props) {
  const design = useDesign((s) => s.id);
  const { commit, askNest } = useDesign.getState();
  const offcuts = useOffcuts();
  const { change } = useOffcutChanges();
  const [open, setOpen] = useState(false);
  const [fault, setFault] = useState("");
  const stock = sheetOf(doc, stockKey)!;
  const taken = stock.offcuts ?? {};
  const own = (offcuts.data ?? []).filter(
    (o) => (o.stock === stockKey || o.stock_name === stock.name) && Math.abs(o.thickness - thickness) <= SAME_THICKNESS,
  );
  const gone = Object.keys(taken).filter(
    (k) => offcuts.data && !cut.includes(k) && !own.some((o) => o.label === k && (!o.reserved || o.reserved === design)),
  );
  const shown = open || Object.keys(taken).length > 0;

  async function take(offcut: OffcutOut): Promise<void> {
    const refused = await change(offcut.label, { reserved: design });
    setFault(refused);
    if (refused) return;
    const value = {
      name: offcut.place ? `${offcut.label}, ${offcut.place}`.slice(0, 80) : offcut.label,
      outline: offcut.outline,
      holes: offcut.holes,
      order: nextOrder(taken),
    };
    const base = pointer("stocks", stockKey, "offcuts");
    const patch = stock.offcuts
      ? [{ op: "add", path: `${base}/${offcut.label}`, value }]
      : [{ op: "add", path: base, value: { [offcut.label]: value } }];
    if (await commit(`${stock.name}: use offcut ${offcut.label}`, patch)) await askNest(true);
  }

  async function back(label: string): Promise<void> {
    const path = pointer("stocks", stockKey, "offcuts", label);
    if (await commit(`${stock.name}: offcut ${label} back on the shelf`, [{ op: "remove", path }])) {
      if (own.some((o) => o.label === label && o.reserved === design)) setFault(await change(label, { reserved: "" }));
      await askNest(true);
    }
  }

  if (!own.length && !gone.length) return null;
  return (
    <div style={{ marginBottom: 10 }}>
      <div className="row">
        {Object.keys(taken).length > 0 ? (
          <span className="soft">
            {plural(own.length, "offcut")} of this stock on the shelf, <b>{Object.keys(taken).join(", ")}</b> used here before new
            sheets
          </span>
        ) : (
          <Button size="compact-xs" variant="subtle" onClick={() => setOpen(!shown)}>
            {plural(own.length, "offcut")} of this stock on the shelf{shown ? "" : ": look"}
          </Button>
        )}
      </div>
      {fault && <div className="error">{fault}</div>}
      {gone.map((label) => (
        <div className="problem" key={label}>
          Offcut {label} is not free on the shelf any more: it was cut, thrown away, or reserved for another design.
          <div className="mends">
            <Button size="compact-xs" onClick={() => void back(label)}>
              Lay out without it
            </Button>
          </div>
        </div>
      ))}
      {shown && (
        <div className="offcuts">
          {own.map((o) => (
            <OffcutCard key={o.label} offcut={o} tint={stock.tint} display={doc.display} on={o.label in taken}>
              {o.label in taken ? (
                <Button size="compact-xs" onClick={() => void back(o.label)}>
                  Put back
                </Button>
              ) : (
                <Button size="compact-xs" disabled={!!o.reserved && o.reserved !== design} onClick={() => void take(o)}>
                  Use it here
                </Button>
              )}
            </OffcutCard>
          ))}
        </div>
      )}
    </div>
  );
}
