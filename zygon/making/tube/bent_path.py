"""A bar bent along points with rounded corners: its length before it is bent, and what the bender does, bend by bend.

Radii are of the centre line. The bar is fed, turned about itself, and bent; a turn is taken from the last bend's plane, by the right hand along the feed.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from zygon.errors import MemberError
from zygon.tolerance import CONTACT, EPS, WITHIN

__all__ = ["MOST_BEND", "Bend", "BentPath", "bent_path", "corners_of"]

#: A bend of more than this (degrees) goes back on itself; one of next to nothing is none.
BACK = 179.9
#: A table's bend of more than this (degrees) has its corner too far off to be a point of a path.
MOST_BEND = 175.0


@dataclass(frozen=True)
class Bend:
    """One step of the bender: so far fed since the last bend's end (mm), turned about its own axis and bent by so much (degrees)."""

    feed: float
    turn: float
    bend: float


@dataclass(frozen=True)
class BentPath:
    """The bends in their order, what is straight behind the last of them (mm), and the radius of the centre line (mm)."""

    bends: tuple[Bend, ...]
    end: float
    radius: float

    @property
    def length(self) -> float:
        """The straight bar that it takes, in mm."""
        return sum(b.feed + self.radius * math.radians(b.bend) for b in self.bends) + self.end

    @property
    def marks(self) -> tuple[float, ...]:
        """Where each bend begins on the straight bar, in mm from its end."""
        found, at = [], 0.0
        for b in self.bends:
            found.append(at + b.feed)
            at += b.feed + self.radius * math.radians(b.bend)
        return tuple(found)


def bent_path(points: Sequence[Sequence[float]], radius: float, diameter: float) -> BentPath:
    """What bends a bar of ``diameter`` along ``points`` (n, 3) in mm, each corner rounded by ``radius``.

    Points in line with their neighbours are no bends. Raises MemberError that names the entry: a corner whose round does not go between its
    neighbours, a bar that would go back on itself, a radius that its own thickness does not allow.
    """
    path = _checked(points, radius, diameter)
    ways = np.diff(path, axis=0)
    runs = np.linalg.norm(ways, axis=1)
    if (runs < CONTACT).any():
        k = int((runs < CONTACT).argmax())
        raise _refused("points", f"point {k + 2}", "apart from the one before it")
    ways = ways / runs[:, None]
    straight, bends, normal, fed = runs.copy(), list[Bend](), np.zeros(3), 0.0
    corners = []
    for k in range(1, len(path) - 1):
        angle = _between(ways[k - 1], ways[k])
        if angle > BACK:
            raise _refused("points", f"point {k + 1}", "a corner; here the bar would go back on itself")
        taken = radius * math.tan(math.radians(angle) / 2) if angle > WITHIN else 0.0
        straight[k - 1] -= taken
        straight[k] -= taken
        corners.append(angle if angle > WITHIN else 0.0)
    if (straight < -CONTACT).any():
        k = int(straight.argmin())
        lacking, where = -straight[k], f"between points {k + 1} and {k + 2}"
        raise _refused("points", where, f"room for the rounds at its ends, of radius {radius:g} mm; {lacking:.3f} mm are lacking")
    for k, angle in enumerate(corners):
        fed += float(max(straight[k], 0.0))
        if not angle:
            continue
        across = np.cross(ways[k], ways[k + 1])
        across = across / np.linalg.norm(across)
        turn = _turned(normal, across, ways[k]) if bends else 0.0
        bends.append(Bend(fed, turn, angle))
        normal, fed = across, 0.0
    return BentPath(tuple(bends), fed + float(max(straight[-1], 0.0)), radius)


def corners_of(path: BentPath, way: Sequence[float], toward: Sequence[float]) -> np.ndarray:
    """The points (n, 3) in mm that a path comes by, from the origin on: its start, the corner of each bend, its end.

    ``way`` and ``toward`` are directions square to one another: it begins along the one, and its first bend, if it is not turned, goes toward the other.
    Raises MemberError for a bend that is no corner, and for a straight piece of less than nothing.
    """
    along, normal = np.array(way, dtype=float), np.cross(way, toward)
    points, at, before = [np.zeros(3)], np.zeros(3), 0.0
    for n, bend in enumerate(path.bends, 1):
        if not WITHIN < bend.bend <= MOST_BEND:
            raise _refused(f"bend {n}", f"{bend.bend:g} degrees", f"more than 0 and at most {MOST_BEND:g}")
        if bend.feed < 0:
            raise _refused(f"straight {n}", f"{bend.feed:g} mm", "at least 0")
        after = path.radius * math.tan(math.radians(bend.bend) / 2)
        at = at + along * (before + bend.feed + after)
        points.append(at)
        normal = _spun(normal, along, bend.turn)
        along, before = _spun(along, normal, bend.bend), after
    if path.end < 0 or before + path.end <= CONTACT:
        raise _refused("last straight", f"{path.end:g} mm", "at least 0, and more where nothing is bent")
    return np.array([*points, at + along * (before + path.end)])


def _spun(v: np.ndarray, axis: np.ndarray, degrees: float) -> np.ndarray:
    """A direction turned about another that it is square to, by the right hand."""
    a = math.radians(degrees)
    return v * math.cos(a) + np.cross(axis, v) * math.sin(a)


def _checked(points: Sequence[Sequence[float]], radius: float, diameter: float) -> np.ndarray:
    for entry, value in (("diameter", diameter), ("radius", radius)):
        if not (math.isfinite(value) and value > 0):
            raise _refused(entry, f"{value:g}", "greater than 0")
    if radius < diameter / 2:
        raise _refused("radius", f"{radius:g}", f"of the centre line, at least half of the diameter of {diameter:g} mm")
    if len(points) < 2 or any(len(p) != 3 for p in points):
        raise _refused("points", f"{len(points)} of them", "two or more, each x, y and z")
    path = np.array(points, dtype=float)
    if not np.isfinite(path).all():
        raise _refused("points", "one of them", "numbers")
    return path


def _between(a: np.ndarray, b: np.ndarray) -> float:
    """The angle between two directions in degrees."""
    return math.degrees(math.atan2(float(np.linalg.norm(np.cross(a, b))), float(a @ b)))


def _turned(before: np.ndarray, after: np.ndarray, way: np.ndarray) -> float:
    """From one bend's plane to the next, about the way between them: from over -180 to 180 degrees."""
    turn = math.degrees(math.atan2(float(np.cross(before, after) @ way), float(before @ after)))
    return turn if turn > -180 + EPS else 180.0


def _refused(entry: str, value: str, rule: str) -> MemberError:
    return MemberError(f"{entry}, {value}: {rule}", entry=entry, value=value, rule=rule)
