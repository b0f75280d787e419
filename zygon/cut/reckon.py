"""Time and cost, reckoned from path lengths, speeds, travel, pierces and the hour's price. Seconds and millimetres."""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass

from zygon.cut.kerf import CutContours
from zygon.geometry.contour import Contour
from zygon.stock.cutter import Cutter

__all__ = ["Reckoning", "cutting_order", "reckon"]


@dataclass(frozen=True)
class Reckoning:
    """Lengths in mm, times in s, cost in the document's currency; ``known`` is False where the cutter has no speeds for the stock."""

    cut_length: float = 0.0
    mark_length: float = 0.0
    travel_length: float = 0.0
    pierces: int = 0
    seconds: float = 0.0
    cost: float = 0.0
    known: bool = True


def cutting_order(sheets: Iterable[CutContours]) -> list[tuple[str, Contour]]:
    """(operation, contour) of all parts of a sheet: marks, then insides, then outsides; within each always the nearest next."""
    parts = list(sheets)
    groups = (
        ("mark", [c for p in parts for c in p.marks]),
        ("inside", [c for p in parts for c in p.inside]),
        ("outside", [c for p in parts for c in p.outside]),
    )
    ordered: list[tuple[str, Contour]] = []
    at = (0.0, 0.0)
    for name, group in groups:
        rest = list(group)
        while rest:
            k = min(range(len(rest)), key=lambda i: math.dist(at, rest[i].points[0]))
            contour = rest.pop(k)
            ordered.append((name, contour))
            at = contour.points[0] if contour.closed else contour.points[-1]
    return ordered


def reckon(contours: list[tuple[str, Contour]], cutter: Cutter | None, stock: str) -> Reckoning:
    """What cutting the contours in this order takes on a cutter."""
    cut = sum(c.length for name, c in contours if name != "mark")
    mark = sum(c.length for name, c in contours if name == "mark")
    at, travel = (0.0, 0.0), 0.0
    for _, c in contours:
        travel += math.dist(at, c.points[0])
        at = c.points[0] if c.closed else c.points[-1]
    pierces = sum(name != "mark" for name, _ in contours)
    work = cutter.work.get(stock) if cutter else None
    if cutter is None or work is None:
        return Reckoning(cut, mark, travel, pierces, known=False)
    seconds = cut / work.cut_speed + mark / work.mark_speed + travel / cutter.travel + pierces * work.pierce
    return Reckoning(cut, mark, travel, pierces, seconds, seconds / 3600 * cutter.hourly)
