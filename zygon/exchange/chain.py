"""Loose segments to closed contours: ends that meet are joined; runs that stay open are dropped."""

from __future__ import annotations

import math

from zygon.geometry.contour import Contour, Point
from zygon.tolerance import MERGED, WITHIN

__all__ = ["JOIN", "Run", "chained"]

#: Ends this near (mm) are taken for the same point; drawing programs leave gaps of this order.
JOIN = 0.01
#: One open run: points, and a bulge for each segment.
Run = tuple[list[Point], list[float]]


def chained(runs: list[Run], mend: float = JOIN) -> tuple[list[Contour], list[Run]]:
    """Closed contours from open or closed runs, in the order they are found, and the runs that stay open.

    Ends that are up to ``mend`` mm apart are joined too, where nothing nearer is there to join.
    """
    contours: list[Contour] = []
    loose: list[Run] = []
    open_: list[Run] = []
    for points, bulges in runs:
        if len(bulges) >= 1 and math.dist(points[0], points[-1]) <= JOIN and (len(bulges) > 2 or any(bulges)):
            _keep(contours, points[:-1], bulges)
        else:
            loose.append((points, bulges))
    while loose:
        points, bulges = loose.pop()
        for reach in dict.fromkeys((JOIN, mend)):
            points, bulges = _grown(points, bulges, loose, reach)
        gap = math.dist(points[0], points[-1])
        if gap <= JOIN:
            _keep(contours, points[:-1], bulges)
        elif gap <= mend and len(bulges) > 1:
            _keep(contours, points, [*bulges, 0.0])
        else:
            open_.append((points, bulges))
    return contours, open_


def _grown(points: list[Point], bulges: list[float], loose: list[Run], reach: float) -> Run:
    """A run with the loose ones that meet its end, and the next, and so on; those are taken out of ``loose``."""
    grown = True
    while grown and math.dist(points[0], points[-1]) > reach:
        grown = False
        for i, (p, b) in enumerate(loose):
            if math.dist(points[-1], p[0]) <= reach:
                more, its = p, b
            elif math.dist(points[-1], p[-1]) <= reach:
                more, its = p[::-1], [-x for x in reversed(b)]
            else:
                continue
            near = math.dist(points[-1], more[0]) <= JOIN
            points, bulges = points + (more[1:] if near else more), bulges + (its if near else [0.0, *its])
            loose.pop(i)
            grown = True
            break
    return points, bulges


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
