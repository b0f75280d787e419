"""What the saw and the bench need of bars and tubes: the saw list, and templates of ends at 1 : 1."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal

import numpy as np

from zygon.exchange.cutlist import cut_list
from zygon.exchange.dxf import write_dxf
from zygon.exchange.figures import Figures, plain
from zygon.exchange.named import ExportError, safe
from zygon.exchange.svg import write_svg
from zygon.exchange.table import csv_text
from zygon.geometry.contour import Contour
from zygon.making.connector.body import ConnectorBody
from zygon.making.flats.distinct import distinct
from zygon.making.result.built import Built, MadePart
from zygon.making.tube.bent import BentBody
from zygon.making.tube.body import MemberBody, SawEnd
from zygon.making.tube.cuts import ENDS, AtEnd, SideCut
from zygon.making.tube.developed import developed, end_template
from zygon.measure.display import format_length
from zygon.owner import is_of, read_owner
from zygon.stock.cutter import Layers
from zygon.stock.kinds import is_bar
from zygon.tolerance import EPS

__all__ = [
    "ENDS",
    "cut_words",
    "needs_template",
    "over_bend",
    "template_file",
    "template_files",
    "template_of",
    "turn_between",
    "write_bender_table",
    "write_saw_list",
]

Drawing = Literal["dxf", "svg"]
What = Literal["a", "b", "whole"]


def turn_between(body: MemberBody) -> float | None:
    """How far the tube is turned about itself between the cuts of its ends, 0 to 180 degrees in radians; None where not both are sawn off square."""
    one, other = body.saw("a"), body.saw("b")
    if not (one.angle and other.angle) or min(one.angle, other.angle) < EPS:
        return None
    return abs(math.remainder(one.toward - other.toward, 2 * math.pi))


def cut_words(built: Built, part: MadePart, end: AtEnd) -> str:
    """What is done at an end, and onto what."""
    body, found = part.body, _in_sockets(built, part, end)
    tip = body.tips["ab".index(end)] if isinstance(body, MemberBody | BentBody) else None
    if tip and tip.thread:
        found.append(f"{tip.thread} × {plain(tip.long, 2)}")
    if tip and tip.chamfer:
        found.append(f"chamfer {plain(tip.chamfer, 2)}")
    if tip and tip.groove:
        found.append(f"ring groove {plain(tip.groove[1], 2)} wide, ⌀{plain(tip.groove[2], 2)}, {plain(tip.groove[0], 2)} in")
    if tip and tip.flat:
        f = tip.flat
        bore = f", hole ⌀{plain(f.hole, 2)} at {plain(f.off, 2)}" if f.hole else ""
        turned = math.degrees(-f.turned if end == "a" else f.turned) % 180
        found.append(f"flat {plain(f.long, 2)} long, {plain(f.thick, 2)} thick, looks to {plain(round(turned, 2) % 180, 2)}°{bore}")
    if not isinstance(body, MemberBody | BentBody):
        return "; ".join(found) or "square"
    for cut in body.cuts(end):
        kind, key, *_ = read_owner(cut.owner)
        joint = built.joints.get(key) if kind == "joint" else None
        if joint is None:
            found.append("cut off in a plane")
            continue
        other = joint.b if joint.a.partition("@")[0] == part.of else joint.a
        onto = (built.parts[other].path if other in built.parts else other).replace("_", " ")
        if isinstance(cut, SideCut):
            found.append(f"coped onto {onto}")
        elif joint.kind != "member_mitre" and joint.a.partition("@")[0] != part.of:
            found.append(f"runs on past {onto}")
        else:
            found.append(f"mitred to {onto}" if joint.kind == "member_mitre" else f"cut to {onto}")
    return "; ".join(dict.fromkeys(found)) or "square"


def _in_sockets(built: Built, part: MadePart, end: AtEnd) -> list[str]:
    """In which connector an end lies, and how deep."""
    found = []
    for seat in built.seats:
        if seat.member == part.key and seat.at == end:
            body, connector = built.made[seat.connector].body, built.parts[seat.connector]
            if isinstance(body, ConnectorBody):
                sleeve = body.of(seat.socket)
                deep = format_length(round(sleeve.deep, 2), built.document.display)
                found.append(
                    f"square, {deep} over a spigot of {connector.path}" if sleeve.inside else f"square, {deep} deep in {connector.path}"
                )
    return found


def runs_through(built: Built, part: MadePart) -> list[tuple[str, float]]:
    """The connectors through which a member runs, by their paths, each with how far from end A its middle is (mm), in order."""
    m, found = np.array(part.matrix), []
    for seat in built.seats:
        if seat.member == part.key and seat.at == "through":
            at = built.made[seat.connector].matrix
            w = float(m[:3, 2] @ (np.array(at)[:3, 3] - m[:3, 3]))
            found.append((built.parts[seat.connector].path, round(w, 6) + 0.0))
    return sorted(found, key=lambda f: f[1])


def drilled_words(built: Built, part: MadePart) -> list[str]:
    """Each hole and mark of a member: how wide, how far from end A along its middle, at how many degrees round it, and through what."""
    body = part.body
    if isinstance(body, BentBody):  # along the bar before it is bent
        runs = [(run, start) for run, (start, _, _) in zip(body.runs, body.straights, strict=True)]
    else:
        runs = [(body, 0.0)] if isinstance(body, MemberBody) else []
    shown, found = Figures(built.document), []
    for begins, hole, made in [(at, h, m) for run, at in runs for some, m in ((run.holes, ""), (run.marks, "mark ")) for h in some]:
        if is_of(hole.owner, "joint"):
            continue
        way, start = np.array(hole.motion.vector((0.0, 0.0, 1.0))), np.array(hole.motion.shift)
        flat = float(way[0] ** 2 + way[1] ** 2)
        at = begins + float(start[2] - way[2] * (start[:2] @ way[:2]) / flat)
        round_ = hole.section.shape == "round"
        wide, long = shown.length(hole.section.height), shown.length(max(hole.section.extents))
        size = f"⌀{wide}" if round_ else f"slot {wide} × {long}"
        turned = plain(math.degrees(math.atan2(-way[0], way[1])) % 360, 2)
        walls = "one wall" if hole.begins is not None else "through"
        found.append(f"{made}{size} at {shown.length(round(at, 4))}, {turned}°, {walls}")
    return found


def write_saw_list(built: Built) -> str:
    """The saw list as CSV: rows of the cut list that come from a bar, with the long point and the short, and how each end is cut."""
    shown = Figures(built.document)
    head = [
        "No.",
        "Part",
        "Quantity",
        "Stock",
        "Long point mm",
        "Short point mm",
        "End A off square deg",
        "End A toward deg",
        "End A",
        "End B off square deg",
        "End B toward deg",
        "End B",
        "Turn between deg",
        "Mass g",
        "Connectors from end A mm",
        "Holes from end A mm",
    ]
    rows: list[list[object]] = []
    for r in cut_list(built):
        part = built.made.get(r.key)
        if part is None or part.body.empty or not part.record.cut_here or not is_bar(built.document.stocks.get(part.record.stock)):
            continue
        body = part.body
        if isinstance(body, MemberBody):
            short, saws, turn = body.short, {end: body.saw(end) for end in ENDS}, turn_between(body)
        elif isinstance(body, BentBody):
            short, saws, turn = r.length or 0.0, {end: body.saw(end) for end in ENDS}, None
        else:
            short, saws, turn = r.length or 0.0, dict.fromkeys(ENDS, SawEnd(0.0, 0.0)), None
        ends = [x for end in ENDS for x in (*_saw(saws[end]), cut_words(built, part, end))]
        turned = "" if turn is None else plain(math.degrees(turn), 2)
        mass = "" if r.mass is None else plain(r.mass, 1)
        through = list(dict.fromkeys(x for k in r.keys if k in built.made for x in runs_through(built, built.made[k])))
        marks = "; ".join(f"{name} {shown.length(at)}" for name, at in through)
        rows.append(
            [
                r.number,
                r.part,
                r.quantity,
                r.stock,
                shown.length(r.length),
                shown.length(short),
                *ends,
                turned,
                mass,
                marks,
                "; ".join(drilled_words(built, part)),
            ]
        )
    return csv_text(shown.head(head), rows) if rows else ""


def write_bender_table(built: Built) -> str:
    """The bender's table as CSV: for each bend of every bent rod or tube what is fed, turned and bent, and where it begins on the straight bar; '' for none.

    A turn is taken from the last bend's plane by the right hand along the feed; a bar that springs back is bent over by so much.
    """
    shown = Figures(built.document)
    head = [
        "No.",
        "Part",
        "Quantity",
        "Stock",
        "Straight length mm",
        "Radius mm",
        "Bend",
        "Feed mm",
        "Turn deg",
        "Bend deg",
        "Bent over to deg",
        "Begins at mm",
        "Then mm",
        "End A",
        "End B",
        "Holes from end A mm",
    ]
    rows: list[list[object]] = []
    for r in cut_list(built):
        part = built.made.get(r.key)
        if part is None or not isinstance(part.body, BentBody):
            continue
        path, over = part.body.path, over_bend(built, part)
        for n, (bend, at) in enumerate(zip(path.bends, path.marks, strict=True), 1):
            own = [r.number, r.part, r.quantity, r.stock, shown.length(r.length), shown.length(part.body.radius)] if n == 1 else [""] * 6
            words = [*(cut_words(built, part, end) for end in ENDS), "; ".join(drilled_words(built, part))] if n == 1 else [""] * 3
            then = shown.length(path.end) if n == len(path.bends) else ""
            figures = [plain(bend.turn, 2), plain(bend.bend, 2), plain(bend.bend * over, 2)]
            rows.append([*own, n, shown.length(bend.feed), *figures, shown.length(at), then, *words])
    return csv_text(shown.head(head), rows) if rows else ""


def over_bend(built: Built, part: MadePart) -> float:
    """By how many times a bend is bent so that it springs back to what it should be."""
    stock = built.document.stocks.get(part.record.stock)
    return 1 + ((stock.springs if is_bar(stock) else None) or 0.0) / 100


def _saw(saw: SawEnd) -> tuple[str, str]:
    if saw.angle is None:
        return "", ""
    off = math.degrees(saw.angle)
    return plain(off, 3), plain(math.degrees(saw.toward) % 360, 2) if off > EPS else ""


def needs_template(part: MadePart) -> list[What]:
    """Of what of a member there is a template: each end that is not square, and the whole where something passes through; of what is open none,
    which is sawn by its angles and marked out on its legs."""
    if not isinstance(part.body, MemberBody | BentBody) or part.body.empty or part.body.section.open:
        return []
    ends: list[What] = [end for end in ENDS if part.body.saw(end).angle != 0.0]
    if isinstance(part.body, BentBody):
        return ends
    # what an end gives way to between the legs of another is filed on the bench
    flat = not any(hole.section.open for hole in part.body.holes)
    return [*ends, "whole"] if flat and (part.body.holes or part.body.marks) else ends


@dataclass(frozen=True)
class Template:
    """Lines at 1 : 1 as (operation, contour), what is said of them, and what the template's file is called."""

    drawn: tuple[tuple[str, Contour], ...]
    notes: tuple[str, ...]
    name: str


