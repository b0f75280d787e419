"""The straight edges of a plate, by the names under which flanges stand on them."""

from __future__ import annotations

import math
import re

from zygon.geometry.contour import Contour, Segment
from zygon.geometry.frame import FACES, Frame
from zygon.tolerance import CONTACT, SLACK

__all__ = ["Edge", "plate_edges", "side_of"]

Edge = tuple[tuple[float, float], tuple[float, float]]
#: An edge that leans by less than this from a side is called by that side's word.
LEANING = math.radians(25)
#: Edges shorter than this (mm) are none to bend.
SHORTEST = 2.0


def plate_edges(frame: Frame, outline: list[Contour]) -> dict[str, Edge]:
    """Every straight edge by its name, each from its first corner to its last with the outside on the right ((u, v), counter-clockwise).

    The longest on each side of the outline has that side's word. Others are called by where they look: 'left-front' for one that slants,
    and by a number ('left_2') where there are several, in order round the outline from its low corner.
    """
    x0, y0 = (min(c.bounds[i] for c in outline) for i in (0, 1))
    x1, y1 = (max(c.bounds[i] for c in outline) for i in (2, 3))
    sides = {FACES[frame.v][0]: (1, y0), FACES[frame.u][1]: (0, x1), FACES[frame.v][1]: (1, y1), FACES[frame.u][0]: (0, x0)}
    straight = [s for c in outline for s in _from_low(c) if not s.bulge]
    found: dict[str, Edge] = {}
    taken: set[int] = set()
    for name, (k, at) in sides.items():
        runs = [i for i, s in enumerate(straight) if abs(s.p[k] - at) < CONTACT and abs(s.q[k] - at) < CONTACT]
        if runs:
            longest = max(runs, key=lambda i: straight[i].length)
            found[name] = (straight[longest].p, straight[longest].q)
            taken.add(longest)
    for i, s in enumerate(straight):
        if i in taken or s.length < SHORTEST:
            continue
        word = _looks(frame, s)
        name = next(n for k in range(1, len(straight) + 2) if (n := word if k == 1 else f"{word}_{k}") not in found)
        found[name] = (s.p, s.q)
    return found


def side_of(name: str) -> str:
    """The side's word of an edge's name: 'left' of 'left_2'; of one that slants both, as in 'left-front'."""
    return re.sub(r"_\d+$", "", name)


def _from_low(contour: Contour) -> list[Segment]:
    """The segments counter-clockwise from the corner that is lowest, of several the leftmost."""
    segments = contour.wound(ccw=True).segments()
    first = min(range(len(segments)), key=lambda i: (round(segments[i].p[1] / SLACK), segments[i].p[0]))
    return [*segments[first:], *segments[:first]]


def _looks(frame: Frame, s: Segment) -> str:
    """Where an edge looks, in words: a side, or two for one that slants."""
    n = (s.q[1] - s.p[1]) / s.length, (s.p[0] - s.q[0]) / s.length
    words = [FACES[axis][x > 0] for axis, x in ((frame.u, n[0]), (frame.v, n[1]))]
    lean = math.atan2(abs(n[1]), abs(n[0]))
    if lean < LEANING:
        return words[0]
    return words[1] if lean > math.pi / 2 - LEANING else "-".join(words)
