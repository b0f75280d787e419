"""The sheet of the whole: views, balloons, parts list."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace

from zygon.exchange.cutlist import CutRow, cut_list
from zygon.exchange.figures import plain
from zygon.making.result.built import Built
from zygon.owner import part_id
from zygon.paper.figures import PaperFigures
from zygon.paper.hidden import Seen
from zygon.paper.kinds.common import block_of, style_of
from zygon.paper.looks import LookName
from zygon.paper.own_views import balloons_in
from zygon.paper.sheet import Plan
from zygon.paper.solid_views import box_view, part_spots
from zygon.paper.subjects import Subject
from zygon.paper.table import Table, table_of
from zygon.paper.view import View
from zygon.paper.welds import weld_list

__all__ = ["parts_list", "whole_sheet"]

#: Columns that a parts list has where they are chosen.
MORE = ("Mass of one, kg", "Grain", "Note")


def whole_sheet(built: Built, subject: Subject, seen: Mapping[LookName, Seen], sheet: str) -> Plan:
    """What stands on it."""
    angle = built.document.papers.angle
    rows = cut_list(built)
    views: list[View] = []
    for name in ("front", "left", "top"):
        sizes = {"front": "xy", "left": "x", "top": ""}[name]
        views.append(box_view(name, seen[name], angle, sizes=sizes, spots=part_spots(built, name)))
    side = views[1]
    corner = box_view("corner", seen["corner"], angle, sizes="", label="")
    views.append(replace(corner, rings=balloons_in(built, seen["corner"], rows), column=side.column, row=views[2].row))
    table = parts_list(built, rows)
    return Plan(
        subject.id,
        subject.title,
        block_of(built, subject, "Whole", sheet),
        tuple(views),
        style_of(built, subject),
        (table, *weld_list(built, rows)),
        together=True,
    )


def parts_list(built: Built, rows: Sequence[CutRow]) -> Table:
    """The parts list; its numbers are those of the balloons and the cut list."""
    figures = PaperFigures(built.document)
    found, of = [], []
    for r in rows:
        sizes = [x for x in (r.length, r.width, r.measured or r.nominal) if x is not None]
        code = r.code if r.code != str(r.number) else ""
        size = " × ".join(figures.length(x) for x in sizes)
        mass = "" if r.mass is None else plain(r.mass / 1000, 3)
        found.append((str(r.number), code, r.part, str(r.quantity), r.stock or r.made, size, mass, r.grain, r.note))
        of.append(part_id(built.parts[r.key].of))
    heads = ["No.", "Number", "Part", "Pieces", "Stock", f"Finished size, {figures.unit}", *MORE]
    return table_of("parts", "Parts list", heads, found, of, MORE)
