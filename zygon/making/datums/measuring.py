"""Measuring between places on the blanks: faces, edges, centres; along the axes, the straight way, and the angle.

A place is a box with no to three dimensions (a centre, an edge, a face, a whole blank), at rest in its board's frame and moved with it.
The shortest way between two such is a least-squares problem with bounds.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from itertools import combinations, product
from typing import TYPE_CHECKING

import numpy as np

from zygon.design.document import Measured, MeasuredDrawn, mirrored_axes, scope_of
from zygon.design.layout import MirrorCopy, Place
from zygon.geometry.frame import AXES
from zygon.geometry.motion import Motion
from zygon.making.datums.graph import FACE_SIDES
from zygon.making.datums.placing import handed_motion, motion_between, motion_between_groups
from zygon.tolerance import EPS, TINY

if TYPE_CHECKING:
    from zygon.making.datums.values import Values

__all__ = ["Spot", "angle_between", "measured_value", "placed_spot", "rectangle_spot", "shortest", "spot_at_rest"]

#: What is tried along the sides of two bodies has found its place where a round moves it by less (mm).
SETTLED = 1e-10


@dataclass(frozen=True)
class Spot:
    """``low`` and ``sides`` (3, 3: along each of its own axes, mm) of a box in the room; ``direction`` is a face's normal or an edge's way."""

    low: np.ndarray
    sides: np.ndarray
    direction: np.ndarray | None = None
    flat: bool = False

    @property
    def centre(self) -> np.ndarray:
        """Its middle."""
        return self.low + self.sides.sum(axis=0) / 2


def spot_at_rest(low: list[float], high: list[float], place: Place) -> tuple[list[float], list[float], str]:
    """Low and high corner of what a place names on a box, and the axis of its direction ('' for none). KeyError for a word that names none."""
    low, high, axis = list(low), list(high), ""
    if place.what == "centre":
        low = high = [(a + b) / 2 for a, b in zip(low, high, strict=True)]
    elif place.what in ("face", "edge"):
        words = place.name.split("-")
        if len(words) != (1 if place.what == "face" else 2) or any(w not in FACE_SIDES for w in words):
            raise KeyError(f"{place.name or 'nothing'} names no {place.what} of a board")
        pinned = {}
        for word in words:
            axis, side = FACE_SIDES[word]
            i = AXES.index(axis)
            pinned[axis] = low[i] if side == "low" else high[i]
        if len(pinned) != len(words):
            raise KeyError(f"{place.name} lie on one axis and meet in no edge")
        for x, at in pinned.items():
            low[AXES.index(x)] = high[AXES.index(x)] = at
        if place.what == "edge":
            axis = next(x for x in AXES if x not in pinned)
    elif place.what == "feature":
        raise KeyError("a hole's centre is found only once the design is built")
    return low, high, axis


def placed_spot(low: list[float], high: list[float], place: Place, motion: Motion) -> Spot:
    """A place on a box at rest, in the room. KeyError for a word that names none."""
    a, b, axis = spot_at_rest(low, high, place)
    sides = np.array([motion.vector([b[i] - a[i] if j == i else 0.0 for j in range(3)]) for i in range(3)])
    direction = np.array(motion.vector([1.0 if x == axis else 0.0 for x in AXES])) if axis else None
    return Spot(np.array(motion.point(a)), sides, direction, place.what == "face")


def rectangle_spot(corners: np.ndarray) -> Spot:
    """A rectangle in the room from (3, 3): a corner, the next one along its one side and the next along its other."""
    start, along, up = corners
    sides = np.array((along - start, up - start, np.zeros(3)))
    normal = np.cross(sides[0], sides[1])
    return Spot(start, sides, normal / np.linalg.norm(normal), True)


def shortest(a: Spot, b: Spot) -> tuple[float, np.ndarray, np.ndarray]:
    """The shortest distance in mm, and the points where it is."""
    ways = [s for s in (*a.sides, *(-b.sides)) if np.linalg.norm(s) > EPS]
    if not ways:
        return float(np.linalg.norm(a.low - b.low)), a.low, b.low
    matrix = np.array(ways).T
    found = _bounded(matrix, b.low - a.low)
    n = sum(np.linalg.norm(s) > EPS for s in a.sides)
    p = a.low + matrix[:, :n] @ found[:n]
    q = b.low - matrix[:, n:] @ found[n:]
    return float(np.linalg.norm(p - q)), p, q


def _bounded(matrix: np.ndarray, target: np.ndarray) -> np.ndarray:
    """The x between 0 and 1 that brings matrix · x nearest to the target: coordinate by coordinate; where sides are nearly parallel, exactly."""
    n = matrix.shape[1]
    squares, x = (matrix**2).sum(axis=0), np.full(n, 0.5)
    rest = target - matrix @ x
    for _ in range(300):
        moved = 0.0
        for k in range(n):
            step = min(1.0, max(0.0, x[k] + float(matrix[:, k] @ rest) / squares[k])) - x[k]
            if step:
                x[k] += step
                rest = rest - matrix[:, k] * step
                moved = max(moved, abs(step) * float(squares[k]) ** 0.5)
        if moved < SETTLED:
            return x
    return _tried(matrix, target, x)


def _tried(matrix: np.ndarray, target: np.ndarray, x: np.ndarray) -> np.ndarray:
    """The best x with every coordinate at 0, at 1 or free: some best one has at most three free ones, since there are three dimensions."""
    n, best, least = matrix.shape[1], x, float(np.linalg.norm(target - matrix @ x))
    for count in range(min(n, 3) + 1):
        for free in combinations(range(n), count):
            bound = [k for k in range(n) if k not in free]
            ends = np.array(list(product((0.0, 1.0), repeat=len(bound))))
            rests = target[:, None] - (matrix[:, bound] @ ends.T if bound else np.zeros((3, 1)))
            inner = np.linalg.lstsq(matrix[:, free], rests, rcond=None)[0] if free else np.zeros((0, rests.shape[1]))
            inside = ((inner >= 0) & (inner <= 1)).all(axis=0)
            off = np.linalg.norm(rests - matrix[:, free] @ inner, axis=0)
            off[~inside] = np.inf
            k = int(off.argmin())
            if off[k] < least - TINY:
                least, best = float(off[k]), np.zeros(n)
                best[list(bound)] = ends[k] if bound else []
                best[list(free)] = inner[:, k]
    return best


def angle_between(a: Spot, b: Spot) -> float | None:
    """The angle between faces, edges, or a face and an edge, from 0 to 90 degrees, in radians; None where one has no direction."""
    if a.direction is None or b.direction is None:
        return None
    cosine = min(1.0, abs(float(a.direction @ b.direction)))
    sine = min(1.0, float(np.linalg.norm(np.cross(a.direction, b.direction))))
    angle = math.atan2(sine, cosine)
    return angle if a.flat == b.flat else math.pi / 2 - angle


def measured_value(values: Values, measured: Measured | MeasuredDrawn) -> float:
    """What a measured size is, in mm or radians. KeyError with a sentence's end where what it measures is gone."""
    if isinstance(measured, MeasuredDrawn):
        from zygon.making.datums.drawings import drawn_dimension

        return drawn_dimension(values, measured.drawn, measured.feature, measured.relation)
    a, b = (_spot_of(values, place) for place in (measured.a, measured.b))
    if measured.along == "straight":
        return shortest(a, b)[0]
    if measured.along == "angle":
        angle = angle_between(a, b)
        if angle is None:
            raise KeyError("a point has no direction to take an angle from")
        return angle
    i = AXES.index(measured.along)
    return abs(float(b.centre[i] - a.centre[i]))


