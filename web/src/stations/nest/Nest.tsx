// Nest: the flats on their sheets, with kerf, share used and offcut; the rules they are laid out by; the search.
import { Button, Progress } from "@mantine/core";
import { IconLasso, IconMarquee2 } from "@tabler/icons-react";
import { useRef } from "react";
import { EntryField } from "../../fields/EntryField";
import { NumberField } from "../../fields/PlainField";
import { BarTable } from "../../frame/BarTable";
import { inside, LoopTool, type Point } from "../../frame/Loop";
import { percent, plural } from "../../lib/figures";
import { useDesign, useShown } from "../../state/design";
import { lightOf, standFor, words } from "../../state/shape";
import { useView } from "../../state/view";
import { EdgeMargins } from "./EdgeMargins";
import { StockSheets } from "./StockSheets";
import { YieldChart } from "./YieldChart";

export function Nest() {
  const shown = useShown();
  const nest = useDesign((s) => s.nest);
  const id = useDesign((s) => s.id);
  const { askNest, stopNest } = useDesign.getState();
  const view = useView();
  const sheets = useRef<HTMLDivElement>(null);
  if (!shown) return null;
  const { doc, built } = shown;
  const bars = built.bars.length > 0 && <BarTable base={`/api/designs/${id}/files`} />;
  if (!built.plans.length && bars) return <div className="scroll">{bars}</div>;
  if (!built.plans.length)
    return (
      <div className="empty">
        <h2>Nothing to lay out yet</h2>
        <div>Parts that are cut here are laid on sheets of their stock as soon as they are built.</div>
      </div>
    );
  const every = lightOf(view.selection, built, doc);
  const lit = [...new Set([...every, ...every.map((k) => standFor(built.parts, k))])];
  const run = nest?.run;
  const running = run && (run.status === "queued" || run.status === "running");
  const cutter = doc.cutters[doc.cutter];
  const common = cutter?.kind === "laser" && cutter.common ? cutter : null;
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
        {common && (
          <div className="soft" style={{ gridColumn: "1 / -1", order: 1, fontSize: 12 }}>
            {`${common.name} cuts common lines: parts lie a kerf apart, whatever the gap.`}
          </div>
        )}
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
        <EdgeMargins doc={doc} />
        {run && !run.quick && run.trace.length > 0 && (
          <div style={{ gridColumn: "1 / -1", marginTop: 6 }}>
            <YieldChart run={run} doc={doc} />
          </div>
        )}
        {run?.status === "failed" && (
          <div className="error" style={{ gridColumn: "1 / -1" }}>
            The last search failed: {run.error}
          </div>
        )}
      </div>
      <SelectTools />
      <div ref={sheets} style={{ position: "relative" }}>
        {(view.tool === "loop" || view.tool === "box") && <LoopTool shape={view.tool} onDone={loop} />}
        {built.plans.map((plan) => (
          <StockSheets
            key={plan.stock}
            plan={plan}
            state={nest?.stocks.find((s) => s.stock === plan.stock)}
            doc={doc}
            lit={lit}
            running={!!running}
            name={name}
          />
        ))}
      </div>
      {bars}
    </div>
  );
}

/** Ways to select many parts on the sheets. */
function SelectTools() {
  const view = useView();
  return (
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
  );
}
