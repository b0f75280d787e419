"""Common lines: straight sides of parts that lie a kerf apart have one path, and are cut once."""

from __future__ import annotations

import itertools
from collections.abc import Sequence

import numpy as np
import shapely

from zygon.geometry.contour import Contour
from zygon.toolpath.stretches import merged, stretch

__all__ = ["SAME", "Interval", "owned", "shared"]

#: Paths that lie this near to each other (mm) are one, and what is left between two shared stretches is nothing where it is shorter.
SAME = 0.01
Interval = tuple[float, float]


def shared(contours: Sequence[Contour], of: Sequence[int]) -> tuple[list[list[Interval]], list[set[int]]]:
    """Of closed paths of pieces (``of`` tells whose each is) the stretches that a path of an earlier piece goes along too, from where to where along each in mm; and of each path the earlier ones that it hangs on.

    What lies on a third one as well is told once.
    """
    sides: list[tuple[int, float, float, tuple[float, float], tuple[float, float]]] = []
    for k, c in enumerate(contours):
        done = 0.0
        for s in c.segments():
            if not s.bulge and s.length > SAME:
                sides.append((k, done, s.length, s.p, s.q))
            done += s.length
    found: list[list[Interval]] = [[] for _ in contours]
    hangs: list[set[int]] = [set() for _ in contours]
    if not sides:
        return found, hangs
    lines = shapely.linestrings([[p, q] for _, _, _, p, q in sides])
    tree = shapely.STRtree(lines)
    one, other = tree.query(lines, predicate="dwithin", distance=SAME)
    for i, j in zip(np.asarray(one).tolist(), np.asarray(other).tolist(), strict=True):
        k, start, long, p, q = sides[i]
        m, _, _, a, b = sides[j]
        if of[m] >= of[k]:
            continue
        ux, uy = (q[0] - p[0]) / long, (q[1] - p[1]) / long
        offs = [abs((x - p[0]) * uy - (y - p[1]) * ux) for x, y in (a, b)]
        if max(offs) > SAME:
            continue
        low, high = sorted((x - p[0]) * ux + (y - p[1]) * uy for x, y in (a, b))
        low, high = max(low, 0.0), min(high, long)
        if high - low > SAME:
            found[k].append((start + low, start + high))
            hangs[k].add(m)
    return [merged(f, SAME) for f in found], hangs


def owned(contour: Contour, gone: Sequence[Interval]) -> tuple[Contour, ...]:
    """What of a closed path is its own: open runs in its direction, none where all of it is shared."""
    if not gone:
        return ()
    segments = contour.segments()
    total = sum(s.length for s in segments)
    found = []
    for (_, begins), (ends, _) in itertools.pairwise([*gone, (gone[0][0] + total, gone[0][1] + total)]):
        if ends - begins <= SAME:
            continue
        if ends <= total:
            found.append(stretch(segments, begins, ends))
        elif begins >= total:
            found.append(stretch(segments, begins - total, ends - total))
        else:  # over the place where the contour begins
            first, second = stretch(segments, begins, total), stretch(segments, 0.0, ends - total)
            found.append(_joined(first, second))
    return tuple(f for f in found if f.bulges)


def _joined(first: Contour, second: Contour) -> Contour:
    if not first.bulges or not second.bulges:
        return first if first.bulges else second
    return Contour((*first.points, *second.points[1:]), (*first.bulges, *second.bulges), (*first.owners, *second.owners), closed=False)
