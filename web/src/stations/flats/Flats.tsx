// Flats: one part as it lies on the bench, nominal or as cut, with its dimensions; or all of them side by side.

import { Button, SegmentedControl } from "@mantine/core";
import { IconLasso, IconMarquee2 } from "@tabler/icons-react";
import type { PartOut } from "../../api/types";
import { Silhouette } from "../../frame/Silhouette";
import { lookOf } from "../../lib/document";
import { lengths } from "../../lib/figures";
import { useShown } from "../../state/design";
import { flat } from "../../state/resources";
import { distinctParts, lightOf } from "../../state/shape";
import { useView } from "../../state/view";
import { BendTable } from "./BendTable";
import { CutterLook } from "./CutterLook";
import { FlatDrawing } from "./FlatDrawing";

/** How many pieces are cut from a part's drawing. */
function count(parts: PartOut[], one: PartOut): number {
  return parts.filter((p) => p.of === one.of && p.flat === one.flat).reduce((n, p) => n + p.quantity, 0);
}

export function Flats() {
  const shown = useShown();
  const view = useView();
  if (!shown) return null;
  const { doc, built } = shown;
  const lit = lightOf(view.selection, built, doc);
  const part = built.parts.find((p) => p.flat && p.key === lit[0]);
  const flats = distinctParts(built.parts);
  if (!flats.length)
    return (
      <div className="empty">
        <h2>No flats yet</h2>
        <div>Every board that is built lies here flat, ready to be cut.</div>
      </div>
    );
  const largest = Math.max(...flats.map((p) => Math.max(p.length ?? 1, p.width ?? 1)));
  if (!part)
    return (
      <div className="scroll">
        <div className="row" style={{ marginBottom: 12 }}>
          <span className="soft grow">All flats to one scale. Press one to see it with its dimensions.</span>
          <CutterLook />
        </div>
        <div style={{ display: "flex", flexWrap: "wrap", gap: 14 }}>
          {flats.map((p) => (
            <button
              type="button"
              key={p.key}
              className="starter"
              style={{ padding: 10 }}
              onClick={() => view.select({ kind: "part", key: p.key })}
              onMouseEnter={() => view.point(p.key)}
              onMouseLeave={() => view.point("")}
            >
              <Silhouette id={p.flat} tint={lookOf(doc, p.stock).tint} scale={176 / largest} box={184} />
              <b>
                {p.path.replaceAll("_", " ")}
                {count(built.parts, p) > 1 && ` ×${count(built.parts, p)}`}
              </b>
              <span className="figure soft">{lengths([p.length ?? 0, p.width ?? 0], doc.display)}</span>
            </button>
          ))}
        </div>
      </div>
    );
  const data = flat(part.flat);
  const second = Boolean(data?.under.length);
  const turned = second && view.turned;
  const seen = data && (data.seen === "a") !== turned ? part.face_a : part.face_b;
  return (
    <>
      <div className="toolbar">
        <SegmentedControl
          value={view.asCut ? "cut" : "nominal"}
          onChange={(v) => view.setAsCut(v === "cut")}
          aria-label="Contours"
          data={[
            { value: "nominal", label: "Nominal" },
            { value: "cut", label: "As cut" },
          ]}
        />
        {second && (
          <SegmentedControl
            value={turned ? "second" : "first"}
            onChange={(v) => view.setTurned(v === "second")}
            aria-label="Side"
            data={[
              { value: "first", label: "First side" },
              { value: "second", label: "Turned over" },
            ]}
          />
        )}
        <span style={{ background: "var(--paper-raised)", border: "1px solid var(--rule)", padding: "3px 9px" }}>
          <b>{part.path.replaceAll("_", " ")}</b>, {seen} up
          {part.turns && <span className="warn"> · both faces are worked: turn over</span>}
          {data && data.bends.length > 0 && (
            <span className="soft">
              {" "}
              · {data.bends.length} bend{data.bends.length > 1 ? "s" : ""}
            </span>
          )}
          {data && data.bores.length > 0 && <span className="warn"> · bore edges</span>}
          {data && data.skew_bores.length > 0 && (
            <span className="warn">
              {" "}
              · {data.skew_bores.some((b) => b.lean != null) ? "drill at an angle" : "drill through edges"}
            </span>
          )}
        </span>
        <CutterLook />
        <Button
          leftSection={<IconLasso size={15} />}
          aria-pressed={view.tool === "loop"}
          onClick={() => view.setTool("loop")}
          title="Draw round holes and marks to change them together"
        >
          Loop
        </Button>
        <Button
          leftSection={<IconMarquee2 size={15} />}
          aria-pressed={view.tool === "box"}
          onClick={() => view.setTool("box")}
          title="Draw a box round holes and marks to change them together"
        >
          Box
        </Button>
      </div>
      {data && <FlatDrawing part={part} flat={data} turned={turned} />}
      {data && data.bends.length > 0 && <BendTable bends={turned ? data.under_bends : data.bends} part={part} />}
    </>
  );
}
