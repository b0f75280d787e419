// Pulling flanges by hand: a grip on every free edge of a plate grows one, a grip on a flange's far edge makes it longer, one on its face moves it with
// what it stands on. The number follows the hand; what is impossible is shown as a ghost with its reason, and letting go leaves the design as it was.

import { useRef, useState } from "react";
import * as THREE from "three";
import type { EdgeOut, FlangeForm, PartOut, Patch } from "../../api/types";
import { flangeName, newFlange } from "../../cards/flangeFields";
import { Silhouette } from "../../frame/Silhouette";
import {
  type Entry,
  FACES,
  type Flange,
  isBought,
  isPlate,
  originalOf,
  type PlatePart,
  pointer,
  sheetOf,
} from "../../lib/document";
import { length } from "../../lib/figures";
import { typedLength } from "../../lib/ghost";
import { becomes } from "../../lib/kinds";
import { id } from "../../lib/owner";
import { INCH } from "../../lib/units";
import { typed, useDesign, useShown } from "../../state/design";
import { useEdges } from "../../state/edges";
import { formOf, useForms } from "../../state/forms";
import { solid as solidData } from "../../state/resources";
import { words } from "../../state/shape";
import { useView } from "../../state/view";
import { facesOf } from "./folding";
import { alongLine, invalidate, keepPlace, turning } from "./stage";

/** What cannot be bent; the design is not changed to it. */
const IMPOSSIBLE = ["folds_into_itself", "flat_overlaps", "flange_cut_away", "flanges_overlap", "off_edge", "bad_value"];
const SHORTEST = 2;

type Grip = {
  key: string;
  label: string;
  kind: "grow" | "longer" | "move";
  at: THREE.Vector3;
  along: THREE.Vector3;
  /** what pulling by so many mm writes; null where it writes nothing */
  patch: (by: number) => { patch: Patch; says: string; selects: string; title: string } | null;
};

export function FlangeGrips() {
  const shown = useShown();
  const head = useDesign((s) => s.head);
  const doc = useDesign((s) => s.doc);
  const selection = useView((s) => s.selection);
  const partKey = selection?.kind === "flange" ? selection.part : selection?.kind === "part" ? originalOf(selection.key) : "";
  const part = head?.parts.find((p) => p.key === partKey);
  const board = doc?.parts[partKey];
  const form = formOf(useForms().flanges, "flange");
  const bends = Boolean(isPlate(board) && doc && sheetOf(doc, board.stock)?.bends && !isBought(board));
  const edges = useEdges(bends && selection?.kind === "part" ? partKey : "");
  if (!bends || !shown || !doc || !part?.solid || !isPlate(board)) return null;
  const chosen = selection?.kind === "flange" ? selection.key : "";
  const grips = chosen ? flangeGrips(part, board, chosen, form) : form ? edgeGrips(part, board, form, edges) : [];
  return (
    <>
      {grips.map((g) => (
        <GripButton key={`${part.key} ${chosen} ${g.key}`} grip={g} part={part.key} />
      ))}
    </>
  );
}

function matrixOf(part: PartOut): THREE.Matrix4 {
  return new THREE.Matrix4().set(...(part.matrix.flat() as Parameters<THREE.Matrix4["set"]>));
}

/** A grip on every straight edge of the plate that has no flange: pulled up or down from it. */
function edgeGrips(part: PartOut, board: PlatePart, form: FlangeForm, edges: EdgeOut[]): Grip[] {
  const matrix = matrixOf(part);
  const taken = new Set<string>(
    Object.values(board.folding?.flanges ?? {})
      .filter((f) => !f.on && !f.out)
      .map((f) => f.edge),
  );
  const t = part.thickness ?? 0;
  return edges
    .filter(({ name }) => !taken.has(name))
    .map(({ name, start, end }) => ({
      key: name,
      kind: "grow",
      label: `Pull a flange from the ${words(name)} edge`,
      at: new THREE.Vector3((start[0] + end[0]) / 2, (start[1] + end[1]) / 2, t).applyMatrix4(matrix),
      along: new THREE.Vector3(0, 0, 1).transformDirection(matrix),
      patch: (by) => grown(part.key, board, form, `/${name}`, words(name), by),
    }));
}

/** A flange as long as it is pulled, to the side that it is pulled to; `edge` is 'FLANGE/EDGE'. */
function grown(key: string, board: PlatePart, form: FlangeForm, edge: string, called: string, by: number) {
  if (Math.abs(by) < SHORTEST) return null;
  const long = typedLength(Math.abs(by), unitOfDesign());
  const made = newFlange(board.folding, form, edge, long);
  const flange = { ...made.value, length: typed(long), toward: by > 0 ? ("a" as const) : ("b" as const) };
  return {
    says: long,
    selects: made.key,
    title: `${board.name}: flange of ${long} on its ${called}`,
    patch: board.folding
      ? [{ op: "add", path: pointer("parts", key, "folding", "flanges", made.key), value: flange }]
      : becomes(key, board, "folded", { folding: { flanges: { [made.key]: flange } } }),
  };
}

