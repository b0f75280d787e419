// A round bar: its diameter, the lengths that it is sold in, and what the saw takes.
import { Button } from "@mantine/core";
import { EntryField } from "../../fields/EntryField";
import { NumberField, TextField } from "../../fields/PlainField";
import { type BarStock, freshKey, nextOrder, ordered, pointer } from "../../lib/document";
import { fresh, useDesign } from "../../state/design";

type Props = { stockKey: string; stock: BarStock; used: boolean; kept: string; toShelf: () => void; onGone: () => void };

export function BarEditor({ stockKey, stock, used, kept, toShelf, onGone }: Props) {
  const doc = useDesign((s) => s.doc)!;
  const commit = useDesign((s) => s.commit);
  const p = (...k: string[]) => pointer("stocks", stockKey, ...k);
  return (
    <div style={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: "0 24px", marginTop: 14 }}>
      <div>
        <TextField
          label="Name"
          value={stock.name}
          onSave={(v) => v && void commit(`${stock.name}: name ${v}`, [{ op: "add", path: p("name"), value: v }])}
        />
        <TextField
          label="Material"
          value={stock.material}
          onSave={(v) => v && void commit(`${stock.name}: ${v}`, [{ op: "add", path: p("material"), value: v }])}
        />
        <EntryField path={p("nominal")} label="Diameter" edit={`${stock.name}, diameter`} />
        <EntryField
          path={p("measured")}
          label="Measured"
          optional
          placeholder="caliper reading"
          edit={`${stock.name}, measured`}
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
        <EntryField path={p("kerf")} label="Saw takes" edit={`${stock.name}, what the saw takes`} />
      </div>
      <div>
        {ordered(stock.lengths).map(([k, bar]) => (
          <div key={k} style={{ marginBottom: 8, borderBottom: "1px solid var(--rule)" }}>
            <EntryField path={p("lengths", k, "length")} label="Bar length" edit={`${stock.name}, bar length`} />
            <NumberField
              label="Price"
              value={bar.price}
              path={p("lengths", k, "price")}
              edit={`${stock.name}, price`}
              suffix={` ${doc.currency}`}
              step={0.5}
            />
            <NumberField
              label="In stock"
              value={bar.count ?? 0}
              path={p("lengths", k, "count")}
              edit={`${stock.name}, bars in stock`}
              suffix={bar.count ? " bars" : " = any number"}
              min={0}
              max={1000}
            />
            {Object.keys(stock.lengths).length > 1 && (
              <Button
                size="compact-xs"
                variant="subtle"
                onClick={() => void commit(`${stock.name}: remove a length`, [{ op: "remove", path: p("lengths", k) }])}
              >
                Remove this length
              </Button>
            )}
          </div>
        ))}
        <div className="row" style={{ flexWrap: "wrap" }}>
          <Button
            size="compact-xs"
            onClick={() =>
              void commit(`${stock.name}: another length`, [
                {
                  op: "add",
                  path: p("lengths", freshKey(stock.lengths, "length")),
                  value: { length: fresh("2 m"), price: 0, order: nextOrder(stock.lengths) },
                },
              ])
            }
          >
            Another length
          </Button>
          <Button size="compact-xs" onClick={toShelf}>
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
              void commit(`Remove ${stock.name}`, [{ op: "remove", path: p() }]);
            }}
          >
            Remove
          </Button>
        </div>
        {kept && <div className="soft">{kept}</div>}
      </div>
    </div>
  );
}
