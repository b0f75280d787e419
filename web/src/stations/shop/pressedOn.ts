// What a press on a paper puts on it, by the tool that is in hand: a dimension, an angle, a note, a detail.
import type { PaperOut } from "../../api/types";
import { type Near, nearest, standsOff, wayBetween } from "../../lib/paper";
import { operate } from "../../state/operations";
import { usePapers } from "../../state/papers";

/** From a place to a note that points to it, mm. */
const BESIDE = 12;
/** How near (mm) a press is to a place that is meant. */
const NEAR = 6;

/** A press at a point of the page (mm from its upper left corner); the fault as a sentence. */
export async function pressedOn(paper: PaperOut, x: number, y: number): Promise<string> {
  const { tool, take, picked, pick } = usePapers.getState();
  const { subject } = paper;
  if (tool === "note") {
    take("");
    return operate({ operation: "add_note", subject, note: noteAt(paper, x, y) });
  }
  const found = nearest(paper, x, y, NEAR);
  if (tool === "detail") {
    if (!found) return "";
    take("");
    const detail = { view: found.view, at: found.anchor.name, across: 20, scale: "", order: 0 };
    return operate({ operation: "add_detail", subject, detail });
  }
  if (tool !== "dimension" && tool !== "angle") return "";
  const wanted = tool === "angle" ? 3 : 2;
  if (picked.length < wanted) {
    if (found && fits(picked, found)) pick(found);
    return "";
  }
  take("");
  const [a, b, c] = picked.map((p) => p.anchor);
  const { view } = picked[0];
  if (c) {
    const line = Math.max(4, Math.round(Math.hypot(x - a.x, y - a.y) * 2) / 2);
    const dimension = { view, a: a.name, b: b.name, c: c.name, way: "angle" as const, line, order: 0 };
    return operate({ operation: "add_dimension", subject, dimension });
  }
  const way = wayBetween(a, b, x, y);
  const dimension = { view, a: a.name, b: b.name, c: "", way, line: standsOff(a, b, way, x, y), order: 0 };
  return operate({ operation: "add_dimension", subject, dimension });
}

/** Another place of the same view. */
const fits = (picked: Near[], found: Near) =>
  !picked.length || (found.view === picked[0].view && picked.every((p) => p.anchor.name !== found.anchor.name));

function noteAt(paper: PaperOut, x: number, y: number) {
  const found = nearest(paper, x, y, 3);
  const note = {
    note: "Note",
    symbol: "" as const,
    at: { x, y: paper.height - y },
    wide: 80,
    view: "",
    anchor: "",
    order: 0,
  };
  if (!found) return note;
  return { ...note, at: { x: x + BESIDE, y: paper.height - y + BESIDE }, view: found.view, anchor: found.anchor.name };
}
