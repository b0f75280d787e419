"""Each kind of sheet put together: which views are asked for, and what is made of them once they are seen."""

from __future__ import annotations

import csv
import io
import math
from collections.abc import Callable, Mapping, Sequence
from dataclasses import replace
from typing import cast

from zygon.brake.bend_plan import numbers_of, plan_of
from zygon.check.problem import Problem
from zygon.design.document import Document
from zygon.design.papers import PaperFormat
from zygon.exchange.bends import tool_word
from zygon.exchange.cutlist import CutRow, cut_list
from zygon.exchange.figures import plain
from zygon.exchange.formats import LISTS
from zygon.exchange.tubes import What, cut_words, drilled_words, template_of
from zygon.making.metal.bend_table import bend_rows
from zygon.making.result.built import Built, FlatPart, MadePart
from zygon.making.tube.bent import BentBody
from zygon.making.tube.body import MemberBody
from zygon.making.turned.body import TurnedBody
from zygon.owner import part_id
from zygon.paper.block import BlockData, block_height
from zygon.paper.figures import PaperFigures, degrees
from zygon.paper.formats import BLOCK, area_of, frame_ink, size_of
from zygon.paper.hidden import Asked, Seen
from zygon.paper.ink import Paper, Words
from zygon.paper.letters import wrapped
from zygon.paper.looks import LookName
from zygon.paper.nested import nested_view
from zygon.paper.of_flat import flat_view, lying_up
from zygon.paper.of_folded import legs_on
from zygon.paper.of_member import member_places
from zygon.paper.of_turned import turned_words_on
from zygon.paper.pens import Pen
from zygon.paper.sections import section_asked, with_sections
from zygon.paper.sheet import Plan, set_out, with_blocks
from zygon.paper.solid_views import alone, box_view, everything, middle_of_longest, part_spots
from zygon.paper.style import Style
from zygon.paper.subjects import Subject, said_of
from zygon.paper.table import Column, Table
from zygon.paper.template import tiled
from zygon.paper.view import Ring, View
from zygon.stock.kinds import is_sheet

__all__ = ["asked_for", "make"]

#: Words that every part's sheet has.
FINISHED = "Sizes are finished sizes: nominal with fit, without kerf."


def asked_for(built: Built, subject: Subject) -> dict[str, Asked]:
    """The views of solids that a sheet shows, its sections among them."""
    views: dict[str, Asked] = {str(name): asked for name, asked in _views_of(built, subject).items()}
    return views | section_asked(built, subject) if subject.kind in ("whole", "part") else views


def _views_of(built: Built, subject: Subject) -> dict[LookName, Asked]:
    hidden = _hidden(built, subject)
    if subject.kind == "whole":
        return everything(built, ("front", "left", "top", "corner"), hidden=False)
    if subject.kind != "part":
        return {}
    part = built.made[subject.key]
    if isinstance(part, FlatPart) and not part.flat.fold:
        return {} if part.flat.plain else alone(part, ("left", "top"), hidden=hidden)
    if isinstance(part.body, TurnedBody):
        return alone(part, ("front", "left"), hidden=hidden)
    if isinstance(part.body, MemberBody):
        return alone(part, ("front", "left", "top"), hidden=hidden)
    return alone(part, ("front", "left", "top", "corner"), hidden=hidden)


def make(built: Built, subject: Subject, look: Callable[[Asked], Seen], sheet: str = "", problems: Sequence[Problem] = ()) -> list[Paper]:
    """The pages of a sheet; ``look`` gives what is seen, ``sheet`` is its place in the set ('3 of 12'), of ``problems`` those that are kept stand on their part's sheet. Raises ZygonError where a solid cannot be made."""
    seen = {name: look(asked) for name, asked in asked_for(built, subject).items()}
    if subject.kind == "template":
        return _template(built, subject, sheet)
    plan = _PLANS[subject.kind](built, subject, cast(Mapping[LookName, Seen], seen), sheet)
    if subject.kind in ("whole", "part"):
        views, lost = with_sections(built, subject, plan.views, seen)
        plan = replace(plan, views=views, faults=(*plan.faults, *lost))
    if subject.row:
        plan = replace(plan, notes=(*plan.notes, *_kept(problems, subject.row.keys)))
    return set_out(plan, _size(built, subject))


def _size(built: Built, subject: Subject) -> PaperFormat:
    return said_of(built, subject).size or built.document.papers.size