const unitOfDesign = () => useDesign.getState().doc?.unit ?? "mm";
const SIDES = { end: "far edge", low: "low side", high: "high side" };

/** The grips of a flange: its far edge makes it longer, its face moves it with what it stands on, and another grows from each edge that is free. */
function flangeGrips(part: PartOut, board: PlatePart, key: string, form: FlangeForm | undefined): Grip[] {
  const data = solidData(part.solid);
  const flange = board.folding?.flanges[key];
  if (!data?.skin || !flange) return [];
  const owner = id.flange(part.key, key);
  const faces = facesOf(data.skin).filter((f) => f.owner === owner.replace("flange:", "bend:"));
  const face = faces[faces.length - 1];
  if (!face) return [];
  const matrix = matrixOf(part);
  const place = (p: number[]) => new THREE.Vector3(...(p as [number, number, number])).applyMatrix4(matrix);
  const way = (p: number[]) => new THREE.Vector3(...(p as [number, number, number])).transformDirection(matrix);
  const title = `${board.name}, ${words(flangeName(key, board.folding!.flanges))}`;
  const found: Grip[] = [];
  const field = { profile: `legs/${(flange.legs?.length ?? 1) - 1}/length`, line: "" }[flange.kind as string] ?? "length";
  if (field) {
    const path = `${pointer("parts", part.key, "folding", "flanges", key)}/${field}`;
    const now = useDesign.getState().head?.values[path]?.value;
    if (now !== undefined)
      found.push({
        key: "longer",
        kind: "longer",
        label: `Pull ${words(flangeName(key, board.folding!.flanges))} longer`,
        at: place(face.end),
        along: way(face.outward),
        patch: (by) => {
          const long = typedLength(now + by, unitOfDesign());
          return {
            says: long,
            selects: key,
            title: `${title}, length ${long}`,
            patch: [{ op: "replace", path, value: entry(long) }],
          };
        },
      });
  }
  const carrier = carrierOf(part, board, flange);
  if (carrier)
    found.push({
      key: "move",
      kind: "move",
      label: `Move ${words(flangeName(key, board.folding!.flanges))} by its face`,
      at: place(face.middle),
      along: way(face.parentOutward),
      patch: (by) => {
        const text = carrier.grown(by);
        return { says: text.says, selects: key, title: `${title}, moved to ${text.says}`, patch: text.patch };
      },
    });
  const flanges = board.folding?.flanges ?? {};
  const taken = Object.values(flanges).filter((f) => f.on === key && !f.out);
  const name = words(flangeName(key, flanges));
  if (!form || flange.kind === "hem" || flange.kind === "line") return found;
  for (const edge of ["end", "low", "high"] as const) {
    if (taken.some((f) => f.edge === edge)) continue;
    found.push({
      key: `grow ${edge}`,
      kind: "grow",
      label: `Pull a flange from the ${SIDES[edge]} of ${name}`,
      at: place(face.edges[edge]),
      along: way(face.up),
      patch: (by) => grown(part.key, board, form, `${key}/${edge}`, `${name}'s ${SIDES[edge]}`, by),
    });
  }
  return found;
}

function entry(text: string): Entry {
  return typed(text);
}

/** The entry that grows when a flange is moved by its face: the plate's span end, or the length of the flange under it. */
function carrierOf(
  part: PartOut,
  board: PlatePart,
  flange: Flange,
): { grown: (by: number) => { says: string; patch: Patch } } | null {
  const values = useDesign.getState().head?.values ?? {};
  const write = (path: string, was: Entry, sign: number) => ({
    grown: (by: number) => {
      const unit = unitOfDesign();
      const now = typedLength(values[path].value + sign * by, unit);
      // a plain number is written anew; what is reckoned from others is reckoned on from there
      const plain = /^-?[\d.]+\s*(mm|cm|in)?$/.test(was.text.trim());
      const off = sign * by;
      const value = plain
        ? entry(now)
        : { ...was, text: `${was.text} ${off < 0 ? "-" : "+"} ${typedLength(Math.abs(off), unit)}` };
      return { says: now, patch: [{ op: "replace", path, value }] };
    },
  });
  if (flange.on) {
    const under = board.folding?.flanges[flange.on];
    const path = pointer("parts", part.key, "folding", "flanges", flange.on, "length");
    return under?.length && flange.edge === "end" && path in values ? write(path, under.length, 1) : null;
  }
  const axis = (["x", "y", "z"] as const).find((a) => FACES[a].includes(flange.edge));
  const span = axis && board.spans[axis];
  if (!axis || !span) return null;
  const side = FACES[axis][0] === flange.edge ? "low" : "high";
  return write(pointer("parts", part.key, "spans", axis, side), span[side], side === "low" ? -1 : 1);
}

