"""Motions: how a thing at rest is turned, moved or mirrored into its place. Rigid; a mirrored one is left-handed."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from zygon.tolerance import TINY, WITHIN

__all__ = ["IDENTITY", "Motion", "Vector", "mirroring", "moving", "of_rows", "three", "turning"]

Vector = tuple[float, float, float]
Row = tuple[float, float, float, float]
#: Places nearer than this (mm, or as a cosine) count as the same; motions are products of many floats.
SAME = 1e-9


def three(numbers: Iterable[float]) -> Vector:
    """What has to be three numbers."""
    x, y, z = numbers
    return x, y, z


def of_rows(rows: Iterable[Iterable[float]]) -> Motion:
    """The motion of three rows of four numbers."""

    def four(row: Iterable[float]) -> Row:
        a, b, c, d = row
        return a, b, c, d

    return Motion(tuple(four(r) for r in rows))


@dataclass(frozen=True)
class Motion:
    """``rows`` (3, 4): the linear part, orthogonal, and the shift in mm. Products are written ``outer @ inner``."""

    rows: tuple[Row, ...]

    def __matmul__(self, inner: Motion) -> Motion:
        if self.plain:
            return inner
        if inner.plain:
            return self
        b = inner.rows
        rows = []
        for r in self.rows:
            row = [r[0] * b[0][j] + r[1] * b[1][j] + r[2] * b[2][j] for j in range(4)]
            row[3] += r[3]
            rows.append(row)
        return of_rows(rows)

    @cached_property
    def inverse(self) -> Motion:
        """The way back."""
        if self.plain:
            return self
        m = self.rows
        rows = []
        for i in range(3):
            rows.append((m[0][i], m[1][i], m[2][i], -sum(m[k][i] * m[k][3] for k in range(3))))
        return Motion(tuple(rows))

    @cached_property
    def plain(self) -> bool:
        """Whether nothing moves."""
        return all(abs(x - (i == j)) < SAME for i, r in enumerate(self.rows) for j, x in enumerate(r))

    @cached_property
    def shifts(self) -> bool:
        """Whether it moves without turning or mirroring."""
        return all(abs(r[j] - (i == j)) < SAME for i, r in enumerate(self.rows) for j in range(3))

    @cached_property
    def square(self) -> bool:
        """Whether every axis comes to lie along an axis."""
        return all(abs(x) < SAME or abs(abs(x) - 1) < SAME for r in self.rows for x in r[:3])

    @cached_property
    def handed(self) -> int:
        """1, or -1 where it mirrors."""
        (a, b, c, _), (d, e, f, _), (g, h, i, _) = self.rows
        return 1 if a * (e * i - f * h) - b * (d * i - f * g) + c * (d * h - e * g) > 0 else -1

    @property
    def shift(self) -> Vector:
        """Where the origin comes to lie, in mm."""
        return self.rows[0][3], self.rows[1][3], self.rows[2][3]

    def point(self, p: Sequence[float]) -> Vector:
        """Where a point comes to lie."""
        return three(r[0] * p[0] + r[1] * p[1] + r[2] * p[2] + r[3] for r in self.rows)

    def vector(self, v: Sequence[float]) -> Vector:
        """Where a direction comes to point."""
        return three(r[0] * v[0] + r[1] * v[1] + r[2] * v[2] for r in self.rows)

    def points(self, p: np.ndarray) -> np.ndarray:
        """Where points (n, 3) come to lie."""
        m = np.array(self.rows)
        return p @ m[:, :3].T + m[:, 3]

    def same(self, other: Motion) -> bool:
        """Whether both do the same, to a millionth of a millimetre."""
        return all(abs(x - y) < WITHIN for r, s in zip(self.rows, other.rows, strict=True) for x, y in zip(r, s, strict=True))

    def rounded(self) -> Motion:
        """The same without the last digits' noise, so that equal motions have equal hashes."""
        return of_rows([round(x, 10) + 0.0 for x in r] for r in self.rows)

    @property
    def matrix(self) -> tuple[tuple[float, ...], ...]:
        """(4, 4)."""
        return (*self.rows, (0.0, 0.0, 0.0, 1.0))


IDENTITY = Motion(((1.0, 0.0, 0.0, 0.0), (0.0, 1.0, 0.0, 0.0), (0.0, 0.0, 1.0, 0.0)))


def moving(by: Sequence[float]) -> Motion:
    """A move by (x, y, z) mm."""
    return Motion(((1.0, 0.0, 0.0, float(by[0])), (0.0, 1.0, 0.0, float(by[1])), (0.0, 0.0, 1.0, float(by[2]))))


def turning(axis: str, through: Sequence[float], angle: float) -> Motion:
    """A turn by ``angle`` radians about a line along x, y or z through a point; right-handed, exact at quarter turns."""
    quarter = angle / (math.pi / 2)
    if abs(quarter - round(quarter)) < TINY:
        c, s = ((1.0, 0.0), (0.0, 1.0), (-1.0, 0.0), (0.0, -1.0))[round(quarter) % 4]
    else:
        c, s = math.cos(angle), math.sin(angle)
    i = "xyz".index(axis)
    j, k = (i + 1) % 3, (i + 2) % 3
    m = [[0.0] * 4 for _ in range(3)]
    m[i][i] = 1.0
    m[j][j], m[j][k], m[k][j], m[k][k] = c, -s, s, c
    m[j][3] = through[j] - c * through[j] + s * through[k]
    m[k][3] = through[k] - s * through[j] - c * through[k]
    return of_rows(m)


def mirroring(axis: str, at: float) -> Motion:
    """A mirror in the plane square to an axis at a place along it."""
    i = "xyz".index(axis)
    rows = [[1.0 if r == c else 0.0 for c in range(4)] for r in range(3)]
    rows[i][i], rows[i][3] = -1.0, 2.0 * at
    return of_rows(rows)
