"""A connector's body: sleeves about a ball, the plate of a foot, and the holes that its sockets are."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from functools import cached_property
from itertools import permutations

import numpy as np

from zygon.geometry.motion import Motion
from zygon.making.result.body import Corners, Matrix
from zygon.making.tube.body import fine_ring
from zygon.making.tube.cuts import MIRROR
from zygon.memo import digest as digest_of
from zygon.stock.section import Section

__all__ = ["ConnectorBody", "Given", "Plate", "Sleeve"]

#: What is told apart of two connectors, in mm.
FINE = 4


@dataclass(frozen=True)
class Sleeve:
    """One socket: ``place`` takes its (u, v, w) to the connector's own, w outward. Its outside reaches from ``start`` to ``out``, its hole is ``deep``
    from its mouth, or all along where it goes ``through``. ``said`` is the way in which it looks before it swings. One that goes ``inside`` is a spigot:
    ``inner`` is what goes into the tube's bore, from ``deep`` before ``out`` on, and ``outer`` the shoulder that the tube comes up to."""

    key: str
    place: Motion
    inner: Section
    outer: Section
    start: float
    out: float
    deep: float
    through: bool
    said: tuple[float, float, float]
    swings: bool = False
    inside: bool = False

    @property
    def mirrored(self) -> Sleeve:
        """Left for right."""
        x, y, z = self.said
        return replace(self, place=MIRROR @ self.place @ MIRROR, said=(-x, y, z))

    @property
    def back(self) -> float:
        """How far from the middle a member ends in it."""
        return self.out - self.deep

    @property
    def hole(self) -> tuple[float, float]:
        """From where to where along w its hole is, or its spigot."""
        return (self.start if self.through else self.back), self.out

    @property
    def outside(self) -> tuple[float, float]:
        """From where to where along w its outside reaches: a spigot's shoulder as far as its tube."""
        return self.start, (self.back if self.inside else self.out)

    def play(self, section: Section) -> float:
        """How much wider it is than a member of a section, or a member's bore than it as a spigot; mm."""
        if self.inside:
            return section.height - 2 * section.wall - self.inner.height
        return self.inner.height - section.height


@dataclass(frozen=True)
class Plate:
    """The round plate of a foot, behind the middle as its first socket looks: ``diameter``, ``thick`` and its ``place``."""

    place: Motion
    diameter: float
    thick: float


@dataclass(frozen=True)
class Given:
    """A shape that was read from a file: a mesh whose ``middle`` is the point of its lines."""

    positions: tuple[float, ...]
    triangles: tuple[int, ...]
    volume: float
    middle: tuple[float, float, float]
    mirror: bool = False


