"""Loose segments to closed contours: ends that meet are joined; runs that stay open are dropped."""

from __future__ import annotations

import math
from collections import deque
from itertools import product

from zygon.geometry.contour import Contour, Point
from zygon.tolerance import MERGED, WITHIN

__all__ = ["JOIN", "LayeredRun", "Run", "chained"]

#: Ends this near (mm) are taken for the same point; drawing programs leave gaps of this order.
JOIN = 0.01
#: One open run: points, and a bulge for each segment.
Run = tuple[list[Point], list[float]]
#: The name of a layer, and a run on it.
LayeredRun = tuple[str, Run]


def chained(runs: list[Run], mend: float = JOIN, gaps: list[tuple[Point, float]] | None = None) -> tuple[list[Contour], list[Run]]:
    """Closed contours from open or closed runs, in the order they are found, and the runs that stay open.

    Ends that are up to ``mend`` mm apart are joined too, where nothing nearer is there to join; ``gaps`` is told where, and how wide they were.
    """
    closed = [] if gaps is None else gaps
    contours: list[Contour] = []
    loose: list[Run] = []
    open_: list[Run] = []
    for points, bulges in runs:
        if len(bulges) >= 1 and math.dist(points[0], points[-1]) <= JOIN and (len(bulges) > 2 or any(bulges)):
            _keep(contours, points[:-1], bulges)
        else:
            loose.append((points, bulges))
    reaches = [_Ends(loose, reach) for reach in dict.fromkeys((JOIN, mend))]
    left = [True] * len(loose)
    for n in range(len(loose) - 1, -1, -1):
        if not left[n]:
            continue
        left[n] = False
        points, bulges = list(loose[n][0]), list(loose[n][1])
        for ends in reaches:
            ends.grow(points, bulges, left, closed)
        gap = math.dist(points[0], points[-1])
        if gap <= JOIN:
            _keep(contours, points[:-1], bulges)
        elif gap <= mend and len(bulges) > 1:
            closed.append((points[-1], gap))
            _keep(contours, points, [*bulges, 0.0])
        else:
            open_.append((points, bulges))
    return contours, open_


class _Ends:
    """The ends of loose runs by the square that they lie in, twice as wide as ``reach``: what meets an end lies in that square or beside it."""

    def __init__(self, loose: list[Run], reach: float) -> None:
        self.loose, self.reach = loose, reach
        self.squares: dict[tuple[int, int], deque[int]] = {}
        for n, (points, _) in enumerate(loose):
            for square in {self._square(points[0]), self._square(points[-1])}:
                self.squares.setdefault(square, deque()).append(n)

    def _square(self, point: Point) -> tuple[int, int]:
        return math.floor(point[0] / self.reach / 2), math.floor(point[1] / self.reach / 2)

    def grow(self, points: list[Point], bulges: list[float], left: list[bool], gaps: list[tuple[Point, float]]) -> None:
        """Appends to a run the one that is left and meets its end, and the next, and so on, until it is closed; those are left no more."""
        while math.dist(points[0], points[-1]) > self.reach:
            n = self._meeting(points[-1], left)
            if n is None:
                return
            left[n] = False
            more, its = self.loose[n]
            if math.dist(points[-1], more[0]) > self.reach:
                more, its = more[::-1], [-x for x in reversed(its)]
            near = math.dist(points[-1], more[0]) <= JOIN
            if not near:
                gaps.append((points[-1], math.dist(points[-1], more[0])))
            points += more[1:] if near else more
            bulges += its if near else [0.0, *its]

    def _meeting(self, end: Point, left: list[bool]) -> int | None:
        """The first run of those left that begins or ends here."""
        x, y = self._square(end)
        found: list[int] = []
        for square in product((x - 1, x, x + 1), (y - 1, y, y + 1)):
            here = self.squares.get(square)
            while here and not left[here[0]]:
                here.popleft()
            meets = (
                n
                for n in here or ()
                if left[n] and min(math.dist(end, p) for p in (self.loose[n][0][0], self.loose[n][0][-1])) <= self.reach
            )
            found += [n for n in [next(meets, None)] if n is not None]
        return min(found, default=None)


def _keep(contours: list[Contour], points: list[Point], bulges: list[float]) -> None:
    clean_points, clean_bulges = [], []
    n = len(points)
    for i in range(n):
        if math.dist(points[i], points[(i + 1) % n]) > MERGED or n == 1:
            clean_points.append(points[i])
            clean_bulges.append(bulges[i])
    if len(clean_points) >= 2 and (len(clean_points) > 2 or any(clean_bulges)):
        contour = Contour(tuple(clean_points), tuple(clean_bulges), ("",) * len(clean_points))
        if abs(contour.area) > WITHIN:
            contours.append(contour)
