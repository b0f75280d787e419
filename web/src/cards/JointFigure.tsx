// A joint's figure: sections through both boards as they are built, to scale, and the figures that matter.

import { useId } from "react";
import type { JointOut } from "../api/types";
import type { Doc } from "../lib/document";
import { isPlaced, lookOf } from "../lib/document";
import { length, value } from "../lib/figures";
import { useJointFigure } from "../state/joints";

const WIDTH = 286;
const TALLEST = 118;

export function JointFigure({ joint, doc }: { joint: JointOut; doc: Doc }) {
  const figure = useJointFigure(joint.key);
  const hatch = useId();
  if (!figure) return <div style={{ height: 120 }} />;
  const tint = (key: string) => {
    const part = doc.parts[key];
    return isPlaced(part) ? lookOf(doc, part.stock).tint : "#ccc";
  };
  return (
    <figure className="jointfigure" aria-label={`${figure.title}, drawn to its values`} data-testid="joint-figure">
      <div className="row" style={{ gap: 12, fontSize: 12 }}>
        {[joint.a, joint.b].map((key, i) => (
          <span key={key} className="row" style={{ gap: 5 }}>
            <svg width="14" height="11" aria-hidden="true">
              <rect width="14" height="11" fill={tint(key)} stroke="var(--edge)" />
              {i === 1 && <path d="M0 11L11 0M5 11L14 2" stroke="var(--edge)" strokeWidth=".7" />}
            </svg>
            {doc.parts[key]?.name.replaceAll("_", " ")}
          </span>
        ))}
      </div>
      {figure.views.map((view, n) => {
        const scale = Math.min(WIDTH / view.width, TALLEST / view.height);
        const line = 1 / scale;
        return (
          <div key={view.title}>
            <div className="soft" style={{ fontSize: 11.5, margin: "6px 0 2px" }}>
              {view.title} · {length(view.width, doc.display)} shown
            </div>
            <svg
              className="drawing"
              width={view.width * scale}
              height={view.height * scale}
              viewBox={`0 0 ${view.width} ${view.height}`}
              role="img"
              aria-label={view.title}
            >
              <defs>
                <pattern
                  id={`${hatch}${n}`}
                  width={5 * line}
                  height={5 * line}
                  patternUnits="userSpaceOnUse"
                  patternTransform="rotate(45)"
                >
                  <path d={`M0 0V${5 * line}`} stroke="#1f2b37" strokeOpacity=".45" strokeWidth={line * 1.1} />
                </pattern>
              </defs>
              {view.shapes.map((s) => (
                <g key={s.part}>
                  <path d={s.d} fill={tint(s.part === "a" ? joint.a : joint.b)} fillRule="evenodd" />
                  {s.part === "b" && <path d={s.d} fill={`url(#${hatch}${n})`} fillRule="evenodd" />}
                  <path d={s.d} fill="none" stroke="var(--joint)" strokeWidth={1.1} vectorEffect="non-scaling-stroke" />
                </g>
              ))}
            </svg>
          </div>
        );
      })}
      {figure.facts.length > 0 && (
        <figcaption className="facts">
          {figure.facts.map((f) => (
            <span key={f.label}>
              <span className="figure">{value(f, doc.display)}</span> {f.label}
            </span>
          ))}
        </figcaption>
      )}
    </figure>
  );
}
