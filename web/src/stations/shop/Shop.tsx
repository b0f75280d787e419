// Shop: what the shop floor needs. Downloads, the cut list, and the problems that go with them.
import { SegmentedControl } from "@mantine/core";
import { useState } from "react";
import { ProblemList } from "../../cards/Problem";
import { BarTable } from "../../frame/BarTable";
import { useDesign, useShown } from "../../state/design";
import { usePapers } from "../../state/papers";
import { useDryRun } from "../../state/program";
import { BuyTable } from "./BuyTable";
import { CutFiles, type Kerf, Solids } from "./CutFiles";
import { CutTable } from "./CutTable";
import { DrillingTable } from "./DrillingTable";
import { Elsewhere } from "./Elsewhere";
import { Papers } from "./Papers";
import { ToTheCutter } from "./program/ToTheCutter";

export function Shop() {
  const shown = useShown();
  const id = useDesign((s) => s.id);
  const [kerf, setKerf] = useState<Kerf>("compensated");
  const { open: onPaper, show } = usePapers();
  const { open: atCutter, show: showCutter } = useDryRun();
  if (!shown) return null;
  const { built } = shown;
  const base = `/api/designs/${id}/files`;
  const open = built.problems.filter((p) => !p.kept);
  const kept = built.problems.filter((p) => p.kept);
  if (!built.parts.length)
    return (
      <div className="empty">
        <h2>Nothing to make yet</h2>
        <div>Cut files and the cut list show here as soon as there are parts.</div>
      </div>
    );
  const kind = (
    <SegmentedControl
      value={atCutter ? "cutter" : onPaper ? "papers" : "lists"}
      onChange={(v) => {
        show(v === "papers");
        showCutter(v === "cutter");
      }}
      aria-label="What Shop shows"
      data={[
        { value: "lists", label: "Files and lists" },
        { value: "papers", label: "Papers" },
        { value: "cutter", label: "To the cutter" },
      ]}
    />
  );
  if (atCutter)
    return (
      <div className="paperroom">
        <ToTheCutter base={base} kind={kind} />
      </div>
    );
  if (onPaper)
    return (
      <div className="paperroom">
        <Papers base={base} kind={kind} />
      </div>
    );
  return (
    <div className="scroll">
      <div className="row" style={{ marginBottom: 10 }}>
        {kind}
      </div>
      {open.length > 0 && (
        <div className="paper">
          <h3 className="error">Before you cut</h3>
          <ProblemList problems={open} />
        </div>
      )}
      <CutFiles base={base} kerf={kerf} setKerf={setKerf} />
      <Solids base={base} />
      <CutTable base={base} kerf={kerf} />
      <BuyTable base={base} />
      <BarTable base={base} />
      <DrillingTable base={base} />
      <Elsewhere />
      {kept.length > 0 && (
        <div className="paper">
          <h3>Problems that are knowingly kept</h3>
          <ProblemList problems={kept} />
        </div>
      )}
    </div>
  );
}
