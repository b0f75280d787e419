// The cut list, as it hangs in the shop: a row a part, in every station.
import { useEffect, useRef } from "react";
import type { PartOut } from "../api/types";
import type { Board } from "../lib/document";
import { figure, lengths, plural } from "../lib/figures";
import { useDesign, useShown } from "../state/design";
import { litParts, useView } from "../state/view";
import { Silhouette } from "./Silhouette";

export function CutList() {
  const shown = useShown();
  const view = useView();
  const joints = useDesign((s) => s.head?.joints) ?? [];
  const ref = useRef<HTMLDivElement>(null);
  const lit = litParts(view.selection, joints, shown?.doc.bores ?? {});
  const first = lit[0];
  useEffect(() => {
    if (first) ref.current?.querySelector(`[data-part="${CSS.escape(first)}"]`)?.scrollIntoView({ block: "nearest" });
  }, [first]);
  if (!shown) return <aside className="list" />;
  const { built, doc } = shown;
  const largest = Math.max(1, ...built.parts.map((p) => Math.max(p.length ?? 0, p.width ?? 0)));
  const copies = built.parts.reduce((n, p) => n + p.quantity, 0);
  return (
    <aside className="list" aria-label="Cut list" ref={ref}>
      <div className="listhead">
        <h3>Cut list</h3>
        <span className="soft" style={{ fontSize: 12 }}>
          {plural(copies, "piece")}
        </span>
      </div>
      {built.parts.length === 0 && (
        <p className="soft" style={{ padding: "4px 12px" }}>
          No parts yet. Add a board in Build.
        </p>
      )}
      {built.parts.map((p) => (
        <Row
          key={p.key}
          part={p}
          lit={lit.includes(p.key)}
          scale={40 / largest}
          display={doc.display}
          tint={p.stock ? doc.stocks[p.stock]?.tint : undefined}
          stock={p.stock ? doc.stocks[p.stock]?.name : "bought"}
          dot={dotFor(p.key, built.problems)}
          made={(doc.parts[p.key] as Board | undefined)?.made ?? "cut"}
        />
      ))}
    </aside>
  );
}

function dotFor(key: string, problems: { part: string; other: string; severity: string; kept?: unknown }[]): string {
  const own = problems.filter((p) => p.part === key || p.other === key);
  if (own.some((p) => !p.kept && p.severity === "error")) return "error";
  if (own.some((p) => !p.kept)) return "warning";
  return own.length ? "kept" : "";
}

type RowProps = {
  part: PartOut;
  lit: boolean;
  scale: number;
  display: "mm" | "in" | "fraction";
  tint?: string;
  stock: string;
  dot: string;
  made: string;
};

function Row({ part, lit, scale, display, tint, stock, dot, made }: RowProps) {
  const view = useView();
  return (
    <button
      type="button"
      className="partrow"
      data-part={part.key}
      data-hover={view.hover === part.key}
      data-hidden={Boolean(view.hidden[part.key])}
      aria-pressed={lit}
      onClick={() => view.select({ kind: "part", key: part.key })}
      onMouseEnter={() => view.point(part.key)}
      onMouseLeave={() => view.point("")}
    >
      {part.flat ? (
        <Silhouette id={part.flat} tint={tint ?? "var(--paper-sunk)"} scale={scale} />
      ) : (
        <span className="soft" style={{ textAlign: "center", fontSize: 11 }}>
          {part.stale ? "broken" : "bought"}
        </span>
      )}
      <span style={{ minWidth: 0 }}>
        <span className="title clip" style={{ display: "block" }}>
          {part.path.replaceAll("_", " ")}
          {part.quantity > 1 && <span className="mono"> ×{part.quantity}</span>}
        </span>
        <span className="clip" style={{ display: "block" }}>
          <span className="size mono">
            {part.length !== null && part.width !== null ? lengths([part.length, part.width], display) : stock}
          </span>
          {part.measured != null && (
            <span className="size" title={`measured ${lengths([part.measured], display)} thick`}>
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
            {made === "bought" && ", bought"}
          </span>
        )}
        {part.note && (
          <span className={`size clip ${made === "bought" ? "" : "warn"}`} style={{ display: "block" }} title={part.note}>
            {part.note}
          </span>
        )}
      </span>
      {dot && <span className={`dot ${dot}`} title={dot === "kept" ? "has a kept problem" : "has a problem"} />}
    </button>
  );
}
