"""The sheet of the whole: views, balloons, parts list."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace

from zygon.exchange.cutlist import CutRow, cut_list
from zygon.making.result.built import Built
from zygon.owner import part_id
from zygon.paper.figures import PaperFigures
from zygon.paper.hidden import Seen
from zygon.paper.kinds.common import block_of, style_of
from zygon.paper.looks import LookName
from zygon.paper.sheet import Plan
from zygon.paper.solid_views import box_view, middle_of_longest, part_spots
from zygon.paper.subjects import Subject
from zygon.paper.table import Table, table_of
from zygon.paper.view import Ring, View

__all__ = ["parts_list", "whole_sheet"]


def whole_sheet(built: Built, subject: Subject, seen: Mapping[LookName, Seen], sheet: str) -> Plan:
    """What stands on it."""
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
        subject.id, subject.title, block_of(built, subject, "Whole", sheet), tuple(views), style_of(built, subject), (table,), together=True
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
