// To the cutter: a sheet's program, what it takes, a dry run of it, and its file.
import { Button, Select } from "@mantine/core";
import { IconDownload } from "@tabler/icons-react";
import { type ReactNode, useState } from "react";
import type { ProgramOut } from "../../../api/types";
import { lookOf } from "../../../lib/document";
import { distance, length } from "../../../lib/figures";
import { clock } from "../../../lib/program";
import { useDesign, useShown } from "../../../state/design";
import { useDryRun, useProgram, useProgramSheets } from "../../../state/program";
import { useView } from "../../../state/view";
import { DryRun } from "./DryRun";

export function ToTheCutter({ base, kind }: { base: string; kind: ReactNode }) {
  const { built, doc } = useShown()!;
  const nest = useDesign((s) => s.nest);
  // a sheet that comes to lie otherwise has another program
  const nests = built.plans
    .map((p) => {
      const layout = nest?.stocks.find((s) => s.stock === p.stock)?.layout;
      return `${p.stock}:${layout?.digest}:${layout?.sheets.map((s) => s.parts.map((q) => [q.x, q.y, q.angle, q.mirrored])).join()}`;
    })
    .join();
  const { sheets, fault } = useProgramSheets(nests);
  const { stock, number, turnTo } = useDryRun();
  const sheet = sheets?.find((s) => s.stock === stock && s.number === number) ?? sheets?.[0];
  const { program, fault: none } = useProgram(sheet, nests);
  const [cut, setCut] = useState(-1);
  const wrong = fault || none || sheet?.why || "";
  return (
    <>
      <div className="row paperbar">
        {kind}
        {sheets && sheets.length > 0 && sheet && (
          <Select
            aria-label="Sheet"
            style={{ minWidth: 230 }}
            value={`${sheet.stock}:${sheet.number}`}
            data={sheets.map((s) => ({ value: `${s.stock}:${s.number}`, label: `${s.name}, sheet ${s.number} of ${s.of}` }))}
            onChange={(v) => v && turnTo(v.slice(0, v.lastIndexOf(":")), Number(v.slice(v.lastIndexOf(":") + 1)))}
          />
        )}
        <span className="grow" />
        {program && sheet && (
          <Button
            component="a"
            variant="filled"
            leftSection={<IconDownload size={15} />}
            data-disabled={program.faults.length > 0 || undefined}
            href={program.faults.length ? undefined : `${base}/programs/${sheet.stock}/${sheet.number}`}
          >
            Program
          </Button>
        )}
      </div>
      {wrong && (
        <div className="empty" role="alert">
          {wrong}
        </div>
      )}
      {!wrong && sheets?.length === 0 && (
        <div className="empty">No sheet is laid out yet. Nest first; programs follow from the sheets.</div>
      )}
      {!wrong && !program && sheets?.length !== 0 && <div className="empty">Finding the paths…</div>}
      {!wrong && program && (
        <div className="dryrunroom">
          <DryRun
            key={`${program.stock}:${program.number}`}
            program={program}
            stock={lookOf(doc, program.stock).tint}
            onCut={setCut}
          />
          <Takes program={program} cut={cut} />
        </div>
      )}
    </>
  );
}

/** What it takes, what is wrong with it, and the pieces in the order in which they come off. */
function Takes({ program, cut }: { program: ProgramOut; cut: number }) {
  const select = useView((s) => s.select);
  const { display } = useShown()!.doc;
  const pieces = program.cuts.map((c, k) => ({ ...c, k })).filter((c) => c.operation === "outside");
  return (
    <aside className="dryruntakes" aria-label="What it takes">
      <h3>{program.cutter}</h3>
      <dl className="figures">
        <dt>Time</dt>
        <dd className="mono">{clock(program.seconds)}</dd>
        <dt>Cut</dt>
        <dd className="mono">{distance(program.cut, display)}</dd>
        <dt>Without cutting</dt>
        <dd className="mono">{distance(program.rapid, display)}</dd>
        <dt>Pierced</dt>
        <dd className="mono">{program.pierces}×</dd>
        <dt>Kerf</dt>
        <dd className="mono">{length(program.kerf, display)}</dd>
      </dl>
      <p className="soft">Zero is the lower left corner of the sheet. Dashed: the head moves without cutting.</p>
      {[...program.faults, ...program.said].map((f) => (
        <p key={f} className={program.faults.includes(f) ? "error" : "warn"} role="alert">
          {f}.
        </p>
      ))}
      {program.faults.length > 0 && <p className="soft">The program leaves once nothing is wrong with it.</p>}
      <h3>Pieces, as they come off</h3>
      <ol className="pieces">
        {pieces.map((c, n) => (
          <li key={`${c.key}${c.copy}${c.k}`} className={c.k < cut || cut < 0 ? "soft" : ""}>
            <button type="button" className="plainbutton" onClick={() => select({ kind: "part", key: c.key })}>
              <span className="mono">{n + 1}</span> {c.part}
              {c.code ? `, no. ${c.code}` : ""}
            </button>
          </li>
        ))}
      </ol>
    </aside>
  );
}
