"""What of a straight bar or tube is to be said: the places and sizes of its holes along it, and the angles of its ends."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from zygon.making.result.built import Built, MadePart
from zygon.making.tube.body import MemberBody
from zygon.making.tube.cuts import ENDS
from zygon.making.tube.tips import core_of, size_of
from zygon.owner import is_of, part_id
from zygon.paper.figures import PaperFigures, degrees, times
from zygon.paper.ink import Line
from zygon.paper.strokes import Stroke, tidied
from zygon.paper.view import Callout, Spot, View
from zygon.tolerance import EPS, SEEN

__all__ = ["member_places", "with_threads"]


def member_places(built: Built, part: MadePart, view: View) -> View:
    """The view along a member with its holes and its ends' angles. It lies with end A to the left."""
    body = part.body
    assert isinstance(body, MemberBody)
    figures, of = PaperFigures(built.document), part_id(part.of)
    spots, across, callouts = dict(view.spots), [], []
    alike: dict[str, tuple[float, list[tuple[float, float, float]], str]] = {}
    for n, hole in enumerate(h for h in body.holes if not is_of(h.owner, "joint")):
        way, start = np.array(hole.motion.vector((0.0, 0.0, 1.0))), np.array(hole.motion.shift)
        flat = float(way[0] ** 2 + way[1] ** 2)
        if flat < EPS:
            continue
        at = float(start[2] - way[2] * (start[:2] @ way[:2]) / flat)
        name = f"{hole.owner}/hole {n}"
        # v of the member is up on the paper; where the wall is met in sight, else on the axis
        spots[name] = Spot(name, (at, 0.0), "x", "a hole", hole.owner)
        across.append(name)
        wide, long = hole.section.height, max(hole.section.extents)
        walls = ", one wall" if hole.begins is not None else ", through"
        what = (
            f"⌀ {figures.length(wide)}{walls}"
            if hole.section.shape == "round"
            else f"slot {figures.length(wide)} × {figures.length(long)}{walls}"
        )
        alike.setdefault(what, (wide, [], hole.owner))[1].append((at, 0.0, 0.0))
    for what, (wide, places, owner) in alike.items():
        many = times(len(places))
        callouts.append(Callout(f"hole/{owner}", many + what, tuple(places), "diameter", wide, owner))
    x0, _, x1, _ = view.bounds
    for end, x in zip(ENDS, (x0, x1), strict=True):
        saw = body.saw(end)
        if saw.angle is not None and saw.angle > EPS:
            callouts.append(
                Callout(f"end {end}", f"end {end.upper()}: {degrees(saw.angle)} off square", ((x, 0.0, 0.0),), "note", saw.angle, of)
            )
    made = replace(view, spots=spots, across=tuple(across), callouts=tuple(callouts))
    return with_threads(part, made)


def with_threads(part: MadePart, view: View) -> View:
    """A view along a member with the threads of its ends as drawings have them: the outer diameter wide, the core thin, its end wide (ISO 6410-1).

    The solid has the core alone, as a step that is taken off here.
    """
    body = part.body
    assert isinstance(body, MemberBody)
    x0, _, x1, _ = view.bounds
    strokes: list[Stroke] = list(view.strokes)
    for end, sign, tip in ((x0, 1.0, body.tips[0]), (x1, -1.0, body.tips[1])):
        if not tip or not tip.thread:
            continue
        inner, outer, last = core_of(tip.thread) / 2, size_of(tip.thread) / 2, end + sign * tip.long
        strokes = [replace(s, pen="thin") if _on_core(s, inner, end, last) else s for s in strokes]
        strokes += [Line("visible", (end, k * outer), (last, k * outer), part.key) for k in (-1, 1)]
        strokes += [Line("visible", (x, -outer), (x, outer), part.key) for x in (end, last)]
    return replace(view, strokes=tuple(tidied(strokes)))


def _on_core(s: Stroke, inner: float, a: float, b: float) -> bool:
    """Whether a line runs along a thread's core."""
    if not isinstance(s, Line) or s.pen != "visible":
        return False
    level = abs(abs(s.p[1]) - inner) < SEEN and abs(s.q[1] - s.p[1]) < SEEN
    return level and min(a, b) - SEEN < min(s.p[0], s.q[0]) and max(s.p[0], s.q[0]) < max(a, b) + SEEN
