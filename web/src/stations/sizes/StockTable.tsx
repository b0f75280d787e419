// The stocks of this design: nominal and measured thickness, sheets, grain, density. Taken from the workshop's shelf, or new.
import { Button, Menu } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, got } from "../../api/client";
import { addBar } from "../../cards/edits";
import { EntryField } from "../../fields/EntryField";
import { ChoiceField, NumberField, TextField } from "../../fields/PlainField";
import { freshKey, isPlaced, nextOrder, ordered, pointer, type Stock } from "../../lib/document";
import { length, money } from "../../lib/figures";
import { fresh, useDesign, useShown } from "../../state/design";
import { BarEditor } from "./BarEditor";
import { BendingSection } from "./BendingSection";
import { TestPieces } from "./TestPieces";

export function StockTable() {
  const shown = useShown()!;
  const doc = useDesign((s) => s.doc)!;
  const commit = useDesign((s) => s.commit);
  const shelf = useQuery({ queryKey: ["workshop"], queryFn: () => got(api.GET("/api/workshop")) });
  const [open, setOpen] = useState<string | null>(null);
  const stocks = ordered(doc.stocks);
  const offered = Object.entries(shelf.data?.stocks ?? {}).filter(([k]) => !(k in doc.stocks));

  function take(key: string, stock: Stock) {
    const patch: { [k: string]: unknown }[] = [
      { op: "add", path: pointer("stocks", key), value: { ...stock, order: nextOrder(doc.stocks) } },
    ];
    const fit = shelf.data?.fits[key];
    if (fit && !(key in doc.fits) && doc.cutters[String(fit.cutter)])
      patch.push({ op: "add", path: pointer("fits", key), value: fit });
    for (const [cutter, record] of Object.entries(doc.cutters)) {
      const work = (shelf.data?.cutters[cutter]?.work as Record<string, unknown> | undefined)?.[key];
      if (work && !record.work[key]) patch.push({ op: "add", path: pointer("cutters", cutter, "work", key), value: work });
    }
    const [brakeKey, brake] = Object.entries(shelf.data?.brakes ?? {})[0] ?? [];
    // a sheet that is bent wants a brake to bend it on
    if (stock.kind !== "bar" && stock.bending && brakeKey && !Object.keys(doc.brakes ?? {}).length)
      patch.push({ op: "add", path: pointer("brakes", brakeKey), value: brake }, { op: "add", path: "/brake", value: brakeKey });
    void commit(`Stock: ${stock.name}`, patch).then((fine) => fine && setOpen(key));
  }

  function newStock() {
    const key = freshKey(doc.stocks, "stock");
    const value = {
      name: "New sheet",
      nominal: fresh("10 mm"),
      sheets: { one: { length: fresh("1220 mm"), width: fresh("610 mm"), price: 0 } },
      order: nextOrder(doc.stocks),
    };
    void commit("Add a stock", [{ op: "add", path: pointer("stocks", key), value }]).then((fine) => fine && setOpen(key));
  }

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
                <td className="num figure">{n ? length(n.value, doc.display) : s.nominal.text}</td>
                <td className="num figure">{m ? length(m.value, doc.display) : <span className="soft">not yet</span>}</td>
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
      <div className="row" style={{ marginTop: 8 }}>
        <Menu position="bottom-start">
          <Menu.Target>
            <Button disabled={!offered.length}>From the workshop's shelf</Button>
          </Menu.Target>
          <Menu.Dropdown>
            {offered.map(([k, s]) => (
              <Menu.Item key={k} onClick={() => take(k, s as unknown as Stock)}>
                {String(s.name)}
              </Menu.Item>
            ))}
          </Menu.Dropdown>
        </Menu>
        <Button onClick={newStock}>New sheet stock</Button>
        <Button onClick={() => void addBar().then((bar) => bar && setOpen(bar))}>New round bar</Button>
      </div>
      {open && doc.stocks[open] && (
        <StockEditor key={open} stockKey={open} stock={doc.stocks[open]} onGone={() => setOpen(null)} />
      )}
      <TestPieces kinds={["bend"]} />
    </>
  );
}

