// To the cutter: a sheet's program, what it takes, a dry run of it, and its file.
import { Button, Menu, SegmentedControl, Select } from "@mantine/core";
import { IconDownload } from "@tabler/icons-react";
import { type ReactNode, useState } from "react";
import type { ProgramOut } from "../../../api/types";
import { Send } from "../../../frame/Send";
import { type Display, lookOf } from "../../../lib/document";
import { distance, length, money } from "../../../lib/figures";
import { clock } from "../../../lib/program";
import { useDesign, useShown } from "../../../state/design";
import { sendSheets } from "../../../state/machines";
import { useDryRun, useProgram, useProgramSheets } from "../../../state/program";
import { useView } from "../../../state/view";
import { DryRun } from "./DryRun";
import { LeftOver } from "./LeftOver";

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
  const { stock, number, under, turnTo } = useDryRun();
  const sheet = sheets?.find((s) => s.stock === stock && s.number === number && s.under === under) ?? sheets?.[0];
  const { program, fault: none } = useProgram(sheet, nests);
  const [cut, setCut] = useState(-1);
  const [left, setLeft] = useState(false);
  const wrong = fault || none || sheet?.why || "";
  return (
    <>
      <div className="row paperbar wraps">
        {kind}
        {sheets && sheets.length > 0 && sheet && (
          <Select
            aria-label="Sheet"
            style={{ minWidth: 230 }}
            value={String(sheets.indexOf(sheet))}
            data={sheets.map((s, k) => ({
              value: String(k),
              label: `${s.name}, sheet ${s.number} of ${s.of}${s.under ? ", under side" : ""}`,
            }))}
            onChange={(v) => v && turnTo(sheets[Number(v)].stock, sheets[Number(v)].number, sheets[Number(v)].under)}
          />
        )}
        {program && program.bits.length > 0 && (
          <SegmentedControl
            aria-label="What is shown of it"
            value={left ? "left" : "run"}
            data={[
              { value: "run", label: "Dry run" },
              { value: "left", label: "What is left" },
            ]}
            onChange={(v) => setLeft(v === "left")}
          />
        )}
        <span className="grow" />
        {program && sheet && (
          <Send
            key={`${sheet.stock}:${sheet.number}`}
            number={sheet.number}
            of={sheet.of}
            kind={program.bits.length > 0 ? "bit" : "beam"}
            wrong={program.faults.length > 0}
            onSend={(numbers, machine) => sendSheets(sheet.stock, numbers, machine)}
          />
        )}
        {program && sheet && <Files at={`${base}/programs/${sheet.stock}/${sheet.number}`} program={program} />}
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
      {!wrong && program && left && program.bits.length > 0 && (
        <LeftOver key={`${program.stock}:${program.number}:${program.under}`} program={program} nests={nests} />
      )}
      {!wrong && program && !(left && program.bits.length > 0) && (
        <div className="dryrunroom">
          <DryRun
            key={`${program.stock}:${program.number}:${program.under}`}
            program={program}
            stock={lookOf(doc, program.stock).tint}
            nests={nests}
            onCut={setCut}
          />
          <Takes program={program} cut={cut} />
        </div>
      )}
    </>
  );
}

/** The program and its paths as files, while nothing is wrong with it. */
function Files({ at, program }: { at: string; program: ProgramOut }) {
  const wrong = program.faults.length > 0;
  const file = (to: string) => (wrong ? undefined : `${at}?under=${program.under}&to=${to}`);
  return (
    <>
      <Menu position="bottom-end">
        <Menu.Target>
          <Button disabled={wrong}>Paths</Button>
        </Menu.Target>
        <Menu.Dropdown>
          <Menu.Item component="a" href={file("dxf")}>
            Paths as DXF
          </Menu.Item>
          <Menu.Item component="a" href={file("svg")}>
            Paths as SVG
          </Menu.Item>
        </Menu.Dropdown>
      </Menu>
      <Button
        component="a"
        variant="filled"
        leftSection={<IconDownload size={15} />}
        data-disabled={wrong || undefined}
        href={file("nc")}
      >
        Program
      </Button>
    </>
  );
}

/** What it takes, what is wrong with it, and the pieces in the order in which they come off. */
function Takes({ program, cut }: { program: ProgramOut; cut: number }) {
  const select = useView((s) => s.select);
  const { display, currency } = useShown()!.doc;
  const routed = program.bits.length > 0;
  // a piece comes off with the last of its cuts that go round it
  const lasts = new Map(program.cuts.map((c, k) => [`${c.operation}:${c.key}:${c.copy}`, k]));
  const pieces = program.cuts
    .map((c, k) => ({ ...c, k }))
    .filter((c) => c.operation === "outside" && lasts.get(`${c.operation}:${c.key}:${c.copy}`) === c.k);
  return (
    <aside className="dryruntakes" aria-label="What it takes">
      <h3>{program.cutter}</h3>
      <dl className="figures">
        <dt>Time</dt>
        <dd className="mono">{clock(program.seconds)}</dd>
        {program.cost > 0 && <dt>Costs</dt>}
        {program.cost > 0 && <dd className="mono">{money(program.cost, currency)}</dd>}
        <dt>Cut</dt>
        <dd className="mono">{distance(program.cut, display)}</dd>
        <dt>Without cutting</dt>
        <dd className="mono">{distance(program.rapid, display)}</dd>
        <dt>{routed ? "Goes down" : "Pierced"}</dt>
        <dd className="mono">{program.pierces}×</dd>
        {!routed && <dt>Kerf</dt>}
        {!routed && <dd className="mono">{length(program.kerf, display)}</dd>}
        {program.left > 0 && <dt>Out of reach</dt>}
        {program.left > 0 && <dd className="mono">{program.left.toFixed(1)} mm²</dd>}
      </dl>
      {routed && <Bits bits={program.bits} display={display} />}
      <p className="soft">
        Zero is the lower left corner of the sheet{program.under ? " as it lies turned over, left to right" : ""}. Dashed: the
        head moves without cutting.
      </p>
      {[...program.faults, ...program.said].map((f) => (
        <p key={f} className={program.faults.includes(f) ? "error" : "warn"} role="alert">
          {f}.
        </p>
      ))}
      {program.faults.length > 0 && <p className="soft">The program leaves once nothing is wrong with it.</p>}
      {pieces.length > 0 && (
        <h3>{pieces.some((c) => c.loose) || !routed ? "Pieces, as they come off" : "Pieces, held by tabs"}</h3>
      )}
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

/** The bits in the order in which they are put in. */
function Bits({ bits, display }: { bits: ProgramOut["bits"]; display: Display }) {
  return (
    <>
      <h3>Bits</h3>
      <ul className="bits">
        {bits.map((b) => (
          <li key={b.number}>
            <span className="mono">T{b.number}</span> {b.name}
            <div className="soft mono">
              {b.spindle.toLocaleString("en")} rpm, {length(Math.round(b.feed * 60), display)}/min
              {b.chip > 0 && `, ${b.chip.toFixed(3)} mm a flute`}
            </div>
          </li>
        ))}
      </ul>
    </>
  );
}