def _spot_of(values: Values, place: Place) -> Spot:
    key, _, copies = place.part.partition("@")
    if key not in values.boards:
        name = values.document.parts[key].name if key in values.document.parts else key
        raise KeyError(f"{name} is left out or gone")
    try:
        low, high = ([values.datum(key, a, side) for a in AXES] for side in ("low", "high"))
        motion = _motion_of(values, key, copies)
    except KeyError:
        raise KeyError(f"{values.boards[key].name} has no place yet") from None
    if motion is None:
        raise KeyError("a repeat's copies cannot be measured into a size; take the original")
    if place.what == "face" and "." in place.name:
        leg, _, side = place.name.rpartition(".")
        return rectangle_spot(motion.points(values.leg_face(key, leg, side)))
    return placed_spot(low, high, place.across(mirrored_axes(values.document, copies_of(place.part))), motion)


def copies_of(instance: str) -> list[str]:
    """The keys of the copies that an instance key says it was made by, one after the other."""
    return [step.rpartition(".")[0] for step in instance.split("@")[1:]]


def _motion_of(values: Values, key: str, copies: str) -> Motion | None:
    """From rest to the room, through handed copies; None where another copy is on the way."""
    document = values.document
    if not copies:
        return motion_between(values, key, "")
    motion, home = None, ""
    for step in copies.split("@"):
        copy = step.partition(".")[0]
        record = document.copies.get(copy)
        if not isinstance(record, MirrorCopy):
            return None
        scope = scope_of(document, record.of[0]) or ""
        inner = motion_between(values, key, scope) if motion is None else motion_between_groups(values, home, scope) @ motion
        motion, home = handed_motion(values, copy) @ inner, scope
    return motion_between_groups(values, home, "") @ motion if motion else None
