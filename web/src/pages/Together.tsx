// Several designs cut together: how often each is made, and all their sheets by stock.
import { Button, Menu, NumberInput, Progress, Select, TextInput } from "@mantine/core";
import { IconDownload } from "@tabler/icons-react";
import { useState } from "react";
import { Link } from "react-router";
import type { BatchOut, BatchState, DesignRow, LayoutOut } from "../api/types";
import { PageHead } from "../frame/PageHead";
import { Send } from "../frame/Send";
import { SheetDrawing } from "../frame/SheetMini";
import { duration, lengths, money, percent, plural } from "../lib/figures";
import { isBusy, useBatchChanges, useBatches, useBatchSheets, useSendTogether } from "../state/batches";
import { useDesigns } from "../state/designs";

export function Together() {
  const batches = useBatches();
  const designs = useDesigns();
  const { keep, begin, remove, search, stop, fault } = useBatchChanges();
  const [chosen, setChosen] = useState("");
  const batch = batches.data?.find((b) => b.id === chosen) ?? batches.data?.[0];
  const beginOne = () => void begin(`Batch ${(batches.data?.length ?? 0) + 1}`, setChosen);

  return (
    <main className="home">
      <PageHead title="Cut together">
        {batches.data && batches.data.length > 1 && batch && (
          <Select
            aria-label="Batch"
            value={batch.id}
            data={batches.data.map((b) => ({ value: b.id, label: b.name }))}
            onChange={(v) => setChosen(v ?? "")}
            allowDeselect={false}
          />
        )}
        <Button disabled={!batches.data} onClick={beginOne}>
          New batch
        </Button>
      </PageHead>
      {fault && (
        <div className="problem" role="alert" style={{ marginTop: 12 }}>
          {fault}
        </div>
      )}
      {batches.isError && <div className="problem">{batches.error.message}</div>}
      {batches.data?.length === 0 && (
        <div className="paper" style={{ marginTop: 20, textAlign: "center", padding: 50 }}>
          <h2>No batch yet</h2>
          <p className="soft">
            Put several designs into one batch, say how often each is made, and their parts share sheets, stock by stock.
          </p>
          <Button variant="filled" onClick={beginOne}>
            New batch
          </Button>
        </div>
      )}
      {batch && (
        <div className="together">
          <BatchDesigns
            batch={batch}
            others={designs.data?.filter((d) => !batch.items.some((i) => i.design === d.id)) ?? []}
            onKeep={(next) => void keep(next)}
            onRemove={() => void remove(batch.id)}
          />
          <BatchSheets
            key={batch.id}
            batch={batch}
            onSearch={() => void search(batch.id, 10)}
            onStop={(run) => void stop(batch.id, run)}
          />
        </div>
      )}
    </main>
  );
}

type BatchDesignsProps = {
  batch: BatchOut;
  /** Designs that are not in it yet. */
  others: DesignRow[];
  onKeep: (next: BatchOut) => void;
  onRemove: () => void;
};

