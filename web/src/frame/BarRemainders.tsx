// What is left of other bars of a stock: used by this design before new ones; and the bars of this design once they are cut.
import { Button } from "@mantine/core";
import { useState } from "react";
import type { DesignOut, OffcutOut } from "../api/types";
import { nextOrder, pointer } from "../lib/document";
import { length } from "../lib/figures";
import { barsTaken } from "../lib/shelf";
import { useDesign } from "../state/design";
import { useOffcutChanges, useOffcuts } from "../state/offcuts";

/** Bars of one stock do not differ by more than this (mm) in thickness. */
const SAME_THICKNESS = 0.35;

type Bars = DesignOut["built"]["bars"][number];

export function BarRemainders({ stockKey, plan }: { stockKey: string; plan: Bars }) {
  const doc = useDesign((s) => s.doc)!;
  const design = useDesign((s) => s.id);
  const commit = useDesign((s) => s.commit);
  const offcuts = useOffcuts();
  const { change, shelveBars } = useOffcutChanges();
  const thick = useThickness(stockKey);
  const [said, setSaid] = useState("");
  const stock = doc.stocks[stockKey];
  if (stock?.kind !== "bar") return null;
  const { name } = stock;
  const before = { sawn: stock.sawn ?? "", taken: stock.taken ?? {} };
  const taken = stock.remainders ?? {};
  const own = (offcuts.data ?? []).filter(
    (o) => (o.stock === stockKey || o.stock_name === name) && Math.abs(o.thickness - thick) <= SAME_THICKNESS,
  );
  const free = own.filter((o) => !(o.label in taken) && (!o.reserved || o.reserved === design));
  const base = pointer("stocks", stockKey, "remainders");

  async function take(offcut: OffcutOut): Promise<void> {
    const refused = await change(offcut.label, { reserved: design });
    setSaid(refused);
    if (refused) return;
    const value = {
      name: offcut.place ? `${offcut.label}, ${offcut.place}`.slice(0, 80) : offcut.label,
      length: offcut.length,
      order: nextOrder(taken),
    };
    await commit(`${name}: use what is left, ${offcut.label}`, [
      { op: "add", path: base, value: taken },
      { op: "add", path: `${base}/${offcut.label}`, value },
    ]);
  }

  async function back(label: string): Promise<void> {
    if (!(await commit(`${name}: ${label} back on the shelf`, [{ op: "remove", path: `${base}/${label}` }]))) return;
    if (own.some((o) => o.label === label && o.reserved === design)) setSaid(await change(label, { reserved: "" }));
  }

  /** The bars have been cut as they are planned: what is left of them goes on the shelf. */
  async function finish(): Promise<void> {
    const mark = (sawn: string, taken: Record<string, number>) => [
      { op: "add", path: pointer("stocks", stockKey, "sawn"), value: sawn },
      { op: "add", path: pointer("stocks", stockKey, "taken"), value: taken },
    ];
    if (!(await commit(`Bars of ${name} cut`, mark(plan.digest, barsTaken(plan.plan?.patterns ?? [], before.taken))))) return;
    const fault = await shelveBars(stockKey, (made) => {
      const labels = made.map((o) => `${o.label} (${length(o.length, doc.display)})`);
      setSaid(
        labels.length ? `On the shelf: write ${labels.join(" and ")} on what is left.` : "Nothing worth keeping is left of them.",
      );
    });
    if (!fault) return;
    // nothing is on the shelf: they can be pressed once more
    setSaid(fault);
    await commit(`Bars of ${name} not put away`, mark(before.sawn, before.taken));
  }

  const done = stock.sawn !== "" && stock.sawn === plan.digest;
  const told = said || (done ? "These bars are cut." : stock.sawn ? "The plan has changed since bars were cut by it." : "");
  return (
    <>
      {Object.entries(taken).map(([label, r]) => (
        <div className="row" key={label}>
          <span className="grow">
            {r.name}, <span className="figure">{length(r.length, doc.display)}</span>: used here before new bars
          </span>
          {!done && (
            <Button size="compact-xs" onClick={() => void back(label)}>
              Put back
            </Button>
          )}
        </div>
      ))}
      {free.map((o) => (
        <div className="row" key={o.label}>
          <span className="grow soft">
            {o.label} on the shelf{o.place && `, ${o.place}`}, <span className="figure">{length(o.length, doc.display)}</span>
          </span>
          <Button size="compact-xs" onClick={() => void take(o)}>
            Use it here
          </Button>
        </div>
      ))}
      {plan.plan && (
        <div className="row">
          <span className="grow soft">{told && <span role="status">{told}</span>}</span>
          {!done && (
            <Button size="compact-xs" onClick={() => void finish()}>
              These bars are cut
            </Button>
          )}
        </div>
      )}
    </>
  );
}

/** How thick a stock is as it is read, in mm. */
function useThickness(stockKey: string): number {
  const values = useDesign((s) => s.head?.values) ?? {};
  return values[`/stocks/${stockKey}/nominal`]?.value ?? 0;
}
