"""Time and cost, reckoned from path lengths, speeds, travel, pierces and the hour's price. Seconds and millimetres."""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator
from dataclasses import dataclass

import numpy as np
import shapely

from zygon.cut.kerf import CutContours
from zygon.errors import ExpressionError
from zygon.geometry.boolean import to_polygon
from zygon.geometry.contour import Contour
from zygon.measure.evaluate import NoScope, evaluate
from zygon.stock.cutter import Cutter, cost_of, cut_width
from zygon.tolerance import WITHIN

__all__ = ["Reckoning", "by_hand", "cutting_order", "reckon"]

#: Arcs of holes are divided to this (mm) where it is asked what lies in them.
COARSE = 0.05


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
    """(operation, contour) of all parts of a sheet: marks, then depths from the shallow ones on, insides, outsides; always the nearest next.

    Parts that lie in a hole of another are cut whole before that one, since it drops out with the hole. Holes left to a drill and lines to work to by hand are no path of the cutter; ``by_hand`` gives them.
    """
    parts = list(sheets)
    depths = sorted({d for p in parts for d, _ in p.depths}, key=lambda d: (float(d.rsplit("-", 1)[1]), d))
    groups = (
        ("mark", [c for p in parts for c in p.marks]),
        *((depth, [c for p in parts for d, c in p.depths if d == depth]) for depth in depths),
        *(
            (name, [c for p in level for c in (p.inside if name == "inside" else p.outside)])
            for level in _innermost_first(parts)
            for name in ("inside", "outside")
        ),
    )
    ordered: list[tuple[str, Contour]] = []
    at = (0.0, 0.0)
    for name, group in groups:
        for contour in _nearest_next(list(group), at):
            ordered.append((name, contour))
            at = contour.points[0] if contour.closed else contour.points[-1]
    return ordered


def _nearest_next(rest: list[Contour], at: tuple[float, float]) -> Iterator[Contour]:
    """The contours, each time the one that begins nearest to where the last ended; of equally near ones the first."""
    starts = np.array([c.points[0] for c in rest], dtype=float).reshape(-1, 2)
    for _ in rest:
        # rounded, so that among equally near ones it is never noise that decides
        k = int(np.argmin(np.hypot(*(starts - at).T).round(6)))
        starts[k] = np.inf
        contour = rest[k]
        at = contour.points[0] if contour.closed else contour.points[-1]
        yield contour


def _innermost_first(parts: list[CutContours]) -> list[list[CutContours]]:
    """The parts by how many holes of others they lie in, the most first."""
    if len(parts) < 2:
        return [parts]
    holes = [(k, to_polygon(c, COARSE)) for k, p in enumerate(parts) for c in p.inside if c.closed]
    tree = shapely.STRtree([h for _, h in holes])
    levels: dict[int, list[CutContours]] = {}
    for k, part in enumerate(parts):
        corners = [shapely.Point(c.points[0]) for c in part.outside[:1]]
        within = tree.query(corners[0], predicate="within").tolist() if corners else []
        levels.setdefault(len({holes[i][0] for i in within} - {k}), []).append(part)
    return [levels[n] for n in sorted(levels, reverse=True)]


def by_hand(sheets: Iterable[CutContours]) -> list[tuple[str, Contour]]:
    """(operation, contour) of what a drawing shows and the cutter leaves: bend lines, 'drill', and 'frame' for lines on the note layer."""
    parts = list(sheets)
    return (
        [b for p in parts for b in p.bends]
        + [("drill", d.contour) for p in parts for d in p.drills]
        + [("frame", c) for p in parts for c in p.notes]
    )


def reckon(contours: list[tuple[str, Contour]], cutter: Cutter | None, stock: str, thickness: float = 0.0) -> Reckoning:
    """What cutting the contours in this order takes on a cutter; ``thickness`` in mm says how many passes a router makes.

    A pocket is cleared in lines half a bit apart.
    """
    mark = sum(c.length for name, c in contours if name == "mark")
    at, travel = (0.0, 0.0), 0.0
    for _, c in contours:
        travel += math.dist(at, c.points[0])
        at = c.points[0] if c.closed else c.points[-1]
    pierces = sum(name != "mark" for name, _ in contours)
    step, pass_depth = _tool(cutter, stock)
    cut = 0.0
    cleared: dict[str, float] = {}
    for name, c in contours:
        if name.startswith("depth"):
            cleared[name] = cleared.get(name, 0.0) + (c.area if c.closed else 0.0)  # islands run the other way round and are not cleared
            cut += c.length * _passes(float(name.rsplit("-", 1)[1]), pass_depth)
        elif name != "mark":
            cut += c.length * _passes(thickness, pass_depth)
    for name, area in cleared.items() if step else ():
        cut += abs(area) / (step / 2) * _passes(float(name.rsplit("-", 1)[1]), pass_depth)
    work = cutter.work.get(stock) if cutter else None
    if cutter is None or work is None:
        return Reckoning(cut, mark, travel, pierces, known=False)
    seconds = cut / work.cut_speed + mark / work.mark_speed + travel / cutter.travel + pierces * work.pierce
    return Reckoning(cut, mark, travel, pierces, seconds, cost_of(cutter, seconds))


def _passes(depth: float, pass_depth: float) -> int:
    return max(1, math.ceil(depth / pass_depth - WITHIN)) if pass_depth > 0 else 1


def _tool(cutter: Cutter | None, stock: str) -> tuple[float, float]:
    """Width of the cut and depth of a pass in mm; a broken entry is said by the checks and counts as none."""
    if cutter is None or not cutter.can.bit:
        return 0.0, 0.0
    try:
        deep = cutter.pass_depth
        return cut_width(cutter, stock), evaluate(deep.text, deep.unit, "length", NoScope()).value if deep else 0.0
    except ExpressionError:
        return 0.0, 0.0
