"""What a bore's axis passes, in order along it: faces of boards and folded parts, members of frames."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np
import shapely
from shapely.geometry import LineString, Point

from zygon.design.features import Bore
from zygon.geometry.boolean import to_polygon
from zygon.making.blanks.blank import Blank
from zygon.making.blanks.instances import Instance
from zygon.making.features.bore_lines import BoreLine, Meeting, meetings_once
from zygon.making.result.operations import Operation, Pocket
from zygon.making.tube.drilled import meets
from zygon.making.tube.pieces import Pieces
from zygon.tolerance import CONTACT, EPS

__all__ = ["Passed", "stack_of"]


#: A screw through hardware passes no gap wider than this (mm).
GAP = 60.0


@dataclass(frozen=True)
class Passed:
    """A part that a bore's axis passes: from ``low`` to ``high`` mm along it, ``how`` ('square', 'angle', 'edge'); ``number`` counts its passages along the axis."""

    part: str
    low: float
    high: float
    how: str
    number: int
    folded: bool = False
    member: bool = False
    #: how thick the sheet is that it goes into by the edge
    sheet: float = 0.0
    #: which of its part's places it is, once that is known
    instance: str = ""
    #: how wide its own hole is, of hardware whose holes a bore takes over; 0 of what is bored
    hole: float = 0.0
    #: how much is taken off at its low and at its high end, where something is sunk or let in there
    off: tuple[float, float] = (0.0, 0.0)


def stack_of(
    bore: Bore,
    line: BoreLine,
    blanks: Mapping[str, Blank],
    operations: Mapping[str, list[Operation]],
    instances: Mapping[str, Instance],
    pieces: Pieces | None,
) -> list[Passed]:
    """The parts that a bore goes through, low end first; what is sunk into a face where it passes is taken off."""
    found: list[Passed] = []
    if line.hole is not None:
        found.append(Passed(bore.member, -line.hole.thick, 0.0, "square", 0, instance=line.hole.instance, hole=line.hole.across))
    for part, through in bore.parts.items():
        if through.action not in ("cut", "drill"):
            continue
        if part in blanks:
            blank = blanks[part]
            for n, m in enumerate(meetings_once(blank, line)):
                low, high = _stretch(m, operations.get(part, []))
                if line.hole is not None:  # what hardware is let into begins where that lies
                    low = max(low, min(0.0, high))
                if high > low + CONTACT:
                    half = math.dist(m.start, m.end) / 2
                    off = max(0.0, low - (m.along - half)), max(0.0, m.along + half - high)
                    found.append(
                        Passed(part, low, high, m.how, n, instance=part, folded=blank.fold is not None, sheet=blank.thickness, off=off)
                    )
        elif pieces is not None and part in pieces.of:
            for piece in pieces.of[part]:
                body, rest = pieces.bodies[piece]
                own = (instances[part].motion @ rest).inverse
                if meets(body, own, line) is None:
                    continue
                stretch = _across(body.section.outline(0.0).flatten(0.01), np.array(own.point(line.point)), np.array(own.vector(line.way)))
                if stretch:
                    square = abs(own.vector(line.way)[2]) < EPS
                    found.append(Passed(part, *stretch, "square" if square else "angle", 0, member=True, instance=part))
                break
    found.sort(key=lambda p: (p.low, p.high))
    return _reached(found) if line.hole is not None else found


def _reached(found: list[Passed]) -> list[Passed]:
    """What a screw through a hole of hardware comes to: not what lies on its axis far behind, as in a mirror image."""
    high = 0.0
    for n, p in enumerate(found):
        if p.low > high + GAP:
            return found[:n]
        high = max(high, p.high)
    return found


def _stretch(m: Meeting, operations: list[Operation]) -> tuple[float, float]:
    """From where to where along the axis there is something of a part, where pockets thin it."""
    half = math.dist(m.start, m.end) / 2
    low, high = m.along - half, m.along + half
    if m.how != "square":
        return low, high
    deep = {"a": 0.0, "b": 0.0}
    for o in operations:
        if isinstance(o, Pocket) and not o.islands and to_polygon(o.contour).contains(Point(m.u, m.v)):
            deep[o.face] = max(deep[o.face], o.depth)
    first, last = ("b", "a") if m.start[2] < m.end[2] else ("a", "b")
    return low + deep[first], high - deep[last]


def _across(ring: np.ndarray, point: np.ndarray, way: np.ndarray) -> tuple[float, float] | None:
    """From where to where along a line it lies within a section's outline, (u, v, w) of the member."""
    flat = float(np.hypot(way[0], way[1]))
    far = float(np.abs(ring).max()) * 4 + float(np.hypot(point[0], point[1]))
    middle = -float(point[:2] @ way[:2]) / flat**2
    ends = [point[:2] + way[:2] * (middle + k * far / flat) for k in (-1, 1)]
    met = shapely.Polygon(ring).intersection(LineString(ends))
    if met.is_empty or met.length < CONTACT:
        return None
    places = shapely.get_coordinates(met)
    along = sorted(float((p - point[:2]) @ way[:2]) / flat**2 for p in places)
    return along[0], along[-1]