def template_of(built: Built, part: MadePart, what: What) -> Template:
    """A template at 1 : 1: to be wrapped round an end, or the whole member laid flat. Raises ExportError where a part has none."""
    document, body = built.document, part.body
    if isinstance(body, BentBody) and what != "whole":
        body = body.runs[0 if what == "a" else -1]
    if not isinstance(body, MemberBody) or body.empty:
        raise ExportError(f"{part.path} has no template", entry=part.path, rule="a member of a frame")
    if body.section.open:
        raise ExportError(f"{part.path} has no template", entry=part.path, rule="a tube or a solid bar, round which paper can be wrapped")
    stock = document.stock_of(part.record)
    title = f"{document.name} / {part.path} / {stock.name}"
    if what == "whole":
        outline, holes, marks = developed(body)
        drawn = (*(("mark", m) for m in marks), *(("inside", h) for h in holes), ("outside", outline))
        notes = [title, "laid flat, 1 : 1, seen from outside", "left and right edge: 0 degrees; lower edge: end A"]
        name = "laid-flat"
    else:
        made = end_template(body, what)
        drawn = (*(("mark", m) for m in made.marks), ("outside", made.outline))
        far = format_length(round(made.from_long, 3), document.display)
        notes = [
            title,
            f"end {what.upper()}: {cut_words(built, part, what)}",
            "1 : 1, wrapped round it, print outside",
            f"left and right edge meet at 0 degrees; lines at {'90, 180 and 270' if what == 'b' else '270, 180 and 90'}",
            f"lower edge: {far} from the long point",
        ]
        name = f"end-{what}"
    return Template(drawn, tuple(notes), name)


def template_file(built: Built, part: MadePart, what: What, to: Drawing) -> tuple[str, str]:
    """File name and contents of a template."""
    made = template_of(built, part, what)
    drawn, notes = list(made.drawn), list(made.notes)
    text = write_dxf(drawn, Layers(), notes) if to == "dxf" else write_svg(drawn, Layers(), notes)
    return f"{safe(built.document.name)}_{safe(part.path)}_{made.name}.{to}", text


def template_files(built: Built, to: Drawing) -> dict[str, str]:
    """Every template of a design by its name, of each different member once."""
    seen: set[str] = set()
    files: dict[str, str] = {}
    for one in distinct(built):
        part = one.part
        if not isinstance(part, MadePart) or not isinstance(part.body, MemberBody | BentBody) or part.body.alike in seen:
            continue
        seen.add(part.body.alike)
        for what in needs_template(part):
            files |= dict([template_file(built, part, what, to)])
    return files
