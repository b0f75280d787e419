"""Relations that are seen in a drawing as it lies: what is level, upright, square, tangent, equal, on something, within what the eye lets pass.

Only what is not said yet, and adds something, is offered: each is tried against the freedoms that are left, the plainest kind first.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping
from itertools import combinations

import numpy as np

from zygon.drawing.equations import Equations
from zygon.drawing.freedoms import DEPENDS, freedoms_of
from zygon.drawing.solver import driving, solve_drawing
from zygon.drawing.unknowns import Fast, Unknowns
from zygon.drawn.drawing import Drawing, DrawnArc, DrawnCircle, DrawnLine, Relation, RelationKind

__all__ = ["find_relations"]

#: Kinds in the order in which they are kept, where one says what another would.
PLAIN: tuple[RelationKind, ...] = (
    "same_place",
    "same_centre",
    "level",
    "upright",
    "tangent",
    "on",
    "middle",
    "square",
    "in_line",
    "parallel",
    "equal",
)
#: Lines are compared for what is equal and parallel up to so many; among more only neighbours are.
MANY = 60


def find_relations(
    drawing: Drawing,
    within: float,
    *,
    turned: float = math.radians(0.5),
    figures: Mapping[str, float] | None = None,
    fast: Fast | None = None,
) -> list[Relation]:
    """Relations that a drawing nearly has: points to ``within`` mm, directions to ``turned`` radians and ``within`` mm at their ends.

    Each adds something to what is said already and to those before it.
    """
    u = Unknowns(drawing, fast)
    asked = driving(drawing)
    said = {(r.kind, frozenset(drawing.point(k) for k in r.of)) for r in drawing.relations.values()}
    found: list[Relation] = []
    basis = _Basis(u, Equations(u, asked, figures or {}))
    order = 1 + max((r.order for r in drawing.relations.values()), default=-1)
    offered = sorted(_offered(u, within, turned), key=lambda o: PLAIN.index(o[0]))
    for kind, of in offered:
        if (kind, frozenset(drawing.point(k) for k in of)) in said:
            continue
        relation = Relation(kind=kind, of=of, order=order + len(found))
        if basis.adds(Equations(u, {"new": relation}, {})):
            found.append(relation)
    return _not_twice(drawing, found, figures or {}, fast)


def _not_twice(drawing: Drawing, found: list[Relation], figures: Mapping[str, float], fast: Fast | None) -> list[Relation]:
    """What was found without what follows from the rest, or contradicts it, once the drawing lies as they have it."""
    keys = {f"new-{n}": r for n, r in enumerate(found)}
    while keys:
        solved = solve_drawing(drawing.model_copy(update={"relations": {**drawing.relations, **keys}}), figures, fast)
        gone = {c.left_out for c in solved.clashes} or {f.relation for f in freedoms_of(solved).twice}
        if not gone & set(keys):
            break
        keys = {k: r for k, r in keys.items() if k not in gone}
    return list(keys.values())


class _Basis:
    """The rows of what is said, square to one another."""

    def __init__(self, u: Unknowns, equations: Equations) -> None:
        self.u, self.rows = u, np.zeros((0, u.free))
        for row in equations.slopes(u.now).toarray():
            self._take(row)

    def _rest(self, row: np.ndarray) -> np.ndarray | None:
        rest = row
        for _ in range(2):
            rest = rest - self.rows.T @ (self.rows @ rest)
        long = float(np.linalg.norm(rest))
        return rest / long if long > DEPENDS * max(1.0, float(np.linalg.norm(row))) else None

    def _take(self, row: np.ndarray) -> bool:
        rest = self._rest(row)
        if rest is not None:
            self.rows = np.vstack((self.rows, rest))
        return rest is not None

    def adds(self, equations: Equations) -> bool:
        """Whether every row of these adds something; they are taken if so."""
        own = [row for row, owner in zip(equations.slopes(self.u.now).toarray(), equations.rows, strict=True) if owner == "new"]
        before = self.rows
        if all(self._take(row) for row in own):
            return True
        self.rows = before
        return False


def _offered(u: Unknowns, within: float, turned: float) -> Iterator[tuple[RelationKind, list[str]]]:
    d = u.drawing
    lines = [k for k, c in d.curves.items() if isinstance(c, DrawnLine)]
    rounds = [k for k, c in d.curves.items() if isinstance(c, DrawnArc | DrawnCircle)]
    fast_lines = [k for k, r in d.references.items() if r.kind == "line"]
    fast_rounds = [k for k, r in d.references.items() if r.kind == "circle"]
    centres = {c.centre for c in d.curves.values() if isinstance(c, DrawnArc | DrawnCircle)}
    ends = [k for k in d.points if k not in centres]
    x = u.now

    def at(key: str) -> tuple[float, float]:
        i, j = u.point(key)
        return float(x[i]), float(x[j])

    def way(key: str) -> tuple[float, float, float]:
        ax, ay, bx, by = (float(x[i]) for i in u.line(key))
        return bx - ax, by - ay, math.hypot(bx - ax, by - ay)

    def askew(dy: float, long: float) -> bool:
        """Whether a line that should not rise rises too much, by dy over its length."""
        return abs(dy) > min(within, long * math.sin(turned)) or long <= within

    for p, q in _near(ends, at, within):
        yield "same_place", [p, q]
    for one, other in combinations([*rounds, *fast_rounds], 2):
        if math.dist(_centre(u, one), _centre(u, other)) <= within and (one in rounds or other in rounds):
            yield "same_centre", [one, other]
    for k in lines:
        dx, dy, long = way(k)
        if not askew(dy, long):
            yield "level", [k]
        elif not askew(dx, long):
            yield "upright", [k]
    yield from _smooth(u, fast_lines, lines, rounds, fast_rounds, within, turned)
    for p in ends:
        for k in (*fast_lines, *lines):
            if p in d.curves[k].points() if k in d.curves else False:
                continue
            ax, ay, bx, by = (float(x[i]) for i in u.line(k))
            px, py = at(p)
            dx, dy, long = way(k)
            if long <= within:
                continue
            off, along = abs(dx * (py - ay) - dy * (px - ax)) / long, (dx * (px - ax) + dy * (py - ay)) / long
            if off <= within and abs(along - long / 2) <= within and k in lines:
                yield "middle", [p, k]
            if off <= within and (k in fast_lines or -within <= along <= long + within):
                yield "on", [p, k]
    for one, other in combinations(rounds, 2):
        if abs(abs(x[u.round(one)[2]]) - abs(x[u.round(other)[2]])) <= within:
            yield "equal", [one, other]
    some = lines if len(lines) <= MANY else []
    for one, other in combinations(some, 2):
        (ax, ay, a), (bx, by, b) = way(one), way(other)
        if min(a, b) <= within:
            continue
        cross, dot = (ax * by - ay * bx) / a / b, (ax * bx + ay * by) / a / b
        if abs(dot) <= math.sin(turned) and u.shared(one, other):
            yield "square", [one, other]
        if abs(cross) <= math.sin(turned):
            yield "parallel", [one, other]
        if abs(a - b) <= within:
            yield "equal", [one, other]


def _smooth(
    u: Unknowns, fast_lines: list[str], lines: list[str], rounds: list[str], fast_rounds: list[str], within: float, turned: float
) -> Iterator[tuple[RelationKind, list[str]]]:
    """Lines and arcs that run into one another smoothly, or touch."""
    for k in (*fast_lines, *lines, *rounds):
        for other in (*rounds, *fast_rounds):
            # an arc that ends on a line goes on along it, or turns off it: that its end lies there says it
            arc = u.drawing.curves.get(other)
            if k in fast_lines and isinstance(arc, DrawnArc) and min(_off(u, p, k) for p in (arc.a, arc.b)) <= within:
                continue
            if (
                k != other
                and (k not in fast_lines or other in rounds)
                and not (k in rounds and other in rounds and k > other)
                and _touches(u, k, other, within, turned)
            ):
                yield "tangent", [k, other]


def _off(u: Unknowns, point: str, line: str) -> float:
    """How far a point lies off a line."""
    (i, j), at = u.point(point), u.line(line)
    px, py = float(u.now[i]), float(u.now[j])
    ax, ay, bx, by = (float(u.now[k]) for k in at)
    return abs((bx - ax) * (py - ay) - (by - ay) * (px - ax)) / (math.hypot(bx - ax, by - ay) or 1.0)


def _centre(u: Unknowns, key: str) -> tuple[float, float]:
    i, j, _ = u.round(key)
    return float(u.now[i]), float(u.now[j])


def _near(keys: list[str], at, within: float) -> Iterator[tuple[str, str]]:
    order = sorted(keys, key=at)
    for n, p in enumerate(order):
        for q in order[n + 1 :]:
            if at(q)[0] - at(p)[0] > within:
                break
            if math.dist(at(p), at(q)) <= within:
                yield p, q


def _touches(u: Unknowns, one: str, other: str, within: float, turned: float) -> bool:
    """Whether a line or an arc runs into another smoothly at the end that they share, or touches it."""
    x, shared = u.now, u.shared(one, other)
    cx, cy = _centre(u, other)
    r = abs(float(x[u.round(other)[2]]))
    if shared:
        i, j = u.points[shared]
        px, py = float(x[i]) - cx, float(x[j]) - cy
        if u.is_line(one):
            ax, ay, bx, by = (float(x[k]) for k in u.line(one))
            dx, dy = bx - ax, by - ay
            return abs(dx * px + dy * py) <= math.sin(turned) * math.hypot(dx, dy) * math.hypot(px, py)
        ox, oy = _centre(u, one)
        qx, qy = float(x[i]) - ox, float(x[j]) - oy
        return abs(px * qy - py * qx) <= math.sin(turned) * math.hypot(px, py) * math.hypot(qx, qy)
    if u.is_line(one):
        ax, ay, bx, by = (float(x[k]) for k in u.line(one))
        long = math.hypot(bx - ax, by - ay)
        if long <= within:
            return False
        along = ((bx - ax) * (cx - ax) + (by - ay) * (cy - ay)) / long
        return (one in u.drawing.references or 0 <= along <= long) and abs(
            abs((bx - ax) * (cy - ay) - (by - ay) * (cx - ax)) / long - r
        ) <= within
    ox, oy = _centre(u, one)
    s, apart = abs(float(x[u.round(one)[2]])), math.hypot(ox - cx, oy - cy)
    return apart > within and (abs(apart - r - s) <= within or abs(apart - abs(r - s)) <= within)
