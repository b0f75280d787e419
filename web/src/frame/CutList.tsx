// The cut list, as it hangs in the shop: a row for equal parts, by groups, in every station; searched and selected from.

import { CloseButton, TextInput } from "@mantine/core";
import { useEffect, useMemo, useRef } from "react";
import type { PartOut, RowOut } from "../api/types";
import { type Doc, isBought, isLength, leftOut, lookOf, notesOf, ordered, originalOf, sectionOf } from "../lib/document";
import { figure, lengths, plural } from "../lib/figures";
import { finds } from "../lib/find";
import { useShown } from "../state/design";
import { lightOf, words } from "../state/shape";
import { useView } from "../state/view";
import { partNamed, useWriting } from "../state/writing";
import { FirstSteps } from "./FirstSteps";
import { PartChips } from "./PartChips";
import { Silhouette } from "./Silhouette";

export function CutList() {
  const shown = useShown();
  // what the pointer is over changes all the time, and nothing of it shows here
  const selection = useView((s) => s.selection);
  const find = useView((s) => s.find);
  const { setFind, selectMany, select } = useView.getState();
  const ref = useRef<HTMLDivElement>(null);
  const lit = useMemo(() => new Set(lightOf(selection, shown?.built, shown?.doc)), [selection, shown]);
  const first = [...lit][0];
  useEffect(() => {
    if (first) ref.current?.querySelector(`[data-keys~="${CSS.escape(first)}"]`)?.scrollIntoView({ block: "nearest" });
  }, [first]);
  if (!shown) return <aside className="list" />;
  const { built, doc } = shown;
  const parts = new Map(built.parts.map((p) => [p.key, p]));
  const largest = Math.max(1, ...built.parts.map((p) => Math.max(p.length ?? 0, p.width ?? 0)));
  const found = new Set(find ? built.parts.filter((p) => finds(p, find, doc, built.problems)).map((p) => p.key) : parts.keys());
  const rows = built.rows.filter((r) => r.keys.some((k) => found.has(k)));
  const copies = built.rows.reduce((n, r) => n + r.quantity, 0);
  const out = ordered(doc.parts).filter(([k]) => leftOut(doc, k));
  const row = (r: RowOut) => (
    <Row
      key={r.keys[0]}
      row={r}
      part={parts.get(r.keys[0])!}
      lit={lit}
      scale={40 / largest}
      doc={doc}
      dot={dotFor(r.keys, built.problems)}
    />
  );
  const tops = ordered(doc.groups).filter(([, g]) => !g.parent);
  return (
    <aside className="list" aria-label="Cut list" ref={ref}>
      <div style={{ position: "sticky", top: 0, zIndex: 3, background: "var(--paper)" }}>
        <div className="listhead" style={{ position: "static" }}>
          <h3>Cut list</h3>
          <span className="soft" style={{ fontSize: 12 }}>
            {plural(copies, "piece")}
          </span>
        </div>
        <div style={{ padding: "0 8px 6px" }}>
          <TextInput
            size="xs"
            aria-label="Find parts"
            placeholder="find: rest*, ply 6, problem, hole 6 mm"
            value={find}
            onChange={(e) => setFind(e.currentTarget.value)}
            onKeyDown={(e) => {
              e.stopPropagation();
              if (e.key === "Escape") setFind("");
              if (e.key === "Enter" && find) selectMany([...found], []);
            }}
            rightSection={find ? <CloseButton size="xs" aria-label="Show all rows" onClick={() => setFind("")} /> : undefined}
          />
          {find && (
            <div className="row soft" style={{ fontSize: 12 }}>
              <span className="grow">{found.size ? `${plural(found.size, "part")} found` : "Nothing is like that."}</span>
              {found.size > 0 && (
                <button type="button" className="chip" onClick={() => selectMany([...found], [])}>
                  Select
                </button>
              )}
            </div>
          )}
        </div>
      </div>
      {built.parts.length === 0 && (
        <p className="soft" style={{ padding: "4px 12px" }}>
          No parts yet. Add a board in Build.
        </p>
      )}
      {rows.filter((r) => !r.group || !doc.groups[r.group]).map(row)}
      {tops.map(([key, group]) => {
        const own = rows.filter((r) => r.group === key);
        if (!own.length && (find || !group.out)) return null;
        return (
          <div key={key}>
            <button
              type="button"
              className={`grouphead ${group.out ? "leftout" : ""}`}
              aria-pressed={selection?.kind === "group" && selection.key === key}
              onClick={() => select({ kind: "group", key })}
            >
              <span className="grow title">{words(group.name)}</span>
              <span className="soft">{own.reduce((n, r) => n + r.quantity, 0) || "out"}</span>
            </button>
            {own.map(row)}
          </div>
        );
      })}
      {out.length > 0 && !find && (
        <>
          <div className="listhead" style={{ marginTop: 8 }}>
            <h3>Left out</h3>
          </div>
          {out.map(([key, p]) => (
            <button
              type="button"
              key={key}
              className="linkrow leftout"
              style={{ padding: "3px 12px" }}
              onClick={() => select({ kind: "part", key })}
            >
              <span className="title">{words(p.name)}</span>
            </button>
          ))}
        </>
      )}
      <FirstSteps />
    </aside>
  );
}

