"""Paths that are drawn in a plane of the room: where their corners lie, and by what radius they are bent there."""

from __future__ import annotations

from collections.abc import Iterator
from typing import TYPE_CHECKING

import numpy as np

from zygon.design.pointer import pointer
from zygon.drawing.words import thing_words
from zygon.drawn.drawing import Drawing, DrawnArc, DrawnLine
from zygon.geometry.frame import AXES, frame_of
from zygon.making.datums.drawings import Drawn, drawn_on
from zygon.making.datums.ids import point_at
from zygon.making.datums.on_plane import OnPlane
from zygon.making.result.fault import Fault
from zygon.owner import frame_id
from zygon.tolerance import EPS

if TYPE_CHECKING:
    from zygon.design.frames import LineFrame
    from zygon.making.datums.values import Values

__all__ = ["arc_between", "corner_of", "drawn_path", "drawn_point", "lines_at", "plane_of_frame", "round_of"]


def plane_of_frame(frame: LineFrame) -> OnPlane:
    """The plane of a drawn path, its x and y along two axes of the room."""
    assert frame.plane
    axes = frame_of(frame.plane)
    return OnPlane(frame.name, "", "", frame.group, (axes.u, axes.v), (0.0, 0.0))


def drawn_path(values: Values, key: str) -> Drawn:
    """The drawing of a frame, solved; what is wrong with its figures is said once."""
    frame = values.document.frames[key]
    assert frame.drawing
    if key not in values.paths:
        where = pointer("frames", key, "drawing")
        values.paths[key] = drawn_on(values, plane_of_frame(frame), frame.drawing, where, frame_id(key))
        for curve, said, rule in _not_bent(frame.drawing):
            entry = where + pointer("curves", curve)
            values.faults.append(Fault("bad_path", f"{frame.name}: {said}", rule, owner=frame_id(key), entry=entry))
    return values.paths[key]


def _not_bent(drawing: Drawing) -> Iterator[tuple[str, str, str]]:
    """What of a drawing is no path of lines with an arc in their corners: the curve, the sentence and the rule."""
    for key, curve in drawing.curves.items():
        if curve.helping or isinstance(curve, DrawnLine):
            continue
        words, rule = thing_words(drawing, key), "straight lines, with arcs of one radius between them"
        if not isinstance(curve, DrawnArc):
            yield key, f"{words} is no path that is bent", rule
        elif len(lines_at(drawing, key)) < 2:
            yield key, f"{words} joins no two lines", rule


def lines_at(drawing: Drawing, arc: str) -> list[str]:
    """The lines that an arc joins, at its start and at its end."""
    curve = drawing.curves[arc]
    assert isinstance(curve, DrawnArc)
    lines = [(k, c) for k, c in drawing.curves.items() if isinstance(c, DrawnLine) and not c.helping]
    return [next(k for k, c in lines if end in (c.a, c.b)) for end in (curve.a, curve.b) if any(end in (c.a, c.b) for _, c in lines)]


def drawn_point(values: Values, key: str, point: str) -> np.ndarray:
    """Where a point of a frame lies that its drawing says, (3,) in mm at rest. KeyError where its plane has no place, or its lines do not meet."""
    frame = values.document.frames[key]
    assert frame.plane
    axes = frame_of(frame.plane)
    across = values.solved[point_at(key, point, "drawn")]
    x, y = corner_of(drawn_path(values, key), frame.points[point].drawn)
    at = {axes.u: x, axes.v: y, axes.normal: across}
    return np.array([at[a] for a in AXES])


def corner_of(drawn: Drawn, of: str) -> tuple[float, float]:
    """A point of a drawing by its key, or where two of its lines would meet. KeyError where they do not."""
    one, corner, other = of.partition("/")
    if not corner:
        return drawn.solved.point(one)
    (p, way), (q, along) = (_line(drawn, k) for k in (one, other))
    cross = float(way[0] * along[1] - way[1] * along[0])
    if abs(cross) <= EPS * float(np.linalg.norm(way) * np.linalg.norm(along)):
        raise KeyError("its lines do not meet")
    t = float((q - p)[0] * along[1] - (q - p)[1] * along[0]) / cross
    x, y = p + t * way
    return float(x), float(y)


def _line(drawn: Drawn, key: str) -> tuple[np.ndarray, np.ndarray]:
    a, b = (np.array(drawn.solved.point(f"{key}.{end}")) for end in "ab")
    return a, b - a


def arc_between(drawing: Drawing, one: str, other: str) -> str | None:
    """The key of the arc that joins two lines, an end of each; None where none does."""
    ends = [{c.a, c.b} for k in (one, other) if isinstance(c := drawing.curves.get(k), DrawnLine)]
    if len(ends) < 2:
        return None
    arcs = ((k, c) for k, c in drawing.curves.items() if isinstance(c, DrawnArc) and not c.helping)
    return next((k for k, c in arcs if (c.a in ends[0] and c.b in ends[1]) or (c.b in ends[0] and c.a in ends[1])), None)


def round_of(values: Values, frame: str, lines: list[str]) -> list[float | None]:
    """The radius that is drawn in each corner between lines in a row, in mm; None where no arc is."""
    drawing = values.document.frames[frame].drawing
    found: list[float | None] = []
    for one, other in zip(lines, lines[1:], strict=False):
        arc = arc_between(drawing, one, other) if drawing else None
        found.append(drawn_path(values, frame).solved.radius(arc) if arc else None)
    return found