/** What is cut together, and how often each is made. */
function BatchDesigns({ batch, others, onKeep, onRemove }: BatchDesignsProps) {
  return (
    <section aria-label="Designs of the batch">
      <TextInput
        key={batch.id}
        label="Name"
        defaultValue={batch.name}
        maxLength={80}
        onBlur={(e) => e.currentTarget.value !== batch.name && onKeep({ ...batch, name: e.currentTarget.value })}
      />
      <table className="plain" style={{ marginTop: 10 }}>
        <thead>
          <tr>
            <th>Design</th>
            <th className="num">Made</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {batch.items.map((item) => (
            <tr key={item.design}>
              <td>
                <Link to={`/designs/${item.design}`}>{item.name}</Link>
              </td>
              <td className="num" style={{ width: 110 }}>
                <NumberInput
                  aria-label={`How often ${item.name} is made`}
                  key={`${item.design}-${item.quantity}`}
                  defaultValue={item.quantity}
                  min={1}
                  max={200}
                  suffix=" ×"
                  allowDecimal={false}
                  onBlur={(e) => {
                    const quantity = Number.parseInt(e.currentTarget.value, 10);
                    if (quantity !== item.quantity && !Number.isNaN(quantity))
                      onKeep({
                        ...batch,
                        items: batch.items.map((i) => (i.design === item.design ? { ...i, quantity } : i)),
                      });
                  }}
                />
              </td>
              <td className="num">
                <Button
                  size="compact-xs"
                  variant="subtle"
                  aria-label={`Take out ${item.name}`}
                  onClick={() => onKeep({ ...batch, items: batch.items.filter((i) => i.design !== item.design) })}
                >
                  Take out
                </Button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <div className="row" style={{ marginTop: 10 }}>
        <Menu position="bottom-start">
          <Menu.Target>
            <Button disabled={!others.length}>Add a design</Button>
          </Menu.Target>
          <Menu.Dropdown>
            {others.map((d) => (
              <Menu.Item
                key={d.id}
                onClick={() => onKeep({ ...batch, items: [...batch.items, { design: d.id, name: d.name, quantity: 1 }] })}
              >
                {d.name}
              </Menu.Item>
            ))}
          </Menu.Dropdown>
        </Menu>
        <span className="grow" />
        <Button variant="subtle" color="vermilion" onClick={onRemove}>
          Delete the batch
        </Button>
      </div>
    </section>
  );
}

type BatchSheetsProps = { batch: BatchOut; onSearch: () => void; onStop: (run: string) => void };

function BatchSheets({ batch, onSearch, onStop }: BatchSheetsProps) {
  const state = useBatchSheets(batch);
  const found = state.data;
  if (state.isError) return <div className="problem">{state.error.message}</div>;
  if (!found) return <p className="soft">Being laid out…</p>;
  if (!found.stocks.length)
    return found.waiting || found.cut ? (
      <AtMachines found={found} />
    ) : (
      <p className="soft">Add designs at the left: their parts are laid out here, stock by stock.</p>
    );
  const running = isBusy(found) ? found.run?.id : undefined;
  const layouts = found.stocks.flatMap((s) => (s.layout ? [s.layout] : []));
  const sum = (of: (l: LayoutOut) => number) => layouts.reduce((a, l) => a + of(l), 0);
  if (!layouts.length)
    return (
      <p className="soft" role="status">
        {found.run?.status === "queued" ? "Waiting for the worker…" : "Being laid out…"}
      </p>
    );
  return (
    <section aria-label="Sheets of the batch">
      <div className="row" style={{ marginBottom: 10, flexWrap: "wrap" }}>
        <b>
          {plural(
            sum((l) => l.sheets.length),
            "sheet",
          )}
          ,{" "}
          {money(
            sum((l) => l.sheet_cost),
            layouts[0]?.currency ?? "EUR",
          )}
        </b>
        <span className="soft grow">
          cutting {duration(sum((l) => l.sheets.reduce((a, s) => a + s.seconds, 0)))},{" "}
          {money(
            sum((l) => l.sheets.reduce((a, s) => a + s.cost, 0)),
            layouts[0]?.currency ?? "EUR",
          )}
        </span>
        {running ? (
          <Button onClick={() => onStop(running)}>Stop, keep the best</Button>
        ) : (
          <Button variant="filled" onClick={onSearch}>
            Search for better, 10 s a stock
          </Button>
        )}
      </div>
      <AtMachines found={found} />
      {isBusy(found) && (
        <Progress value={(found.run?.progress ?? 0) * 100} size="sm" animated color="leaf" aria-label="Nesting" />
      )}
      {found.run?.status === "failed" && <div className="problem">The last search failed: {found.run.error}</div>}
      {found.stocks.map((s) => (
        <BatchStock key={s.digest} batch={batch} stock={s} names={found.names} />
      ))}
    </section>
  );
}

function File({ href, name }: { href: string; name: string }) {
  return (
    <Button size="compact-xs" variant="subtle" component="a" leftSection={<IconDownload size={13} />} href={href}>
      {name}
    </Button>
  );
}

/** What of the batch is at machines, and what has been cut there. */
function AtMachines({ found }: { found: BatchState }) {
  if (!found.waiting && !found.cut) return null;
  return (
    <p className="good" role="status" style={{ marginTop: 0 }}>
      {found.waiting > 0 && (
        <>
          {plural(found.waiting, "piece")} {found.waiting === 1 ? "waits" : "wait"} <Link to="/machines">at the machine</Link>
          {found.cut > 0 ? ", " : "."}
        </>
      )}
      {found.cut > 0 && `${plural(found.cut, "piece")} ${found.cut === 1 ? "is" : "are"} cut.`}
    </p>
  );
}

/** The sheets of one stock, for all designs of the batch. */
function BatchStock({
  batch,
  stock: s,
  names,
}: {
  batch: BatchOut;
  stock: BatchState["stocks"][number];
  names: BatchState["names"];
}) {
  const layout = s.layout;
  const send = useSendTogether(batch.id);
  if (!layout) return null;
  return (
    <div className={s.current ? undefined : "estimate"} style={{ marginBottom: 22 }}>
      <h2 style={{ marginBottom: 6 }}>
        <span className="swatch" style={{ background: layout.tint }} />
        {layout.stock_name}{" "}
        <span className="soft" style={{ fontSize: 13.5, fontWeight: 400 }}>
          {plural(layout.sheets.length, "sheet")}, {percent(layout.share)} used, {money(layout.sheet_cost, layout.currency)}
        </span>
      </h2>
      {Object.entries(layout.unplaced).map(([key, n]) => (
        <div className="problem" key={key}>
          {names[key] ?? key}: {plural(n, "piece")} found no place: {layout.reasons[key]}.
        </div>
      ))}
      {layout.sheets.map((sheet, i) => (
        <div key={i} style={{ marginBottom: 12 }}>
          <SheetDrawing
            sheet={sheet}
            tint={layout.tint}
            lit={[]}
            hover=""
            names={(key) => (names[key] ?? key).split(": ").pop() ?? key}
            longest={Math.max(...layout.sheets.map((x) => x.length))}
            title={(key) => names[key] ?? key}
          />
          <div className="row soft facts">
            <span className="grow">
              {sheet.is_offcut ? "Offcut" : "Sheet"} {i + 1}:{" "}
              <span className="figure">{lengths([sheet.length, sheet.width], "mm")}</span>, {percent(sheet.share)} used
              {sheet.known && `, ${duration(sheet.seconds)}`}
            </span>
            {s.current && (
              <>
                <File href={`/api/batches/${batch.id}/files/sheets/${s.digest}/${i + 1}?to=dxf`} name="DXF" />
                <File href={`/api/batches/${batch.id}/files/programs/${s.digest}/${i + 1}`} name="Program" />
                <Send
                  key={s.digest}
                  number={i + 1}
                  of={layout.sheets.length}
                  kind=""
                  size="compact-xs"
                  onSend={(numbers, machine) => send(s.digest, numbers, machine)}
                />
              </>
            )}
          </div>
        </div>
      ))}
    </div>
  );
}
