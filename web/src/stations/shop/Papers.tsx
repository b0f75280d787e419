// Papers: the design's drawings, turned like pages; what is changed on one stays with the design.
import { type ReactNode, useEffect, useState } from "react";
import { operate } from "../../state/operations";
import { usePaper, usePaperSet, usePapers } from "../../state/papers";
import { ChosenOnPaper } from "./ChosenOnPaper";
import { PaperBar } from "./PaperBar";
import { PaperSheet } from "./PaperSheet";

const ZOOMS = [1, 1.5, 2, 3, 4];
/** How far an arrow key moves what is chosen, mm. */
const STEP = 1;

export function Papers({ base, kind }: { base: string; kind: ReactNode }) {
  const { set, now, fault: none } = usePaperSet();
  const { subject, page, turnTo } = usePapers();
  const { pages, busy, fault } = usePaper(set?.sheets.some((s) => s.id === subject) ? subject : "");
  const [zoom, setZoom] = useState(0);
  const [said, setSaid] = useState("");
  const paper = pages[Math.min(page, pages.length - 1)];

  // a sheet whose part is gone gives way to the first
  useEffect(() => {
    if (now && set?.sheets.length && !set.sheets.some((s) => s.id === subject)) turnTo(set.sheets[0].id);
  }, [set, now, subject, turnTo]);

  useEffect(() => {
    const press = (e: KeyboardEvent) => {
      const { chosen, tool, take, choose } = usePapers.getState();
      if ((e.target as HTMLElement).closest("input, textarea, [role=dialog], [role=listbox]")) return;
      // what lies open over the paper closes first
      if (e.key === "Escape" && document.querySelector(".mantine-Popover-dropdown")) return;
      if (e.key === "Escape" && (tool || chosen)) {
        take("");
        choose("");
        return;
      }
      const way = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[e.key];
      if (!way || !chosen || !paper) return;
      e.preventDefault();
      e.stopPropagation();
      const step = e.shiftKey ? 5 * STEP : STEP;
      void operate({
        operation: "move_on_paper",
        subject: paper.subject,
        name: chosen,
        x: way[0] * step,
        y: way[1] * step,
      }).then(setSaid);
    };
    window.addEventListener("keydown", press, true);
    return () => window.removeEventListener("keydown", press, true);
  }, [paper]);

  if (none)
    return (
      <div className="empty" role="alert">
        {none}
      </div>
    );
  if (!set) return <div className="empty">Laying out the papers…</div>;
  if (!set.sheets.length)
    return (
      <div className="empty">
        <h2>No papers yet</h2>
        <div>As soon as there is a part, its drawing lies here.</div>
      </div>
    );
  return (
    <div className="papers" aria-busy={busy}>
      <PaperBar
        kind={kind}
        set={set}
        pages={pages}
        base={base}
        zoom={zoom}
        zooms={ZOOMS.length}
        onZoom={setZoom}
        onFault={setSaid}
      />
      {said && (
        <div className="problem" role="alert">
          {said}
        </div>
      )}
      {paper && <ChosenOnPaper paper={paper} onFault={setSaid} />}
      {paper?.faults.map((f) => (
        <div key={f} className="warn" role="status">
          {f}
        </div>
      ))}
      <div className="papertable">
        {fault && (
          <div className="problem" role="alert">
            {fault}
          </div>
        )}
        {paper && <PaperSheet paper={paper} pens={set.pens} zoom={ZOOMS[zoom]} onFault={setSaid} />}
        {!paper && !fault && <div className="empty">Drawing it…</div>}
      </div>
    </div>
  );
}