function dotFor(keys: string[], problems: { part: string; other: string; severity: string; kept?: unknown }[]): string {
  const all = new Set([...keys, ...keys.map(originalOf)]);
  const own = problems.filter((p) => all.has(p.part) || all.has(p.other));
  if (own.some((p) => !p.kept && p.severity === "error")) return "error";
  if (own.some((p) => !p.kept)) return "warning";
  return own.length ? "kept" : "";
}

type RowProps = {
  row: RowOut;
  part: PartOut;
  lit: Set<string>;
  scale: number;
  doc: Doc;
  dot: string;
};

/** How many parts of a row are told one by one once it is selected. */
const TOLD = 24;

function Row({ row, part, lit, scale, doc, dot }: RowProps) {
  const hover = useView((s) => row.keys.includes(s.hover));
  const hidden = useView((s) => row.keys.every((k) => s.hidden[k]));
  const asks = useView((s) => s.draft?.kind === "joint" || s.tool === "measure");
  const display = doc.display;
  const tint = part.solid ? lookOf(doc, part.stock).tint : undefined;
  const rod = isLength(part);
  const stock = part.stock ? doc.stocks[part.stock]?.name : part.made;
  const bought = isBought(doc.parts[part.of]);
  const chosen = row.keys.filter((k) => lit.has(k));
  const plain = doc.numbering === "{number}";
  const said = notesOf(doc, row.keys);
  const writing = useWriting((s) => s.entry);
  return (
    <>
      <button
        type="button"
        className="partrow"
        data-part={part.key}
        data-keys={row.keys.join(" ")}
        data-hover={hover}
        data-hidden={hidden}
        aria-pressed={chosen.length > 0}
        onMouseDown={(e) => writing && e.preventDefault()}
        onClick={(e) => {
          const view = useView.getState();
          const name = writing && partNamed(doc, part.key);
          if (writing && name) writing.write(name, true);
          else if (view.tool === "measure")
            view.pick({ part: part.key, what: view.pickAs === "part" ? "part" : "centre", name: "" });
          else if (e.ctrlKey || e.metaKey || e.shiftKey) for (const k of row.keys) view.toggle(k);
          else view.select({ kind: "part", key: part.key });
        }}
        onMouseEnter={() => useView.getState().point(part.key)}
        onMouseLeave={() => useView.getState().point("")}
      >
        {part.flat ? (
          <Silhouette id={part.flat} tint={tint ?? "var(--paper-sunk)"} scale={scale} />
        ) : rod && !part.stale ? (
          <span aria-hidden style={{ alignSelf: "center" }}>
            <span className="rodmark" data-section={sectionOf(doc, part.stock)} style={{ background: tint }} />
          </span>
        ) : (
          <span className="soft" style={{ textAlign: "center", fontSize: 11 }}>
            {part.stale ? "broken" : part.made}
          </span>
        )}
        <span style={{ minWidth: 0 }}>
          <span className="title clip" style={{ display: "block" }} title={words(row.name)}>
            {words(row.name)}
            {row.quantity > 1 && <span className="mono"> ×{row.quantity}</span>}
          </span>
          {!plain && (
            <span className="size mono soft clip" style={{ display: "block" }}>
              {row.code}
            </span>
          )}
          <span style={{ display: "block" }}>
            <span className="size mono">
              {part.kind === "turned" && part.length !== null && part.thickness !== null
                ? `⌀ ${lengths([part.thickness, part.length], display)}`
                : part.length !== null && part.width !== null
                  ? lengths([part.length, part.width], display)
                  : rod && part.length !== null
                    ? `${lengths([part.length], display)} long`
                    : stock}
            </span>
            {part.measured != null && (
              <span className="size" title={`measured ${lengths([part.measured], display)} ${rod ? "across" : "thick"}`}>
                {" "}
                ({figure(part.measured, display)})
              </span>
            )}
          </span>
          {part.length !== null && (
            <span
              className="size clip"
              style={{ display: "block" }}
              title={part.measured != null ? `${stock}, measured ${lengths([part.measured], display)}` : stock}
            >
              <span className="swatch" style={{ background: tint }} />
              {stock}
              {bought && part.stock && `, ${part.made}`}
            </span>
          )}
          {said && (
            <span className="size clip" style={{ display: "block" }} title={said}>
              {said}
            </span>
          )}
          {part.note && (
            <span
              className={`size ${bought || /^mirror image of \d+$/.test(part.note) ? "" : "warn"}`}
              style={{ display: "block" }}
            >
              {part.note}
            </span>
          )}
        </span>
        {dot && <span className={`dot ${dot}`} title={dot === "kept" ? "has a kept problem" : "has a problem"} />}
      </button>
      {(chosen.length > 0 || asks) && row.keys.length > 1 && (
        <PartChips
          keys={row.keys}
          most={TOLD}
          lit={lit}
          style={{ padding: "2px 10px 8px 58px" }}
          onPress={(k, e) => {
            const view = useView.getState();
            if (view.tool === "measure") view.pick({ part: k, what: view.pickAs === "part" ? "part" : "centre", name: "" });
            else if (e.ctrlKey || e.metaKey || e.shiftKey) view.toggle(k);
            else view.select({ kind: "part", key: k });
          }}
        />
      )}
    </>
  );
}
