// Sizes: the few that matter, under names; what it is cut from and with.
import { Button, Tabs } from "@mantine/core";
import { IconPlus } from "@tabler/icons-react";
import { EntryField } from "../../fields/EntryField";
import { freshKey, nextOrder, ordered, pointer } from "../../lib/document";
import { value } from "../../lib/figures";
import { id } from "../../lib/owner";
import { useDesign, useShown } from "../../state/design";
import { useView } from "../../state/view";
import { BrakeTable } from "./BrakeTable";
import { CutterTable } from "./CutterTable";
import { StockTable } from "./StockTable";

export function Sizes() {
  const shown = useShown();
  const doc = useDesign((s) => s.doc);
  const commit = useDesign((s) => s.commit);
  const view = useView();
  if (!shown || !doc) return null;

  function add() {
    if (!doc) return;
    const taken = new Set([...Object.values(doc.sizes), ...Object.values(doc.parts)].map((r) => r.name));
    let name = "size_1";
    for (let n = 2; taken.has(name); n++) name = `size_${n}`;
    const key = freshKey(doc.sizes, name);
    void commit(`Add ${name}`, [
      {
        op: "add",
        path: pointer("sizes", key),
        value: { name, entry: { text: doc.unit === "mm" ? "100 mm" : "4 in", unit: doc.unit }, order: nextOrder(doc.sizes) },
      },
    ]).then((fine) => fine && view.select({ kind: "size", key }));
  }

  const sizes = ordered(doc.sizes);
  return (
    <div className="scroll">
      <div className="paper">
        <div className="row" style={{ marginBottom: 6 }}>
          <h2 className="grow">Sizes</h2>
          <Button leftSection={<IconPlus size={15} />} onClick={add}>
            Size
          </Button>
        </div>
        {sizes.length === 0 ? (
          <p className="soft">
            Give the few measures that matter a name, and everything that reads them follows when one changes.
          </p>
        ) : (
          <table className="plain" aria-label="Sizes">
            <thead>
              <tr>
                <th style={{ width: "24%" }}>Name</th>
                <th>Value</th>
                <th className="num" style={{ width: "15%" }}>
                  Range
                </th>
                <th style={{ width: "30%" }}>Note</th>
              </tr>
            </thead>
            <tbody>
              {sizes.map(([key, s]) => (
                <SizeRow key={key} sizeKey={key} name={s.name} kind={s.kind} note={s.note} />
              ))}
            </tbody>
          </table>
        )}
        {sizes.length > 0 && (
          <p className="soft" style={{ margin: "8px 0 0", fontSize: 12 }}>
            Type <span className="mono">430</span>, <span className="mono">3/4 in</span>, <span className="mono">2'6-1/2"</span>{" "}
            or <span className="mono">width/3 - 2*bee_gap</span>. Pull a name sideways to try values; letting go keeps the last
            one.
          </p>
        )}
      </div>
      <div className="paper">
        <Tabs defaultValue="stock" color="ink" keepMounted={false}>
          <Tabs.List>
            <Tabs.Tab value="stock">Stock</Tabs.Tab>
            <Tabs.Tab value="cutter">Cutter and fits</Tabs.Tab>
            <Tabs.Tab value="brake">Press brake</Tabs.Tab>
          </Tabs.List>
          <Tabs.Panel value="stock" pt={10}>
            <StockTable />
          </Tabs.Panel>
          <Tabs.Panel value="cutter" pt={10}>
            <CutterTable />
          </Tabs.Panel>
          <Tabs.Panel value="brake" pt={10}>
            <BrakeTable />
          </Tabs.Panel>
        </Tabs>
      </div>
    </div>
  );
}

function SizeRow({ sizeKey, name, kind, note }: { sizeKey: string; name: string; kind: string; note: string }) {
  const shown = useShown()!;
  const view = useView();
  const { doc, built } = shown;
  const on = view.selection?.kind === "size" && view.selection.key === sizeKey;
  const out = built.problems.find((p) => p.code === "size_range" && p.owner === id.size(sizeKey));
  const side = (which: "low" | "high") => {
    const v = built.values[pointer("sizes", sizeKey, which)];
    return v ? value(v, doc.display).replace(/ (mm|in)$/, "") : "";
  };
  const [low, high] = [side("low"), side("high")];
  return (
    <tr className={on ? "on" : undefined}>
      <td colSpan={2}>
        <div
          style={{ display: "grid", gridTemplateColumns: "1fr" }}
          onFocus={() => view.select({ kind: "size", key: sizeKey })}
          onClick={() => view.select({ kind: "size", key: sizeKey })}
          className="sizerow"
        >
          {doc.sizes[sizeKey]?.measured ? (
            <div className="entry">
              <span>{name.replaceAll("_", " ")}</span>
              <span className="figure">
                {built.values[pointer("sizes", sizeKey, "entry")]
                  ? value(built.values[pointer("sizes", sizeKey, "entry")], doc.display)
                  : "not known"}
                <span className="soft"> measured</span>
              </span>
            </div>
          ) : (
            <EntryField path={pointer("sizes", sizeKey, "entry")} label={name.replaceAll("_", " ")} kind={kind} edit={name} />
          )}
        </div>
        {out && (
          <div className={out.kept ? "soft" : "warn"} style={{ fontSize: 12 }}>
            {out.message}
          </div>
        )}
      </td>
      <td className="num figure soft">{low || high ? `${low || "…"}–${high || "…"}` : ""}</td>
      <td className="soft" style={{ fontSize: 12.5 }}>
        {note}
      </td>
    </tr>
  );
}