function GripButton({ grip, part }: { grip: Grip; part: string }) {
  const { preview, commit } = useDesign.getState();
  const view = useView();
  const [by, setBy] = useState<number | null>(null);
  const start = useRef(0);
  const made = by === null ? null : grip.patch(by);
  const at = grip.at.clone().addScaledVector(grip.along, by ?? 0);
  const name = `${part} ${grip.key}`;
  function pull(to: number) {
    const inch = unitOfDesign() === "in" ? INCH / 16 : 0.5;
    const step = Math.round(to / inch) * inch;
    setBy(step);
    const next = grip.patch(step);
    preview(next ? next.patch : null);
    view.setPull({ says: next?.says ?? "", part, owner: next ? id.flange(part, next.selects) : "" });
    invalidate();
  }

  async function settle(to: number) {
    const next = grip.patch(to);
    const reason = next ? impossible(id.flange(part, next.selects), id.bend(part, next.selects)) : "";
    setBy(null);
    preview(null);
    if (next && to !== 0 && !reason) {
      view.setPull(null);
      if (await commit(next.title, next.patch)) view.select({ kind: "flange", part, key: next.selects });
    } else view.setPull(reason ? { says: "", part, owner: "", reason } : null);
    invalidate();
  }

  return (
    <div
      className="gripplace"
      ref={(element) => {
        keepPlace(name, element, at);
      }}
    >
      <button
        type="button"
        className={`grip ${grip.kind}`}
        role="slider"
        aria-label={grip.label}
        aria-valuenow={by ?? 0}
        aria-valuetext={made?.says ?? "not pulled"}
        title={grip.label}
        onPointerDown={(e) => {
          e.stopPropagation();
          e.currentTarget.setPointerCapture(e.pointerId);
          turning(false);
          start.current = alongLine(grip.at, grip.along, e.clientX, e.clientY);
          setBy(0);
        }}
        onPointerMove={(e) => {
          if (by !== null) pull(alongLine(grip.at, grip.along, e.clientX, e.clientY) - start.current);
        }}
        onPointerUp={() => {
          turning(true);
          if (by !== null) void settle(by);
        }}
        onPointerCancel={() => {
          turning(true);
          setBy(null);
          preview(null);
          view.setPull(null);
        }}
        onKeyDown={(e) => {
          const step = { ArrowUp: 1, ArrowRight: 1, ArrowDown: -1, ArrowLeft: -1 }[e.key];
          if (step) {
            e.preventDefault();
            e.stopPropagation();
            pull((by ?? 0) + step * (unitOfDesign() === "in" ? INCH / 16 : 1));
          } else if (e.key === "Enter" && by !== null) {
            e.preventDefault();
            void settle(by);
          } else if (e.key === "Escape" && by !== null) {
            e.stopPropagation();
            setBy(null);
            preview(null);
            view.setPull(null);
          }
        }}
      />
      {made && <span className="gripsays figure">{made.says}</span>}
    </div>
  );
}

/** Why what is being tried cannot be, or ''. */
export function impossible(...owners: string[]): string {
  const { trying, tryFault } = useDesign.getState();
  if (tryFault) return tryFault.message;
  const found = trying?.built.problems.find((p) => IMPOSSIBLE.includes(p.code) && owners.includes(p.owner));
  return found?.message ?? "";
}

/** The number that is being pulled, with its flat beside it, and why it cannot be. */
export function PullPanel() {
  const pull = useView((s) => s.pull);
  const shown = useShown();
  const trying = useDesign((s) => s.trying);
  if (!pull || !shown) return null;
  const part = shown.built.parts.find((p) => p.key === pull.part);
  const reason = pull.reason ?? (trying ? impossible(pull.owner, pull.owner.replace("flange:", "bend:")) : "");
  return (
    <section className="floating" aria-label="Pulling" data-testid="pull">
      <div className="row" style={{ alignItems: "flex-start" }}>
        <span className="grow">
          <b className="figure" style={{ fontSize: 18 }}>
            {pull.says}
          </b>
          {part?.length && part.width && (
            <span className="soft" style={{ display: "block" }}>
              flat {length(part.length, shown.doc.display)} × {length(part.width, shown.doc.display)}
            </span>
          )}
          {reason && (
            <span className="error" role="alert" style={{ display: "block" }}>
              {reason}
            </span>
          )}
        </span>
        {part?.flat && (
          <Silhouette id={part.flat} tint="var(--paper)" scale={100 / Math.max(part.length ?? 1, part.width ?? 1)} box={110} />
        )}
      </div>
    </section>
  );
}
