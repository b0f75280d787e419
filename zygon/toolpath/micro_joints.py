"""Micro-joints: places of an outline at which the beam goes off, so that the piece stays held in the sheet."""

from __future__ import annotations

from zygon.geometry.contour import Contour, Segment
from zygon.tolerance import EPS
from zygon.toolpath.stretches import stretch

__all__ = ["jointed"]

#: No joint lies nearer to a corner than so many of its widths.
CLEAR = 2.0


def jointed(run: Contour, around: float, count: int, width: float) -> tuple[Contour, ...]:
    """A run with its leads, in pieces: ``count`` gaps of ``width`` mm along the contour of length ``around``, spread alike, each moved to the nearest place clear of corners.

    Fewer where there is no room: gaps take no more than half of the contour.
    """
    segments = run.segments()
    total = sum(s.length for s in segments)
    count = min(count, int(around / 2 / max(width, EPS)))
    if count < 1 or width <= 0:
        return (run,)
    lead = _before(segments, total - around)
    wanted = [lead + around * (k + 0.5) / count for k in range(count)]
    gaps: list[tuple[float, float]] = []
    for at in wanted:
        low = _clear(segments, at, width)
        if not gaps or low > gaps[-1][1] + width:
            gaps.append((low, low + width))
    found, done = [], 0.0
    for low, high in gaps:
        found.append(stretch(segments, done, low))
        done = high
    found.append(stretch(segments, done, total))
    return tuple(f for f in found if f.bulges)


def _before(segments: list[Segment], over: float) -> float:
    """How long the lead-in is: the first segment where leads are longer than nothing."""
    return segments[0].length if over > EPS else 0.0


def _clear(segments: list[Segment], at: float, width: float) -> float:
    """Where a gap about a place begins, moved on its segment so that it keeps clear of both ends where that is long enough."""
    done = 0.0
    for s in segments:
        if at < done + s.length:
            room = s.length - (1 + 2 * CLEAR) * width
            return min(max(at - width / 2, done + CLEAR * width), done + CLEAR * width + room) if room > 0 else at - width / 2
        done += s.length
    return at - width / 2