def _hidden(built: Built, subject: Subject) -> bool:
    own = said_of(built, subject).hidden
    return built.document.papers.hidden if own is None else own


def _style(built: Built, subject: Subject) -> Style:
    said, papers, size = said_of(built, subject), built.document.papers, _size(built, subject)
    height = 2.5 if size in ("A4", "A3", "ANSI A", "ANSI B") else 3.5
    return Style(height, said.places or papers.places, PaperFigures(built.document), said, papers)


def _block(built: Built, subject: Subject, kind: str, sheet: str, row: CutRow | None = None) -> BlockData:
    document, papers, said = built.document, built.document.papers, said_of(built, subject)
    figures = PaperFigures(document)
    numbers = [papers.number or document.name, row.code if row else ""]
    stock = row.stock if row else ""
    sizes = [x for x in (row.length, row.width, row.measured or row.nominal) if x is not None] if row else []
    metal = row is not None and _metal(document, built.parts[row.key].record)
    tolerance = f"ISO 2768-{papers.tolerance}" if papers.tolerance and row and (metal or papers.on_wood) else "none said"
    mass = "" if row is None or row.mass is None else f"{plain(row.mass, 0)} g" if row.mass < 1000 else f"{plain(row.mass / 1000, 2)} kg"
    return BlockData(
        owner=papers.owner,
        title=said.called or subject.title,
        number=" / ".join(n for n in numbers if n),
        kind=kind,
        drawn=papers.drawn,
        checked=papers.checked,
        date=papers.date,
        revision=papers.revision,
        status="" if papers.revision else "not issued",
        sheet=sheet,
        scale="",
        unit="millimetres" if figures.unit == "mm" else "inches",
        size="",
        stock=stock,
        finished=" × ".join(figures.length(x) for x in sizes),
        mass=mass,
        pieces=str(row.quantity) if row else "",
        grain=row.grain if row else "",
        tolerance=tolerance,
        angle=papers.angle,
    )


def _metal(document: Document, record) -> bool:
    stock = document.stocks.get(getattr(record, "stock", ""))
    return stock is not None and (stock.hatch == "metal" if is_sheet(stock) else stock.density > 2.0)


def _kept(problems: Sequence[Problem], keys: Sequence[str]) -> list[str]:
    """Problems of these parts that are knowingly kept, with who kept them and why."""
    found = [p for p in problems if p.kept and (p.fault.part in keys or p.fault.other in keys)]
    return [f"Kept: {p.fault.message}. {p.kept.by}: {p.kept.reason}" for p in found if p.kept]


# --- the whole -------------------------------------------------------------------------------------------------------------------


def _whole(built: Built, subject: Subject, seen: Mapping[LookName, Seen], sheet: str) -> Plan:
    angle = built.document.papers.angle
    rows = cut_list(built)
    views: list[View] = []
    for name in ("front", "left", "top"):
        sizes = {"front": "xy", "left": "x", "top": ""}[name]
        views.append(box_view(name, seen[name], angle, sizes=sizes, spots=part_spots(built, name)))
    rings = []
    for row in rows:
        of = next(((k, places) for k in row.keys if (places := middle_of_longest(seen["corner"], k))), None)
        if of:
            rings.append(Ring(f"balloon/{row.key}", str(row.number), tuple(of[1]), part_id(built.parts[row.key].of)))
    side = views[1]
    corner = box_view("corner", seen["corner"], angle, sizes="", label="")
    views.append(replace(corner, rings=tuple(rings), column=side.column, row=views[2].row))
    table = parts_list(built, rows)
    return Plan(
        subject.id, subject.title, _block(built, subject, "Whole", sheet), tuple(views), _style(built, subject), (table,), together=True
    )


def parts_list(built: Built, rows: Sequence[CutRow]) -> Table:
    """The parts list; its numbers are those of the balloons and the cut list."""
    figures = PaperFigures(built.document)
    found, of = [], []
    for r in rows:
        sizes = [x for x in (r.length, r.width, r.measured or r.nominal) if x is not None]
        code = r.code if r.code != str(r.number) else ""
        size = " × ".join(figures.length(x) for x in sizes)
        found.append((str(r.number), code, r.part, str(r.quantity), r.stock or r.made, size))
        of.append(part_id(built.parts[r.key].of))
    return table_of("parts", "Parts list", ["No.", "Number", "Part", "Pieces", "Stock", f"Finished size, {figures.unit}"], found, of)


# --- parts -----------------------------------------------------------------------------------------------------------------------


