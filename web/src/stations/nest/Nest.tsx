// Nest: the flats on their sheets, with kerf, share used and offcut; the rules they are laid out by; the search.
import { Button, Progress } from "@mantine/core";
import { IconLasso, IconMarquee2 } from "@tabler/icons-react";
import { useRef } from "react";
import { EntryField } from "../../fields/EntryField";
import { ChoiceField, NumberField } from "../../fields/PlainField";
import { inside, LoopTool, type Point } from "../../frame/Loop";
import { SheetDrawing } from "../../frame/SheetMini";
import { ordered, pointer } from "../../lib/document";
import { distance, duration, lengths, money, percent, plural } from "../../lib/figures";
import { useDesign, useShown } from "../../state/design";
import { litOf, standFor, words } from "../../state/shape";
import { useView } from "../../state/view";

export function Nest() {
  const shown = useShown();
  const nest = useDesign((s) => s.nest);
  const { askNest, stopNest, commit } = useDesign.getState();
  const view = useView();
  const sheets = useRef<HTMLDivElement>(null);
  if (!shown) return null;
  const { doc, built } = shown;
  if (!built.plans.length)
    return (
      <div className="empty">
        <h2>Nothing to lay out yet</h2>
        <div>Parts that are cut here are laid on sheets of their stock as soon as they are built.</div>
      </div>
    );
  const every = litOf(view.selection, built, doc);
  const lit = [...new Set([...every, ...every.map((k) => standFor(built.parts, k))])];
  const run = nest?.run;
  const running = run && (run.status === "queued" || run.status === "running");
  const name = (key: string) => words(built.parts.find((p) => p.key === key)?.path.split(".")[0] ?? key);
  /** The parts that lie wholly inside a loop over the sheets. */
  function loop(polygon: Point[]) {
    const frame = sheets.current?.getBoundingClientRect();
    if (!frame || !sheets.current) return;
    const found = new Set<string>();
    for (const laid of sheets.current.querySelectorAll<SVGGElement>("[data-laid]")) {
      const b = laid.getBoundingClientRect();
      const ends: Point[] = [
        [b.left, b.top],
        [b.right, b.top],
        [b.right, b.bottom],
        [b.left, b.bottom],
      ];
      if (ends.every(([x, y]) => inside([x - frame.left, y - frame.top], polygon))) found.add(laid.dataset.laid ?? "");
    }
    // a drawing stands for all parts that are cut from it
    view.selectMany(
      built.parts.filter((p) => found.has(standFor(built.parts, p.key))).map((p) => p.key),
      [],
    );
    view.setTool("");
  }

  return (
    <div className="scroll">
      <div
        className="paper"
        style={{ display: "grid", gridTemplateColumns: "repeat(3, minmax(0, 1fr)) auto", gap: "0 18px", alignItems: "end" }}
      >
        <EntryField path="/nest/gap" label="Gap" edit="Gap between parts" />
        <EntryField path="/nest/margin" label="Margin" edit="Margin of sheets" />
        <NumberField label="Search" value={doc.nest.seconds} path="/nest/seconds" edit="Search" suffix=" s" min={1} max={120} />
        <div style={{ marginBottom: 5 }}>
          {running ? (
            <Button onClick={() => void stopNest()}>Stop, keep the best</Button>
          ) : (
            <Button variant="filled" onClick={() => void askNest(false, doc.nest.seconds)}>
              Search for better
            </Button>
          )}
        </div>
        {running && (
          <div style={{ gridColumn: "1 / -1" }}>
            <Progress value={run.progress * 100} size="sm" animated color="leaf" aria-label="Nesting" />
            <div className="soft" style={{ fontSize: 12 }}>
              {run.status === "queued"
                ? "Waiting for the worker…"
                : `Laying out${run.best ? `: best so far ${plural(Number(run.best.sheets), "sheet")}, ${percent(Number(run.best.share))}` : "…"}`}
            </div>
          </div>
        )}
        {run?.status === "failed" && (
          <div className="error" style={{ gridColumn: "1 / -1" }}>
            The last search failed: {run.error}
          </div>
        )}
      </div>
      <div className="row" style={{ justifyContent: "flex-end", marginBottom: 4 }}>
        <Button
          size="compact-sm"
          leftSection={<IconLasso size={15} />}
          aria-pressed={view.tool === "loop"}
          onClick={() => view.setTool("loop")}
        >
          Select by a loop
        </Button>
        <Button
          size="compact-sm"
          leftSection={<IconMarquee2 size={15} />}
          aria-pressed={view.tool === "box"}
          onClick={() => view.setTool("box")}
        >
          By a box
        </Button>
      </div>
      <div ref={sheets} style={{ position: "relative" }}>
        {(view.tool === "loop" || view.tool === "box") && <LoopTool shape={view.tool} onDone={loop} />}
        {built.plans.map((plan) => {
          const stock = doc.stocks[plan.stock];
          const layout = nest?.stocks.find((s) => s.stock === plan.stock)?.layout;
          const old = layout && layout.digest !== plan.digest;
          const missing = layout ? Object.entries(layout.unplaced) : [];
          return (
            <section key={plan.stock} style={{ marginBottom: 26 }} aria-label={stock?.name}>
              <div className="row" style={{ marginBottom: 6, flexWrap: "wrap" }}>
                <h2>
                  <span className="swatch" style={{ background: stock?.tint }} />
                  {stock?.name}
                </h2>
                <span className="soft grow">
                  {plural(plan.copies, "piece")}
                  {layout &&
                    `, ${plural(layout.sheets.length, "sheet")}, ${percent(layout.share)} used, ${money(layout.sheet_cost, doc.currency)}`}
                  {old && " · the last layout; the new one is on its way"}
                </span>
                <div style={{ width: 250, marginBottom: -5 }}>
                  <ChoiceField
                    label="Turns allowed"
                    value={stock.turn}
                    data={[
                      { value: "none", label: "none" },
                      { value: "180", label: "by 180°" },
                      { value: "90", label: stock.grain === "along" ? "by 90°, grain: 180°" : "by 90°" },
                      { value: "free", label: stock.grain === "along" ? "free, grain: 180°" : "free, by 15°" },
                    ]}
                    onSave={(v) =>
                      void commit(`${stock.name}: turns ${v}`, [
                        { op: "replace", path: pointer("stocks", plan.stock, "turn"), value: v },
                      ])
                    }
                  />
                </div>
              </div>
              {!ordered(stock.sheets).length && (
                <div className="problem">This stock has no sheet size. Give it one in Sizes.</div>
              )}
              {missing.map(([key, n]) => (
                <div className="problem" key={key}>
                  {name(key)}: {plural(n, "piece")} found no place on any sheet.
                </div>
              ))}
              {!layout && stock && ordered(stock.sheets).length > 0 && <div className="soft">Being laid out…</div>}
              {layout?.sheets.map((sheet, i) => (
                <div key={i} className={old ? "estimate" : undefined} style={{ marginBottom: 14 }}>
                  <SheetDrawing
                    sheet={sheet}
                    tint={stock?.tint ?? "#ccc"}
                    lit={lit}
                    hover={view.hover}
                    onPoint={view.point}
                    onPick={(key) => view.select({ kind: "part", key })}
                    names={name}
                    kerf={layout.kerf}
                  />
                  <div className="row soft" style={{ justifyContent: "space-between", fontSize: 12.5 }}>
                    <span>
                      Sheet {i + 1}: <span className="figure">{lengths([sheet.length, sheet.width], doc.display)}</span>
                      {sheet.roll && " of the roll"}, {percent(sheet.share)} used
                      {sheet.offcut && (
                        <>
                          ,{" "}
                          <span className="good">
                            offcut <span className="figure">{lengths([sheet.offcut[2], sheet.offcut[3]], doc.display)}</span>
                          </span>
                        </>
                      )}
                    </span>
                    <span>
                      <span className="figure">{distance(sheet.cut_length, doc.display)}</span> of cut,{" "}
                      {plural(sheet.pierces, "pierce")}
                      {sheet.known && `, ${duration(sheet.seconds)}, ${money(sheet.cost, doc.currency)}`}
                    </span>
                  </div>
                </div>
              ))}
            </section>
          );
        })}
      </div>
    </div>
  );
}
