// Sizes: the few that matter, under names; what it is cut from and with.
import { Button, Tabs } from "@mantine/core";
import { IconPlus } from "@tabler/icons-react";
import { lazy, Suspense } from "react";
import { EntryField } from "../../fields/EntryField";
import { freshKey, nextOrder, ordered, pointer } from "../../lib/document";
import { value } from "../../lib/figures";
import { id } from "../../lib/owner";
import { useDesign, useShown } from "../../state/design";
import { usesOf, usesSaid } from "../../state/uses";
import { useView } from "../../state/view";
import { BrakeTable } from "./BrakeTable";
import { CutterTable } from "./CutterTable";
import { RangeTest } from "./RangeTest";
import { StockTable } from "./StockTable";

// the picture's library comes when it is looked at
const Picture = lazy(() => import("../build/Picture").then((m) => ({ default: m.Picture })));

/** The table that was looked at last: coming back from another station one finds it again. */
const left = { tab: "sizes" };

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

  return (
    <Tabs
      defaultValue={left.tab}
      onChange={(tab) => {
        left.tab = tab ?? left.tab;
      }}
      color="ink"
      keepMounted={false}
      className="sizes"
    >
      <Tabs.List>
        <Tabs.Tab value="sizes">Sizes</Tabs.Tab>
        <Tabs.Tab value="stock">Stock</Tabs.Tab>
        <Tabs.Tab value="cutter">Cutter and fits</Tabs.Tab>
        <Tabs.Tab value="brake">Press brake</Tabs.Tab>
      </Tabs.List>
      <Tabs.Panel value="sizes" className="sizeshalves">
        <div className="scroll sizelist">
          <SizeList onAdd={add} />
        </div>
        <section className="sizespicture" aria-label="Picture">
          <Suspense fallback={<div className="empty">Setting up the picture…</div>}>
            <Picture />
          </Suspense>
        </section>
      </Tabs.Panel>
      {[
        { tab: "stock", Table: StockTable },
        { tab: "cutter", Table: CutterTable },
        { tab: "brake", Table: BrakeTable },
      ].map(({ tab, Table }) => (
        <Tabs.Panel key={tab} value={tab}>
          <div className="scroll">
            <div className="paper">
              <Table />
            </div>
          </div>
        </Tabs.Panel>
      ))}
    </Tabs>
  );
}

/** The sizes, one under the other: name and value, range, note, and what reads them. */
function SizeList({ onAdd }: { onAdd: () => void }) {
  const doc = useDesign((s) => s.doc);
  if (!doc) return null;
  const sizes = ordered(doc.sizes);
  return (
    <>
      <div className="row" style={{ marginBottom: 6 }}>
        <h2 className="grow">Sizes</h2>
        <Button leftSection={<IconPlus size={15} />} onClick={onAdd}>
          Size
        </Button>
      </div>
      {sizes.length === 0 ? (
        <p className="soft">Give the few measures that matter a name, and everything that reads them follows when one changes.</p>
      ) : (
        <>
          <ul className="sizerows" aria-label="Sizes">
            {sizes.map(([key, s]) => (
              <SizeRow key={key} sizeKey={key} name={s.name} kind={s.kind} note={s.note} />
            ))}
          </ul>
          <p className="soft" style={{ margin: "8px 0 0", fontSize: 12 }}>
            Type <span className="mono">430</span>, <span className="mono">3/4 in</span>, <span className="mono">2'6-1/2"</span>{" "}
            or <span className="mono">width/3 - 2*bee_gap</span>. Pull a name sideways, or its line in the picture, to try values;
            letting go keeps the last one.
          </p>
          <RangeTest />
        </>
      )}
    </>
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
  const uses = usesSaid(usesOf(doc, name));
  return (
    <li className={on ? "on" : undefined}>
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
      <div className="soft about">
        {(low || high) && <span className="figure">{`${low || "…"}–${high || "…"}`}</span>}
        <span>{note}</span>
      </div>
      <div className="soft about">{uses}</div>
    </li>
  );
}