@dataclass(frozen=True)
class ConnectorBody:
    """``ball`` is the radius of what stands about the middle, 0 for nothing."""

    sleeves: tuple[Sleeve, ...]
    ball: float = 0.0
    plate: Plate | None = None
    given: Given | None = None
    layered: bool = False
    empty: bool = False

    def of(self, socket: str) -> Sleeve:
        """A socket by its key."""
        return next(s for s in self.sleeves if s.key == socket)

    @cached_property
    def digest(self) -> str:
        """The hash of what it was made from."""
        return digest_of("connector", self.sleeves, self.ball, self.plate, self.given)

    @property
    def mirrored(self) -> ConnectorBody:
        """Left for right across x."""
        plate = replace(self.plate, place=MIRROR @ self.plate.place @ MIRROR) if self.plate else None
        given = replace(self.given, mirror=not self.given.mirror) if self.given else None
        return replace(self, sleeves=tuple(s.mirrored for s in self.sleeves), plate=plate, given=given)

    @cached_property
    def alike(self) -> str:
        """The same however its sockets are counted, it lies, or what swings is swung."""
        return _signature(self, 1.0)

    @cached_property
    def other_hand(self) -> str:
        """What ``alike`` is of the mirror image."""
        return _signature(self, -1.0)

    @cached_property
    def _corners(self) -> np.ndarray:
        """Points (n, 3) that nothing of it reaches beyond, but for its ball."""
        found = []
        for s in self.sleeves:
            ring = fine_ring(s.outer)
            for w in s.outside:
                found.append(s.place.points(np.column_stack((ring, np.full(len(ring), w)))))
            if s.inside:
                ring = fine_ring(s.inner)
                found.append(s.place.points(np.column_stack((ring, np.full(len(ring), s.out)))))
        if self.plate:
            angles = np.arange(180) * math.pi / 90
            ring = np.column_stack((np.cos(angles), np.sin(angles))) * self.plate.diameter / 2
            for w in (0.0, self.plate.thick):
                found.append(self.plate.place.points(np.column_stack((ring, np.full(len(ring), w)))))
        return np.vstack(found)

    def reach(self, matrix: Matrix) -> Corners:
        """To within the chords that a picture has."""
        m = np.array(matrix)
        points = self.given_points if self.given else self._corners
        seen = points @ m[:3, :3].T + m[:3, 3]
        low, high = seen.min(axis=0), seen.max(axis=0)
        if not self.given and self.ball:
            low, high = np.minimum(low, m[:3, 3] - self.ball), np.maximum(high, m[:3, 3] + self.ball)
        return tuple(np.round(low, 7).tolist()), tuple(np.round(high, 7).tolist())

    @cached_property
    def given_points(self) -> np.ndarray:
        """The corners (n, 3) of a shape that was read, about its middle."""
        assert self.given
        points = np.array(self.given.positions).reshape(-1, 3) - self.given.middle
        return points * (-1.0, 1.0, 1.0) if self.given.mirror else points


def _signature(body: ConnectorBody, hand: float) -> str:
    """The least of what its sockets look like, seen along each of them and across a second one."""
    given = (body.given.positions, body.given.middle, body.given.mirror is (hand > 0)) if body.given else None
    ways = [np.array(s.said) * (hand, 1.0, 1.0) for s in body.sleeves]
    besides = [np.array(s.place.shift) * (hand, 1.0, 1.0) for s in body.sleeves]
    said: list[tuple[object, ...]] = [
        (s.through, s.inner, s.outer, round(s.start, FINE), round(s.out, FINE), round(s.deep, FINE), s.swings, s.inside)
        for s in body.sleeves
    ]
    found = []
    for i, j in permutations(range(len(ways)), 2):
        across = np.cross(ways[i], ways[j])
        if np.linalg.norm(across) < 1 / 10**FINE:
            continue
        for a, b in (
            (s, t) for s in ((1, -1) if body.sleeves[i].through else (1,)) for t in ((1, -1) if body.sleeves[j].through else (1,))
        ):
            found.append(_seen(ways[i] * a, ways[j] * b, ways, besides, said))
    if not found:  # all along one line: what is seen along it
        found = [_seen(way, np.eye(3)[int(np.abs(way).argmin())], ways, besides, said) for way in ways]
    plate = (round(body.plate.diameter, FINE), round(body.plate.thick, FINE)) if body.plate else None
    return digest_of("connector", min(found, key=repr), round(body.ball, FINE), plate, given)


def _seen(
    first: np.ndarray, second: np.ndarray, ways: list[np.ndarray], besides: list[np.ndarray], said: list[tuple[object, ...]]
) -> list[tuple[object, ...]]:
    """Every socket in the directions of a first and a second, in order; one that goes through looks both ways."""
    normal = np.cross(first, second)
    normal = normal / np.linalg.norm(normal)
    basis = np.array((first, np.cross(normal, first), normal))
    found = []
    for way, beside, more in zip(ways, besides, said, strict=True):
        looks = tuple((np.round(basis @ way, FINE) + 0.0).tolist())
        if more[0]:
            looks = max(looks, tuple(-x + 0.0 for x in looks))
        found.append((looks, tuple((np.round(basis @ beside, FINE) + 0.0).tolist()), *more))
    return sorted(found, key=repr)
