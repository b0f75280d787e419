"""What relations ask, as equations in the row of unknowns, each in mm so that all weigh alike.

An equation is a sum of linear terms less its target, and of terms of four kinds: how far two points are apart, how far a point lies off a line (to its
left is positive), how far two directions are from an angle, how far two points are apart along a line. The way a relation holds (on which side, to
which hand, from inside or outside) is how it holds in the drawing as it is kept, so that nothing turns over.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence

import numpy as np
from scipy.sparse import csr_matrix

from zygon.drawing.unknowns import LineAt, PointAt, RoundAt, Unknowns
from zygon.drawn.drawing import DIMENSIONS, DrawnArc, Relation
from zygon.tolerance import TINY

__all__ = ["Equations", "angle_between", "beside"]


class Equations:
    """The equations of some relations of a drawing; ``rows`` are their owners, a relation's key or 'curve:KEY' of what makes an arc one.

    ``figures`` are what dimensions say, in mm or radians, by the relation's key. ``alone`` they leave arcs be that they do not touch.
    """

    def __init__(self, unknowns: Unknowns, relations: Mapping[str, Relation], figures: Mapping[str, float], *, alone: bool = False) -> None:
        self.u = unknowns
        self.asked = tuple(relations)
        self.rows: list[str] = []
        self._linear: list[tuple[int, int, float]] = []
        self._targets: list[float] = []
        self._apart: list[tuple[int, float, PointAt, PointAt]] = []
        self._off: list[tuple[int, PointAt, PointAt, LineAt]] = []
        self._askew: list[tuple[int, tuple[PointAt, PointAt, PointAt, PointAt], float, float]] = []
        self._along: list[tuple[int, PointAt, PointAt, LineAt]] = []
        touched = {k.partition(".")[0] for r in relations.values() for k in (*r.of, *(unknowns.drawing.point(o) for o in r.of))}
        touched |= {p for k in touched & set(unknowns.drawing.curves) for p in unknowns.drawing.curves[k].points()}
        for key, curve in unknowns.drawing.curves.items():
            if isinstance(curve, DrawnArc) and not (alone and touched.isdisjoint({key, *curve.points()})):
                c = unknowns.points[curve.centre]
                for end in (curve.a, curve.b):
                    self._dist(self._row(f"curve:{key}", linear=[(unknowns.radii[key], -1.0)]), unknowns.points[end], c)
        for key, relation in relations.items():
            if relation.kind not in DIMENSIONS:
                self._relate(key, relation)
            elif key in figures:
                self._measure(key, relation, figures[key])
        self._pack()

    # -- rows

    def _row(self, owner: str, target: float = 0.0, linear: Sequence[tuple[int, float]] = ()) -> int:
        n = len(self.rows)
        self.rows.append(owner)
        self._targets.append(target)
        self._linear += [(n, at, c) for at, c in linear]
        return n

    def _same(self, owner: str, i: int, j: int, target: float = 0.0) -> None:
        self._row(owner, target, [(i, 1.0), (j, -1.0)])

    def _dist(self, row: int, p: PointAt, q: PointAt, sign: float = 1.0) -> None:
        self._apart.append((row, sign, p, q))

    def _offset(
        self, owner: str, p: PointAt, q: PointAt, line: LineAt, target: float = 0.0, linear: Sequence[tuple[int, float]] = ()
    ) -> None:
        """The middle of p and q lies so far to the left of a line."""
        self._off.append((self._row(owner, target, linear), p, q, line))

    def _angle(self, owner: str, one: tuple[PointAt, PointAt], other: tuple[PointAt, PointAt], wanted: float) -> None:
        seen = _angle(self.u.start, one, other)
        # a whole turn more or less is the same angle: the nearer one is meant
        wanted = seen + math.remainder(wanted - seen, 2 * math.pi)
        self._askew.append((self._row(owner), (*one, *other), seen, wanted))

    # -- what is asked

    def _relate(self, key: str, relation: Relation) -> None:
        u, of = self.u, relation.of
        first, rest = of[0], of[1:]
        match relation.kind:
            case "same_place":
                for other in rest:
                    self._meet(key, u.point(first), u.point(other))
            case "on":
                self._on(key, u.point(first), of[1])
            case "level" | "upright":
                k = 1 if relation.kind == "level" else 0
                ends = [u.line(first)[:2], u.line(first)[2:]] if u.is_line(first) else [u.point(p) for p in of]
                for p in ends[1:]:
                    self._same(key, p[k], ends[0][k])
            case "in_line":
                for other in rest:
                    line = u.line(other)
                    for p in (line[:2], line[2:]):
                        self._offset(key, p, p, u.line(first))
            case "parallel":
                for other in rest:
                    self._turn(key, first, other, (0.0, math.pi))
            case "square":
                self._turn(key, first, of[1], (math.pi / 2, -math.pi / 2))
            case "tangent":
                self._tangent(key, first, of[1])
            case "equal":
                for other in rest:
                    if u.is_line(first):
                        row, a, b = self._row(key), u.line(first), u.line(other)
                        self._dist(row, a[:2], a[2:])
                        self._dist(row, b[:2], b[2:], -1.0)
                    else:
                        self._same(key, u.round(first)[2], u.round(other)[2])
            case "same_centre":
                for other in rest:
                    self._meet(key, self._centre(first), self._centre(other))
            case "middle":
                ends = [u.line(of[1])[:2], u.line(of[1])[2:]] if u.is_line(of[1]) else [u.point(p) for p in rest]
                p = u.point(first)
                for k in (0, 1):
                    self._row(key, linear=[(p[k], 1.0), (ends[0][k], -0.5), (ends[1][k], -0.5)])
            case "mirrored":
                self._mirror(key, first, of[1], u.line(of[2]))
            case _:  # held
                p = u.point(first)
                for at in p:
                    self._row(key, float(u.start[at]), [(at, 1.0)])

    def _meet(self, key: str, p: PointAt, q: PointAt) -> None:
        for k in (0, 1):
            self._same(key, p[k], q[k])

    def _centre(self, of: str) -> PointAt:
        return self.u.round(of)[:2] if self.u.drawing.thing(of) == "c" else self.u.point(of)

    def _on(self, key: str, p: PointAt, other: str) -> None:
        if self.u.is_line(other):
            self._offset(key, p, p, self.u.line(other))
        else:
            cx, cy, r = self.u.round(other)
            self._dist(self._row(key, linear=[(r, -1.0)]), p, (cx, cy))

    def _ways(self, key: str) -> tuple[PointAt, PointAt]:
        line = self.u.line(key)
        return line[:2], line[2:]

    def _turn(self, key: str, first: str, other: str, ways: tuple[float, float]) -> None:
        one, two = self._ways(first), self._ways(other)
        seen = _angle(self.u.start, one, two)
        self._angle(key, one, two, min(ways, key=lambda w: abs(math.remainder(w - seen, 2 * math.pi))))

    def _tangent(self, key: str, first: str, other: str) -> None:
        u = self.u
        if "s" in (u.drawing.thing(first), u.drawing.thing(other)):
            return  # a smooth curve goes on from what ends where it does; nothing moves for that
        if u.is_line(other):
            first, other = other, first
        shared = u.shared(first, other)
        circle = u.round(other)
        if u.is_line(first):
            if shared:
                p = u.points[shared]
                seen = _angle(u.start, self._ways(first), (circle[:2], p))
                self._angle(key, self._ways(first), (circle[:2], p), math.copysign(math.pi / 2, seen))
                return
            line = u.line(first)
            side = 1.0 if _off(u.start, circle[:2], circle[:2], line) >= 0 else -1.0
            self._offset(key, circle[:2], circle[:2], line, linear=[(circle[2], -side)])
            return
        one = u.round(first)
        if shared:
            p = u.points[shared]
            seen = _angle(u.start, (one[:2], p), (circle[:2], p))
            self._angle(key, (one[:2], p), (circle[:2], p), 0.0 if abs(seen) < math.pi / 2 else math.pi)
            return
        self._touch(key, one, circle)

    def _touch(self, key: str, one: RoundAt, other: RoundAt) -> None:
        """Two circles touch from outside, or one from inside the other, whichever is nearer."""
        x = self.u.start
        apart, r, s = _dist(x, one[:2], other[:2]), float(x[one[2]]), float(x[other[2]])
        ways = [(abs(apart - r - s), [(one[2], -1.0), (other[2], -1.0)])]
        ways += [(abs(apart - abs(r - s)), [(one[2], -1.0), (other[2], 1.0)] if r >= s else [(one[2], 1.0), (other[2], -1.0)])]
        self._dist(self._row(key, linear=min(ways, key=lambda w: w[0])[1]), one[:2], other[:2])

    def _mirror(self, key: str, first: str, other: str, about: LineAt) -> None:
        u, x = self.u, self.u.start
        thing = u.drawing.thing(first)
        if thing == "c":
            ring, image = u.round(first), u.round(other)
            self._image(key, ring[:2], image[:2], about)
            self._same(key, ring[2], image[2])
        elif thing == "p":
            self._image(key, u.point(first), u.point(other), about)
        else:
            one, two = self._ways(first), self._ways(other)
            gaps = [sum(_image_gap(x, p, q, about) for p, q in zip(one, ends, strict=True)) for ends in (two, two[::-1])]
            for p, q in zip(one, two if gaps[0] <= gaps[1] else two[::-1], strict=True):
                self._image(key, p, q, about)

    def _image(self, key: str, p: PointAt, q: PointAt, about: LineAt) -> None:
        if p != q:
            self._along.append((self._row(key), p, q, about))
        self._offset(key, p, q, about)

    def _measure(self, key: str, relation: Relation, figure: float) -> None:
        u, of = self.u, relation.of
        match relation.kind:
            case "radius" | "diameter":
                self._row(key, figure / (2 if relation.kind == "diameter" else 1), [(u.round(of[0])[2], 1.0)])
            case "across" | "up":
                k = 0 if relation.kind == "across" else 1
                p, q = self._two(of)
                sign = 1.0 if u.start[q[k]] >= u.start[p[k]] else -1.0
                self._same(key, q[k], p[k], sign * figure)
            case "angle":
                one, two = self._from_corner(*of)
                seen = _angle(u.start, one, two)
                self._angle(key, one, two, math.copysign(figure, seen))
            case _:
                lines = [k for k in of if u.is_line(k)]
                if rounds := [k for k in of if u.drawing.thing(k) == "c"]:
                    self._gap(key, rounds, [k for k in of if k not in rounds], figure)
                    return
                if not lines or len(of) == 1:
                    self._dist(self._row(key, figure), *self._two(of))
                    return
                line = lines[0]
                p, q = self._middle(next(k for k in of if k != line))
                side = 1.0 if _off(u.start, p, q, u.line(line)) >= 0 else -1.0
                self._offset(key, p, q, u.line(line), side * figure)

    def _gap(self, key: str, rounds: list[str], rest: list[str], figure: float) -> None:
        """Between a circle and a line, a point or another circle, where they come nearest; of one that lies within the other the wall between them."""
        u, x = self.u, self.u.start
        one = u.round(rounds[0])
        if rest and u.is_line(rest[0]):
            line = u.line(rest[0])
            side = 1.0 if _off(x, one[:2], one[:2], line) >= 0 else -1.0
            self._offset(key, one[:2], one[:2], line, side * figure, [(one[2], -side)])
            return
        if rest:
            p = u.point(rest[0])
            sign = 1.0 if _dist(x, one[:2], p) >= x[one[2]] else -1.0
            self._dist(self._row(key, figure, [(one[2], -sign)]), one[:2], p, sign)
            return
        large, small = sorted((one, u.round(rounds[1])), key=lambda c: -x[c[2]])
        if beside(_dist(x, large[:2], small[:2]), float(x[large[2]]), float(x[small[2]])):
            self._dist(self._row(key, figure, [(large[2], -1.0), (small[2], -1.0)]), large[:2], small[:2])
        else:
            self._dist(self._row(key, figure, [(large[2], 1.0), (small[2], -1.0)]), large[:2], small[:2], -1.0)

    def _two(self, of: Sequence[str]) -> tuple[PointAt, PointAt]:
        if len(of) == 1:
            return self._ways(of[0])
        return self.u.point(of[0]), self.u.point(of[1])

    def _middle(self, key: str) -> tuple[PointAt, PointAt]:
        if self.u.is_line(key):
            return self._ways(key)
        p = self.u.point(key)
        return p, p

    def _from_corner(self, first: str, other: str) -> tuple[tuple[PointAt, PointAt], tuple[PointAt, PointAt]]:
        """The ways of two lines, away from the corner that they share where they share one."""
        one, two = self._ways(first), self._ways(other)
        shared = self.u.shared(first, other)
        if shared:
            at = self.u.points[shared]
            one, two = ((w if w[0] == at else (w[1], w[0])) for w in (one, two))
        return one, two

    # -- packed for numpy

    def _pack(self) -> None:
        rows, cols, coefficients = zip(*self._linear, strict=True) if self._linear else ((), (), ())
        self.targets = np.array(self._targets, float)
        self._lr, self._lc, self._lv = (np.array(v, t) for v, t in ((rows, int), (cols, int), (coefficients, float)))
        self._d = _columns([(r, *p, *q) for r, _, p, q in self._apart], 5)
        self._ds = np.array([s for _, s, _, _ in self._apart], float)
        self._o = _columns([(r, *p, *q, *line) for r, p, q, line in self._off], 9)
        self._s = _columns([(r, *(i for p in ways for i in p)) for r, ways, _, _ in self._askew], 9)
        self._seen, self._wanted = (np.array([a[k] for a in self._askew], float) for k in (2, 3))
        d1x, d1y, d2x, d2y = self._ways_of(self.u.start)
        # by lengths as they are kept: were it by those that come out, a figure could shrink until all its angles are right
        self._long = np.sqrt(_long(d1x, d1y) * _long(d2x, d2y))
        self._a = _columns([(r, *p, *q, *line) for r, p, q, line in self._along], 9)
        self._slots()

    @property
    def turned_by(self) -> float:
        """The largest angle by which a direction has to turn, in radians."""
        return float(np.abs(self._wanted - self._seen).max(initial=0.0))

    def values(self, x: np.ndarray, share: float = 1.0) -> np.ndarray:
        """How far each equation is from holding, in mm; angles only a ``share`` of the way from how they are kept."""
        f = np.bincount(self._lr, self._lv * x[self._lc], len(self.rows)) - self.targets
        if len(self._d):
            r, px, py, qx, qy = self._d.T
            np.add.at(f, r, self._ds * np.hypot(x[px] - x[qx], x[py] - x[qy]))
        if len(self._o):
            r = self._o[:, 0]
            mx, my, ax, ay, dx, dy, long = self._on_line(x, self._o)
            np.add.at(f, r, (dx * (my - ay) - dy * (mx - ax)) / long)
        if len(self._s):
            d1x, d1y, d2x, d2y = self._ways_of(x)
            scale = _long(d1x, d1y) * _long(d2x, d2y) / self._long
            t = self._seen + share * (self._wanted - self._seen)
            f[self._s[:, 0]] += (np.cos(t) * (d1x * d2y - d1y * d2x) - np.sin(t) * (d1x * d2x + d1y * d2y)) / scale
        if len(self._a):
            r, px, py, qx, qy, ax, ay, bx, by = self._a.T
            dx, dy = x[bx] - x[ax], x[by] - x[ay]
            f[r] += ((x[px] - x[qx]) * dx + (x[py] - x[qy]) * dy) / _long(dx, dy)
        return f

    def _on_line(self, x: np.ndarray, table: np.ndarray) -> tuple[np.ndarray, ...]:
        _, px, py, qx, qy, ax, ay, bx, by = table.T
        dx, dy = x[bx] - x[ax], x[by] - x[ay]
        return (x[px] + x[qx]) / 2, (x[py] + x[qy]) / 2, x[ax], x[ay], dx, dy, _long(dx, dy)

    def _ways_of(self, x: np.ndarray) -> tuple[np.ndarray, ...]:
        _, ax, ay, bx, by, cx, cy, ex, ey = self._s.T
        d1x, d1y, d2x, d2y = x[bx] - x[ax], x[by] - x[ay], x[ex] - x[cx], x[ey] - x[cy]
        return d1x, d1y, d2x, d2y

    def _slots(self) -> None:
        """Where in the Jacobian each figure of ``_slope_values`` belongs: always in the same place, so that it is found once."""
        rows, cols = [self._lr], [self._lc]
        for table in (self._d, self._o, self._s, self._a):
            for k in range(1, table.shape[1]):
                rows.append(table[:, 0])
                cols.append(table[:, k])
        r, c = np.concatenate(rows), np.concatenate(cols)
        self._own = c < self.u.free
        m, n = len(self.rows), self.u.free
        cells, self._cell = np.unique(r[self._own] * max(n, 1) + c[self._own], return_inverse=True)
        self._cells = cells
        self._indices = cells % max(n, 1)
        self._indptr = np.searchsorted(cells, np.arange(m + 1) * max(n, 1))

    def _slope_values(self, x: np.ndarray, share: float) -> np.ndarray:
        vals: list[np.ndarray] = [self._lv]
        if len(self._d):
            _, px, py, qx, qy = self._d.T
            dx, dy = x[px] - x[qx], x[py] - x[qy]
            long = np.hypot(dx, dy)
            tight = long < TINY  # points that lie on one another part along x
            gx, gy = np.where(tight, 1.0, dx / np.where(tight, 1.0, long)), np.where(tight, 0.0, dy / np.where(tight, 1.0, long))
            vals += [self._ds * v for v in (gx, gy, -gx, -gy)]
        if len(self._o):
            mx, my, x0, y0, dx, dy, long = self._on_line(x, self._o)
            ex, ey = dx / long, dy / long
            along = (ex * (mx - x0) + ey * (my - y0)) / long
            # turning the line about one end moves its other end's share
            vals += [-ey / 2, ex / 2, -ey / 2, ex / 2, ey * (1 - along), -ex * (1 - along), ey * along, -ex * along]
        if len(self._s):
            d1x, d1y, d2x, d2y = self._ways_of(x)
            scale = _long(d1x, d1y) * _long(d2x, d2y) / self._long
            t = self._seen + share * (self._wanted - self._seen)
            cos, sin = np.cos(t), np.sin(t)
            f = (cos * (d1x * d2y - d1y * d2x) - sin * (d1x * d2x + d1y * d2y)) / scale
            l1, l2 = _long(d1x, d1y) ** 2, _long(d2x, d2y) ** 2
            g1x = (cos * d2y - sin * d2x) / scale - f * d1x / l1
            g1y = (-cos * d2x - sin * d2y) / scale - f * d1y / l1
            g2x = (-cos * d1y - sin * d1x) / scale - f * d2x / l2
            g2y = (cos * d1x - sin * d1y) / scale - f * d2y / l2
            vals += [-g1x, -g1y, g1x, g1y, -g2x, -g2y, g2x, g2y]
        if len(self._a):
            _, px, py, qx, qy, ax, ay, bx, by = self._a.T
            dx, dy = x[bx] - x[ax], x[by] - x[ay]
            long = _long(dx, dy)
            ex, ey = dx / long, dy / long
            wx, wy = x[px] - x[qx], x[py] - x[qy]
            along = (wx * ex + wy * ey) / long
            gx, gy = wx / long - ex * along, wy / long - ey * along
            vals += [ex, ey, -ex, -ey, -gx, -gy, gx, gy]
        return np.bincount(self._cell, np.concatenate(vals)[self._own], len(self._cells))

    def slopes(self, x: np.ndarray, share: float = 1.0) -> csr_matrix:
        """The Jacobian by the unknowns, (m, free)."""
        return csr_matrix((self._slope_values(x, share), self._indices, self._indptr), shape=(len(self.rows), self.u.free))

    def dense_slopes(self, x: np.ndarray, share: float = 1.0) -> np.ndarray:
        """The same as a plain array."""
        found = np.zeros(len(self.rows) * self.u.free)
        found[self._cells] = self._slope_values(x, share)
        return found.reshape(len(self.rows), self.u.free)


def angle_between(unknowns: Unknowns, first: str, other: str, x: np.ndarray) -> float:
    """The angle between two lines in radians, from 0 to pi: at the corner that they share, else between the ways in which they are drawn."""
    return abs(_angle(x, *Equations(unknowns, {}, {})._from_corner(first, other)))


def beside(apart: float, large: float, small: float) -> bool:
    """Whether two circles so far apart lie beside one another rather than one within the other, whichever is nearer."""
    return abs(apart - large - small) <= abs(large - small - apart)


def _columns(table: list[tuple[int, ...]], wide: int) -> np.ndarray:
    return np.array(table, int).reshape(-1, wide)


def _long(dx: np.ndarray, dy: np.ndarray) -> np.ndarray:
    return np.maximum(np.hypot(dx, dy), TINY)


def _dist(x: np.ndarray, p: PointAt, q: PointAt) -> float:
    return math.hypot(x[p[0]] - x[q[0]], x[p[1]] - x[q[1]])


def _off(x: np.ndarray, p: PointAt, q: PointAt, line: LineAt) -> float:
    ax, ay, bx, by = (float(x[i]) for i in line)
    mx, my = (x[p[0]] + x[q[0]]) / 2, (x[p[1]] + x[q[1]]) / 2
    return float(((bx - ax) * (my - ay) - (by - ay) * (mx - ax)) / max(math.hypot(bx - ax, by - ay), TINY))


def _angle(x: np.ndarray, one: tuple[PointAt, PointAt], other: tuple[PointAt, PointAt]) -> float:
    """From one way to another, in radians, counter-clockwise positive."""
    (ax, ay), (bx, by) = ((x[w[1][0]] - x[w[0][0]], x[w[1][1]] - x[w[0][1]]) for w in (one, other))
    return math.atan2(ax * by - ay * bx, ax * bx + ay * by)


def _image_gap(x: np.ndarray, p: PointAt, q: PointAt, about: LineAt) -> float:
    """How far a point lies from another one's image."""
    ax, ay, bx, by = (float(x[i]) for i in about)
    long = max(math.hypot(bx - ax, by - ay), TINY)
    ex, ey = (bx - ax) / long, (by - ay) / long
    off = 2 * _off(x, p, p, about)
    return math.hypot(x[p[0]] + ey * off - x[q[0]], x[p[1]] - ex * off - x[q[1]])
