"""Loose segments to closed contours: ends that meet are joined; runs that stay open are dropped."""

from __future__ import annotations

import math

from zygon.geometry.contour import Contour, Point

__all__ = ["JOIN", "Run", "chained"]

#: Ends this near (mm) are taken for the same point; drawing programs leave gaps of this order.
JOIN = 0.01
#: One open run: points, and a bulge for each segment.
Run = tuple[list[Point], list[float]]


def chained(runs: list[Run]) -> list[Contour]:
    """Closed contours from open or closed runs, in the order they are found."""
    contours: list[Contour] = []
    loose: list[Run] = []
    for points, bulges in runs:
        if len(bulges) >= 1 and math.dist(points[0], points[-1]) <= JOIN and (len(bulges) > 2 or any(bulges)):
            _keep(contours, points[:-1], bulges)
        else:
            loose.append((points, bulges))
    while loose:
        points, bulges = loose.pop()
        grown = True
        while grown and math.dist(points[0], points[-1]) > JOIN:
            grown = False
            for i, (p, b) in enumerate(loose):
                if math.dist(points[-1], p[0]) <= JOIN:
                    points, bulges = points + p[1:], bulges + b
                elif math.dist(points[-1], p[-1]) <= JOIN:
                    points, bulges = points + p[-2::-1], bulges + [-x for x in reversed(b)]
                else:
                    continue
                loose.pop(i)
                grown = True
                break
        if math.dist(points[0], points[-1]) <= JOIN:
            _keep(contours, points[:-1], bulges)
    return contours


def _keep(contours: list[Contour], points: list[Point], bulges: list[float]) -> None:
    clean_points, clean_bulges = [], []
    n = len(points)
    for i in range(n):
        if math.dist(points[i], points[(i + 1) % n]) > 1e-7 or n == 1:
            clean_points.append(points[i])
            clean_bulges.append(bulges[i])
    if len(clean_points) >= 2 and (len(clean_points) > 2 or any(clean_bulges)):
        contour = Contour(tuple(clean_points), tuple(clean_bulges), ("",) * len(clean_points))
        if abs(contour.area) > 1e-6:
            contours.append(contour)