function StockEditor({ stockKey, stock, onGone }: { stockKey: string; stock: Stock; onGone: () => void }) {
  const doc = useDesign((s) => s.doc)!;
  const commit = useDesign((s) => s.commit);
  const [kept, setKept] = useState("");
  const p = (...k: string[]) => pointer("stocks", stockKey, ...k);
  const set = (field: string) => (value: unknown) =>
    void commit(`${stock.name}: ${field} ${value}`, [{ op: "add", path: p(field), value }]);
  const used = Object.values(doc.parts).some((x) => isPlaced(x) && x.stock === stockKey);

  async function toShelf() {
    try {
      await got(
        api.PUT("/api/workshop/{group}/{key}", {
          params: { path: { group: "stocks", key: stockKey } },
          body: stock as unknown as Record<string, unknown>,
        }),
      );
      setKept("Kept on the shelf.");
    } catch (error) {
      setKept(error instanceof Error ? error.message : String(error));
    }
  }

  if (stock.kind === "bar")
    return <BarEditor stockKey={stockKey} stock={stock} used={used} kept={kept} toShelf={() => void toShelf()} onGone={onGone} />;
  return (
    <div style={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: "0 24px", marginTop: 14 }}>
      <div>
        <TextField label="Name" value={stock.name} onSave={(v) => v && set("name")(v)} />
        <EntryField path={p("nominal")} label="Nominal" edit={`${stock.name}, nominal`} />
        <EntryField
          path={p("measured")}
          label="Measured"
          optional
          placeholder="caliper reading"
          edit={`${stock.name}, measured`}
        />
        <ChoiceField
          label="Gauges"
          value={stock.gauge ?? ""}
          data={[
            { value: "", label: "none" },
            { value: "steel", label: "sheet steel" },
            { value: "galvanised", label: "galvanised sheet" },
            { value: "stainless", label: "stainless sheet" },
            { value: "nonferrous", label: "non-ferrous" },
          ]}
          onSave={(v) =>
            void commit(
              `${stock.name}: gauges`,
              v ? [{ op: "add", path: p("gauge"), value: v }] : [{ op: "remove", path: p("gauge") }],
            )
          }
        />
        <ChoiceField
          label="Kind"
          value={stock.hatch}
          data={[
            { value: "ply", label: "plywood, wood" },
            { value: "metal", label: "sheet metal" },
            { value: "plastic", label: "plastic" },
            { value: "board", label: "felt, card, board" },
          ]}
          onSave={(v) =>
            void commit(`${stock.name}: ${v}`, [
              { op: "add", path: p("hatch"), value: v },
              { op: "add", path: p("bends"), value: v === "metal" },
            ])
          }
        />
        <ChoiceField
          label="Grain"
          value={stock.grain}
          data={[
            { value: "none", label: "none" },
            { value: "along", label: "along the sheet's length" },
          ]}
          onSave={set("grain")}
        />
        <ChoiceField
          label="Faces"
          value={stock.faces ?? "differ"}
          data={[
            { value: "differ", label: "one is the better" },
            { value: "alike", label: "alike: parts may be turned over" },
          ]}
          onSave={set("faces")}
        />
        <NumberField
          label="Density"
          value={stock.density}
          path={p("density")}
          edit={`${stock.name}, density`}
          suffix=" g/cm³"
          min={0.01}
          max={25}
          step={0.01}
        />
      </div>
      <div>
        {ordered(stock.sheets).map(([k, z]) => (
          <div key={k} style={{ marginBottom: 8, borderBottom: "1px solid var(--rule)" }}>
            <div className="soft" style={{ fontSize: 12 }}>
              {z.roll ? "Roll" : "Sheet"}
            </div>
            {!z.roll && <EntryField path={p("sheets", k, "length")} label="Sheet length" edit={`${stock.name}, sheet length`} />}
            <EntryField
              path={p("sheets", k, "width")}
              label={z.roll ? "Roll width" : "Sheet width"}
              edit={`${stock.name}, sheet width`}
            />
            <NumberField
              label={z.roll ? "Price a metre" : "Price"}
              value={z.price}
              path={p("sheets", k, "price")}
              edit={`${stock.name}, price`}
              suffix={` ${doc.currency}`}
              step={0.5}
            />
            {!z.roll && (
              <NumberField
                label="In stock"
                value={z.count ?? 0}
                path={p("sheets", k, "count")}
                edit={`${stock.name}, sheets in stock`}
                suffix={z.count ? " sheets" : " = any number"}
                min={0}
                max={200}
              />
            )}
            {!z.roll && stock.grain === "along" && (
              <ChoiceField
                label="Its grain"
                value={z.grain ?? "along"}
                data={[
                  { value: "along", label: "along its length" },
                  { value: "across", label: "across its length" },
                ]}
                onSave={(v) =>
                  void commit(`${stock.name}: grain of a sheet ${v}`, [{ op: "add", path: p("sheets", k, "grain"), value: v }])
                }
              />
            )}
            {Object.keys(stock.sheets).length > 1 && (
              <Button
                size="compact-xs"
                variant="subtle"
                onClick={() => void commit(`${stock.name}: remove a sheet size`, [{ op: "remove", path: p("sheets", k) }])}
              >
                Remove this size
              </Button>
            )}
          </div>
        ))}
        <div className="row" style={{ flexWrap: "wrap" }}>
          <Button
            size="compact-xs"
            onClick={() =>
              void commit(`${stock.name}: another sheet size`, [
                {
                  op: "add",
                  path: p("sheets", freshKey(stock.sheets, "size")),
                  value: {
                    length: fresh("1220 mm"),
                    width: fresh("610 mm"),
                    price: 0,
                    order: nextOrder(stock.sheets),
                  },
                },
              ])
            }
          >
            Another sheet size
          </Button>
          <Button
            size="compact-xs"
            onClick={() =>
              void commit(`${stock.name}: a roll`, [
                {
                  op: "add",
                  path: p("sheets", freshKey(stock.sheets, "roll")),
                  value: {
                    length: fresh("20 m"),
                    width: fresh("600 mm"),
                    price: 0,
                    roll: true,
                    order: nextOrder(stock.sheets),
                  },
                },
              ])
            }
          >
            A roll
          </Button>
          <Button size="compact-xs" onClick={() => void toShelf()}>
            Keep on the shelf
          </Button>
          <Button
            size="compact-xs"
            color="vermilion"
            variant="subtle"
            disabled={used}
            title={used ? "Parts are cut from it" : undefined}
            onClick={() => {
              onGone();
              const fits = Object.entries(doc.fits)
                .filter(([, f]) => f.stock === stockKey)
                .map(([k]) => ({ op: "remove", path: pointer("fits", k) }));
              void commit(`Remove ${stock.name}`, [...fits, { op: "remove", path: p() }]);
            }}
          >
            Remove
          </Button>
        </div>
        {kept && <div className="soft">{kept}</div>}
      </div>
      {stock.bends && <BendingSection stockKey={stockKey} stock={stock} />}
    </div>
  );
}