def _part(built: Built, subject: Subject, seen: Mapping[LookName, Seen], sheet: str) -> Plan:
    part, row = built.made[subject.key], subject.row
    assert row is not None
    if isinstance(part, FlatPart) and not part.flat.fold:
        views = _board(built, part, seen)
    elif isinstance(part.body, TurnedBody):
        views = _turned(built, part, seen)
    elif isinstance(part.body, MemberBody):
        views = _member(built, part, seen)
    else:
        views = _others(built, part, seen)
    title = subject.title[:1].upper() + subject.title[1:]
    subject = replace(subject, title=title)
    kind = {"board": "Board", "folded": "Folded part", "turned": "Turned part"}.get(part.record.kind, "Bar")
    notes = [FINISHED]
    if row.note:
        notes.append(row.note.replace("_", " "))
    if row.said:
        notes.append(row.said)
    notes += _end_notes(built, part)
    return Plan(
        subject.id, subject.title, _block(built, subject, kind, sheet, row), views, _style(built, subject), (), tuple(notes), most=2.0
    )


def _end_notes(built: Built, part: MadePart) -> list[str]:
    if not isinstance(part.body, MemberBody | BentBody):
        return []
    drilled = drilled_words(built, part)
    found = [f"End A: {cut_words(built, part, 'a')}", f"End B: {cut_words(built, part, 'b')}"]
    return [*found, *([f"Holes from end A: {'; '.join(drilled)}"] if drilled else [])]


def _board(built: Built, part: FlatPart, seen: Mapping[LookName, Seen]) -> tuple[View, ...]:
    angle, figures = built.document.papers.angle, PaperFigures(built.document)
    flat = lying_up(part)
    face = flat_view(built, part, flat, name="front")
    if part.flat.plain:
        thick = f"{face.label}; {figures.length(flat.thickness)} {figures.unit} thick"
        return (replace(face, label=thick),)
    views = [face]
    sides: tuple[tuple[LookName, str], ...] = (("left", "x"), ("top", ""))
    for name, sizes in sides:
        views.append(box_view(name, seen[name], angle, of=part_id(part.of), sizes=sizes, label=""))
    return tuple(views)


def _turned(built: Built, part: MadePart, seen: Mapping[LookName, Seen]) -> tuple[View, ...]:
    angle = built.document.papers.angle
    front = box_view("front", seen["front"], angle, of=part_id(part.of), sizes="x", label="")
    end = box_view("left", seen["left"], angle, of=part_id(part.of), sizes="", label="")
    return turned_words_on(built, part, front), end


def _member(built: Built, part: MadePart, seen: Mapping[LookName, Seen]) -> tuple[View, ...]:
    angle = built.document.papers.angle
    front = box_view("front", seen["front"], angle, of=part_id(part.of), label="")
    end = box_view("left", seen["left"], angle, of=part_id(part.of), sizes="x", label="")
    top = box_view("top", seen["top"], angle, of=part_id(part.of), sizes="", label="")
    return member_places(built, part, front), end, top


def _others(built: Built, part: MadePart, seen: Mapping[LookName, Seen]) -> tuple[View, ...]:
    angle = built.document.papers.angle
    found: list[View] = []
    looks: tuple[tuple[LookName, str], ...] = (("front", "xy"), ("left", "x"), ("top", ""))
    for name, sizes in looks:
        found.append(box_view(name, seen[name], angle, of=part_id(part.of), sizes=sizes))
    if isinstance(part, FlatPart) and part.flat.fold:
        found = legs_on(part, found)
    corner = box_view("corner", seen["corner"], angle, sizes="", label="")
    return (*found, replace(corner, column=found[1].column, row=found[2].row))


# --- flats of what is bent --------------------------------------------------------------------------------------------------------


def _flat(built: Built, subject: Subject, seen: Mapping[LookName, Seen], sheet: str) -> Plan:
    part, row = built.flats[subject.key], subject.row
    assert row is not None
    flat = lying_up(part)
    numbers = numbers_of(flat, plan_of(built.document, part, flat))
    view = flat_view(built, part, flat, bends=numbers, name="flat", label="Flat, ▲ bends toward you, ▼ away")
    block = _block(built, subject, "Flat pattern", sheet, row)
    return Plan(subject.id, subject.title, block, (view,), _style(built, subject), (bend_table(built, part),), (FINISHED,), most=2.0)


