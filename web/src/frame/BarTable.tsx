// The bars that a design is cut from: how each is cut, how many it takes, and what is left.
import { Button } from "@mantine/core";
import { IconDownload } from "@tabler/icons-react";
import { BarPlan } from "../fields/BarPlan";
import { money } from "../lib/figures";
import { useShown } from "../state/design";
import { BarRemainders } from "./BarRemainders";
import { OnShelf } from "./OnShelf";

export function BarTable({ base }: { base: string }) {
  const { doc, built } = useShown()!;
  if (!built.bars.length) return null;
  return (
    <div className="paper">
      <div className="row" style={{ marginBottom: 4 }}>
        <h2 className="grow">Bars</h2>
        <Button component="a" leftSection={<IconDownload size={15} />} href={`${base}/saw-list`}>
          Saw list, CSV
        </Button>
        <Button component="a" leftSection={<IconDownload size={15} />} href={`${base}/tube-cuts`}>
          Tube cutter, JSON
        </Button>
        {built.parts.some((p) => p.member?.bends) && (
          <Button component="a" leftSection={<IconDownload size={15} />} href={`${base}/bender-table`}>
            Bender&rsquo;s table, CSV
          </Button>
        )}
      </div>
      <p className="soft" style={{ margin: "0 0 6px" }}>
        Lengths as they are finished; the saw&rsquo;s cut is reckoned with each.
      </p>
      {built.bars.map((b) => (
        <section key={b.stock} aria-label={doc.stocks[b.stock]?.name}>
          <h3>
            {doc.stocks[b.stock]?.name}{" "}
            {doc.stocks[b.stock] && (
              <span style={{ fontSize: 12.5, fontWeight: 400 }}>
                <OnShelf stockKey={b.stock} stock={doc.stocks[b.stock]} />
              </span>
            )}
          </h3>
          {b.plan ? (
            <BarPlan plan={b.plan} price={(x) => money(x, doc.currency)} display={doc.display} />
          ) : (
            <p className="warn">{b.refused}</p>
          )}
          <BarRemainders stockKey={b.stock} plan={b} />
        </section>
      ))}
    </div>
  );
}
