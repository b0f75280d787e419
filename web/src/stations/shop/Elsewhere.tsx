// Cut elsewhere: which parts an outside cutter is asked for, what it would take, and what has come.
import { Button, Menu, MultiSelect, NumberInput } from "@mantine/core";
import { IconDownload } from "@tabler/icons-react";
import { useState } from "react";
import type { OutsideOrderOut } from "../../api/types";
import { lengths, money, plural } from "../../lib/figures";
import { useShown } from "../../state/design";
import { useOrderActs, useOutsideCutters, useOutsideOrders } from "../../state/elsewhere";

const STATES: { [state: string]: string } = {
  asked: "Asked",
  sending: "Sent, no answer yet",
  ordered: "Being cut",
  received: "Received",
  dropped: "Dropped",
};

export function Elsewhere() {
  const { doc, built } = useShown()!;
  const cutters = useOutsideCutters();
  const orders = useOutsideOrders();
  const acts = useOrderActs();
  const [parts, setParts] = useState<string[]>([]);
  const stocks = doc.stocks;
  const flat = built.parts.filter((p) => !p.key.includes("@") && stocks[p.stock]?.kind !== "bar" && p.flat);
  if (!cutters.data?.length || !flat.length) return null;
  const shown = orders.data?.filter((o) => o.state !== "dropped") ?? [];
  return (
    <div className="paper" id="elsewhere">
      <div className="row">
        <h2 className="grow">Cut elsewhere</h2>
        <Menu position="bottom-end">
          <Menu.Target>
            <Button loading={acts.busy}>Ask for a price</Button>
          </Menu.Target>
          <Menu.Dropdown>
            {cutters.data.map((c) => (
              <Menu.Item
                key={c.key}
                onClick={() =>
                  void acts.ask(
                    c.key,
                    parts.flatMap((name) => flat.filter((p) => p.path === name).map((p) => p.key)),
                  )
                }
              >
                {c.name}
                <div className="soft">
                  {c.cuts}. {c.wants}.
                </div>
              </Menu.Item>
            ))}
          </Menu.Dropdown>
        </Menu>
      </div>
      <MultiSelect
        label="Parts to ask for"
        placeholder={parts.length ? "" : "all that are cut from sheets"}
        data={[...new Set(flat.map((p) => p.path))]}
        value={parts}
        onChange={setParts}
        searchable
        clearable
      />
      {acts.fault && (
        <p className="error" role="alert">
          {acts.fault}
        </p>
      )}
      {shown.map((o) => (
        <Order key={o.id} order={o} acts={acts} />
      ))}
    </div>
  );
}

function Order({ order, acts }: { order: OutsideOrderOut; acts: ReturnType<typeof useOrderActs> }) {
  const { doc } = useShown()!;
  const pieces = order.items.reduce((a, i) => a + i.quantity, 0);
  const come = order.items.reduce((a, i) => a + i.received, 0);
  const going = order.state === "ordered" || order.state === "received";
  return (
    <section aria-label={`Order to ${order.called}`} className="outsideorder">
      <div className="row" style={{ flexWrap: "wrap" }}>
        <span className="grow">
          <b>{order.called}</b>: {order.sent ? "On its way" : STATES[order.state]}
          {order.reference && <span className="soft"> under {order.reference}</span>}
          <div className="soft">
            {plural(pieces, "piece")} of revision {order.revision}, {money(order.price, order.currency)},{" "}
            {plural(order.days, "day")}; drawings {order.lines}
            {order.changed && <span className="warn">; the design has changed since</span>}
          </div>
        </span>
        <Button
          component="a"
          size="compact-sm"
          leftSection={<IconDownload size={14} />}
          href={`/api/outside-orders/${order.id}/files`}
        >
          Drawings, ZIP
        </Button>
        {(order.state === "asked" || order.state === "sending") && (
          <Button size="compact-sm" variant="filled" disabled={acts.busy} onClick={() => void acts.order(order.id)}>
            Order it
          </Button>
        )}
        {order.state === "asked" && (
          <Button size="compact-sm" variant="subtle" disabled={acts.busy} onClick={() => void acts.drop(order.id)}>
            Drop it
          </Button>
        )}
        {order.state === "ordered" && (
          <Button
            size="compact-sm"
            disabled={acts.busy}
            onClick={() => void acts.receive(order.id, Object.fromEntries(order.items.map((i) => [i.key, i.quantity])))}
          >
            All have come
          </Button>
        )}
      </div>
      {going && (
        <p className="soft" style={{ margin: "4px 0" }}>
          {come} of {pieces} good pieces have come.
        </p>
      )}
      <table className="plain">
        <thead>
          <tr>
            <th>No.</th>
            <th>Part</th>
            <th>Of</th>
            <th className="num">Size</th>
            <th className="num">{going ? "Come" : "Pieces"}</th>
          </tr>
        </thead>
        <tbody>
          {order.items.map((i) => (
            <tr key={i.key}>
              <td>{i.code}</td>
              <td>
                {i.part}
                {i.left && <div className="warn">without its {i.left}</div>}
              </td>
              <td>{i.stock}</td>
              <td className="num mono">{lengths([i.length, i.width], doc.display)}</td>
              <td className="num" style={{ width: 120 }}>
                {going ? (
                  <NumberInput
                    key={`${i.key}-${i.received}`}
                    aria-label={`Come of ${i.part}`}
                    defaultValue={i.received}
                    min={0}
                    max={i.quantity}
                    allowDecimal={false}
                    rightSection={<span className="soft">of {i.quantity}</span>}
                    rightSectionWidth={56}
                    onBlur={(e) => {
                      const n = Number.parseInt(e.currentTarget.value, 10);
                      if (!Number.isNaN(n) && n !== i.received) void acts.receive(order.id, { [i.key]: n });
                    }}
                  />
                ) : (
                  i.quantity
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