def bend_table(built: Built, part: FlatPart) -> Table:
    """The bend table: its numbers are those at the lines."""
    figures = PaperFigures(built.document)
    flat = lying_up(part)
    steps = plan_of(built.document, part, flat)
    assert flat.fold is not None
    rows, of = [], []
    for r in sorted(bend_rows(flat.fold, numbers_of(flat, steps)), key=lambda r: r["number"]):
        step = steps[r["number"] - 1] if steps and r["number"] <= len(steps) else None
        rows.append(
            (
                str(r["number"]),
                "▲" if r["direction"] == "up" else "▼",
                degrees(math.radians(r["angle"])),
                figures.length(r["radius"]),
                figures.length(r["length"]),
                figures.length(r["allowance"]),
                figures.length(r["deduction"]),
                plain(r["k"]),
                tool_word(step) if step else "",
            )
        )
        of.append(r["owner"])
    unit = figures.unit
    heads = ["Bend", "Way", "Angle", f"Inside R, {unit}", f"Long, {unit}", f"Allowance, {unit}", f"Deduction, {unit}", "K", "Tool"]
    return table_of("bends", "Bend table", heads, rows, of)


# --- templates at 1 : 1 -----------------------------------------------------------------------------------------------------------


def _template(built: Built, subject: Subject, sheet: str) -> list[Paper]:
    """The pages of a template; it is true to size on any paper, so that a scale that is said is of no account."""
    part, style, size = built.made[subject.key], _style(built, subject), _size(built, subject)
    made = template_of(built, part, cast(What, subject.id.rpartition(":")[2]))
    area, of = area_of(size), part_id(part.of)
    pens: dict[str, Pen] = {"mark": "centre", "inside": "visible", "outside": "visible"}
    notes = [line for t in made.notes[1:] for line in wrapped(t.replace("_", " "), style.height, BLOCK - 4)]
    found = tiled([(pens[op], c) for op, c in made.drawn], area, len(notes) * style.height * 1.6 + 2.0, style.height, of)
    block = replace(_block(built, subject, "Template", sheet, subject.row), scale="1 : 1", size=size)
    words = [
        Words(t, (area[2] - BLOCK + 1.2, area[1] + block_height() + 1.6 + n * style.height * 1.6), style.height)
        for n, t in enumerate(reversed(notes))
    ]
    pages = [
        Paper(subject.id, subject.title, size_of(size), (*frame_ink(size), *words, *tile.ink), scale="1 : 1", page=n, drawing_area=area)
        for n, tile in enumerate(found.tiles, 1)
    ]
    return with_blocks(pages, block, area)


# --- lists and sheets -------------------------------------------------------------------------------------------------------------


def _list(built: Built, subject: Subject, seen: Mapping[LookName, Seen], sheet: str) -> Plan:
    text = LISTS[subject.id.partition(":")[2]].write(built)
    head, *rows = csv.reader(io.StringIO(text.lstrip("\ufeff")))
    table = table_of(subject.id.partition(":")[2], subject.title, head, [tuple(r) for r in rows], [])
    return Plan(subject.id, subject.title, _block(built, subject, "List", sheet), (), _style(built, subject), (table,))


def table_of(name: str, title: str, heads: Sequence[str], rows: Sequence[tuple[str, ...]], of: Sequence[str]) -> Table:
    """Without the columns in which nothing stands; figures to the right."""
    kept = [i for i in range(len(heads)) if any(r[i] for r in rows)]

    def figure(i: int) -> bool:
        return all(_is_figure(r[i]) for r in rows if r[i])

    columns = tuple(Column(heads[i], figure(i), widest=44.0) for i in kept)
    return Table(name, title, columns, tuple(tuple(r[i].replace("_", " ") for i in kept) for r in rows), tuple(of))


def _is_figure(text: str) -> bool:
    return text.lstrip("−-≈").replace(".", "").replace("/", "").replace("°", "").replace(" ", "").isdigit()


def _sheet(built: Built, subject: Subject, seen: Mapping[LookName, Seen], sheet: str) -> Plan:
    assert subject.nest is not None
    rows = cut_list(built)
    view, table = nested_view(built, subject.nest, subject.number, rows)
    return Plan(
        subject.id, subject.title, _block(built, subject, "Sheet as nested", sheet), (view,), _style(built, subject), (table,), (), most=1.0
    )


_PLANS: dict[str, Callable[[Built, Subject, Mapping[LookName, Seen], str], Plan]] = {
    "whole": _whole,
    "part": _part,
    "flat": _flat,
    "list": _list,
    "sheet": _sheet,
}
