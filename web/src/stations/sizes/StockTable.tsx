// The stocks of this design: nominal and measured thickness, sheets, grain, density. Taken from the workshop's shelf, or new.
import { Button, FileButton, Menu, Select, Tooltip } from "@mantine/core";
import { useState } from "react";
import type { StockForm } from "../../api/types";
import { DrawOnFace } from "../../cards/DrawOnFace";
import { addStock } from "../../cards/edits";
import { RecordForm } from "../../cards/RecordForm";
import { StockCount, useIsOnShelf } from "../../fields/StockCount";
import { freshKey, isPlaced, nextOrder, ordered, pointer, type Stock } from "../../lib/document";
import { length, money } from "../../lib/figures";
import { withEntries } from "../../lib/forms";
import { id } from "../../lib/owner";
import { fresh, useDesign, useShown } from "../../state/design";
import { formOf, useForms } from "../../state/forms";
import { operate } from "../../state/operations";
import { useShelf } from "../../state/shelf";
import { BendingSection } from "./BendingSection";
import { KeepOnShelf } from "./KeepOnShelf";
import { TestPieces } from "./TestPieces";

export function StockTable() {
  const shown = useShown()!;
  const doc = useDesign((s) => s.doc)!;
  const [open, setOpen] = useState<string | null>(null);
  const stocks = ordered(doc.stocks);

  return (
    <>
      <table className="plain" aria-label="Stock">
        <thead>
          <tr>
            <th>Stock</th>
            <th className="num">Nominal</th>
            <th className="num">Measured</th>
            <th>Sold as</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {stocks.map(([key, s]) => {
            const [n, m] = [shown.built.values[`/stocks/${key}/nominal`], shown.built.values[`/stocks/${key}/measured`]];
            return (
              <tr key={key} className={open === key ? "on" : undefined}>
                <td>
                  <span className="swatch" style={{ background: s.tint }} />
                  {s.name}
                </td>
                {s.kind === "bar" && s.shape === "drawn" ? (
                  <td className="num soft" colSpan={2}>
                    as it is drawn
                  </td>
                ) : (
                  <>
                    <td className="num figure">{n ? length(n.value, doc.display) : s.nominal.text}</td>
                    <td className="num figure">{m ? length(m.value, doc.display) : <span className="soft">not yet</span>}</td>
                  </>
                )}
                <td className="figure soft">
                  {s.kind === "bar" &&
                    ordered(s.lengths).map(([k, bar]) => (
                      <span key={k} style={{ marginRight: 10 }}>
                        bar {bar.length.text}, {money(bar.price, doc.currency)}
                      </span>
                    ))}
                  {ordered(s.kind === "bar" ? {} : s.sheets).map(([k, z]) => (
                    <span key={k} style={{ marginRight: 10 }}>
                      {z.roll ? `roll ${z.width.text}` : `${z.length.text} × ${z.width.text}`}, {money(z.price, doc.currency)}
                      {z.roll ? "/m" : ""}
                    </span>
                  ))}
                </td>
                <td className="num">
                  <Button size="compact-xs" onClick={() => setOpen(open === key ? null : key)}>
                    {open === key ? "Close" : "Change"}
                  </Button>
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <NewStocks onMade={setOpen} />
      {open && doc.stocks[open] && (
        <StockEditor key={open} stockKey={open} stock={doc.stocks[open]} onGone={() => setOpen(null)} />
      )}
      <TestPieces kinds={["bend"]} />
    </>
  );
}

/** Ways to more stocks: from the shelf, new, of a common size, from a list. */
function NewStocks({ onMade }: { onMade: (key: string) => void }) {
  const doc = useDesign((s) => s.doc)!;
  const shelf = useShelf();
  const forms = useForms();
  const offered = Object.entries(shelf.data?.stocks ?? {}).filter(([k]) => !(k in doc.stocks));
  async function take(key: string) {
    if (!shelf.data) return;
    const refused = await operate({ operation: "take_stock", key, shelf: shelf.data });
    if (refused) useDesign.setState({ fault: refused });
    else onMade(key);
  }

  async function read(file: File) {
    const refused = await operate({ operation: "add_bars", text: await file.text() });
    if (refused) useDesign.setState({ fault: refused });
  }

  return (
    <div className="row" style={{ marginTop: 8, flexWrap: "wrap" }}>
      <Menu position="bottom-start">
        <Menu.Target>
          <Button disabled={!offered.length}>From the workshop's shelf</Button>
        </Menu.Target>
        <Menu.Dropdown>
          {offered.map(([k, s]) => (
            <Menu.Item key={k} onClick={() => void take(k)}>
              {String(s.name)}
            </Menu.Item>
          ))}
        </Menu.Dropdown>
      </Menu>
      {forms.stocks.map((f) => (
        <Button key={f.kind} onClick={() => void addStock(f).then((made) => made && onMade(made))}>
          New {f.title.toLowerCase()} stock
        </Button>
      ))}
      <CommonBars onMade={onMade} />
      <FileButton accept=".csv,.txt,text/csv" onChange={(file) => file && void read(file)}>
        {(props) => (
          <Tooltip label="Columns: name, section, across, width, wall, corner, material, density, kg per m, length, price">
            <Button {...props}>Bars from a list, CSV</Button>
          </Tooltip>
        )}
      </FileButton>
    </div>
  );
}

/** Common sizes of tube and bar, to begin a stock with. */
function CommonBars({ onMade }: { onMade: (key: string) => void }) {
  const bar = formOf(useForms().stocks, "bar");
  if (!bar) return null;
  return (
    <Select
      aria-label="A common tube or bar"
      placeholder="a common tube or bar…"
      searchable
      selectFirstOptionOnChange
      value={null}
      style={{ width: 230 }}
      comboboxProps={{ width: 330, position: "top-start" }}
      data={bar.common.map((c) => ({ value: c.name, label: c.name }))}
      renderOption={({ option }) => (
        <span>
          {option.label} <span style={{ opacity: 0.75 }}>{bar.common.find((c) => c.name === option.value)?.source}</span>
        </span>
      )}
      onOptionSubmit={(name) => {
        const found = bar.common.find((c) => c.name === name);
        if (found) void addStock({ ...bar, start: found.start }).then((made) => made && onMade(made));
      }}
    />
  );
}

function StockEditor({ stockKey, stock, onGone }: { stockKey: string; stock: Stock; onGone: () => void }) {
  const form = formOf(useForms().stocks, stock.kind ?? "sheet");
  const path = ["stocks", stockKey];
  if (!form) return null;
  return (
    <div style={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: "0 24px", marginTop: 14 }}>
      <div>
        <RecordForm form={form} path={path} record={{ ...stock }} title={stock.name} />
        {stock.kind === "bar" && (
          <DrawOnFace part={id.stock(stockKey)}>
            {stock.shape === "drawn" ? "Draw its section…" : "Draw its section freely…"}
          </DrawOnFace>
        )}
      </div>
      <div>
        <SoldAs stockKey={stockKey} stock={stock} form={form} />
        <UnderStock stockKey={stockKey} stock={stock} form={form} onGone={onGone} />
      </div>
      {stock.kind !== "bar" && stock.bends && <BendingSection stockKey={stockKey} stock={stock} />}
    </div>
  );
}

const GRAIN = ["grain"];

type Part = { stockKey: string; stock: Stock; form: StockForm };

/** The sizes that a stock is sold in, each with its price, and how many there are on the shelf. */
function SoldAs({ stockKey, stock, form }: Part) {
  const commit = useDesign((s) => s.commit);
  const sizes = sizesOf(stock);
  const base = ["stocks", stockKey, form.sold];
  const onShelf = useIsOnShelf();
  return ordered(sizes).map(([k, size]) => (
    <div key={k} style={{ marginBottom: 8, borderBottom: "1px solid var(--rule)" }}>
      <div className="soft" style={{ fontSize: 12 }}>
        {size.roll ? "Roll" : form.size.title}
      </div>
      <RecordForm
        form={form.size}
        path={[...base, k]}
        record={size}
        title={stock.name}
        skip={stock.kind === "bar" || stock.grain === "none" ? GRAIN : undefined}
      />
      {!size.roll &&
        (onShelf(stockKey, k) ? (
          <StockCount stock={stockKey} size={k} unit={stock.kind === "bar" ? "bars" : "sheets"} />
        ) : (
          <p className="soft" style={{ margin: "4px 0" }}>
            Kept on the shelf, it can be counted there.
          </p>
        ))}
      {Object.keys(sizes).length > 1 && (
        <Button
          size="compact-xs"
          variant="subtle"
          onClick={() => void commit(`${stock.name}: remove a size`, [{ op: "remove", path: pointer(...base, k) }])}
        >
          Remove this size
        </Button>
      )}
    </div>
  ));
}

/** What can be done with a stock: more sizes, onto the shelf, away. */
function UnderStock({ stockKey, stock, form, onGone }: Part & { onGone: () => void }) {
  const doc = useDesign((s) => s.doc)!;
  const commit = useDesign((s) => s.commit);
  const sizes = sizesOf(stock);
  const used = Object.values(doc.parts).some((x) => isPlaced(x) && x.stock === stockKey);

  async function remove() {
    const refused = await operate({ operation: "remove_stock", key: stockKey });
    if (refused) useDesign.setState({ fault: refused });
    else onGone();
  }

  return (
    <div className="row" style={{ flexWrap: "wrap" }}>
      {form.sizes.map((size) => (
        <Button
          key={size.words}
          size="compact-xs"
          onClick={() =>
            void commit(`${stock.name}: ${size.words.toLowerCase()}`, [
              {
                op: "add",
                path: pointer("stocks", stockKey, form.sold, freshKey(sizes, "size")),
                value: { ...(withEntries(size.start, fresh) as object), order: nextOrder(sizes) },
              },
            ])
          }
        >
          {size.words}
        </Button>
      ))}
      <KeepOnShelf group="stocks" of={stockKey} record={stock} />
      <Button
        size="compact-xs"
        color="vermilion"
        variant="subtle"
        disabled={used}
        title={used ? "Parts are cut from it" : undefined}
        onClick={() => void remove()}
      >
        Remove
      </Button>
    </div>
  );
}

/** What a stock is sold in, whichever kind it is. */
function sizesOf(stock: Stock): Record<string, { order: number; roll?: boolean; [field: string]: unknown }> {
  return stock.kind === "bar" ? stock.lengths : stock.sheets;
}
