"""Where a beam goes slower: before and after sharp corners, where it would burn the point off or lag behind its head."""

from __future__ import annotations

import math
from collections.abc import Sequence

from zygon.geometry.arc import arc_from_bulge
from zygon.geometry.contour import Contour, Segment
from zygon.tolerance import EPS
from zygon.toolpath.stretches import merged, stretch

__all__ = ["SHARP", "paced"]

#: A way that turns by at least so much at a point has a corner there.
SHARP = math.radians(20)


def paced(run: Contour, way: float) -> list[tuple[Contour, bool]]:
    """An open run in stretches, each with whether it is within ``way`` mm of a sharp corner; an arc of no larger radius than that is one too."""
    segments = run.segments()
    total = sum(s.length for s in segments)
    slow = merged(((max(low - way, 0.0), min(high + way, total)) for low, high in _corners(segments, way)), EPS) if way > 0 else []
    found: list[tuple[Contour, bool]] = []
    done = 0.0
    for low, high in slow:
        found += [(stretch(segments, done, low), False), (stretch(segments, low, high), True)]
        done = high
    found.append((stretch(segments, done, total), False) if slow else (run, False))
    return [(c, s) for c, s in found if c.bulges]


def _corners(segments: Sequence[Segment], way: float) -> list[tuple[float, float]]:
    """From where to where along a run its corners are, in order."""
    found, done = [], 0.0
    for s, after in zip(segments, [*segments[1:], None], strict=True):
        if s.bulge and arc_from_bulge(s.p, s.q, s.bulge)[2] <= way and 4 * math.atan(abs(s.bulge)) >= SHARP:
            found.append((done, done + s.length))
        done += s.length
        if after is not None:
            (ux, uy), (vx, vy) = s.tangents()[1], after.tangents()[0]
            if math.atan2(abs(ux * vy - uy * vx), ux * vx + uy * vy) >= SHARP:
                found.append((done, done))
    return found
