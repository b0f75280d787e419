"""A line, an arc or a circle cut off at what crosses it; the piece that was pressed goes, and the rest keeps its key, its name and what is said of it."""

from __future__ import annotations

import math

from zygon.design.patch import Patch
from zygon.drawn.drawing import Curve, DrawnArc, DrawnCircle, DrawnLine
from zygon.edits.drawings.draft import Draft, refused
from zygon.making.result.built import Built
from zygon.tolerance import CONTACT, EPS, SEEN

__all__ = ["split_drawn", "trim"]

Point = tuple[float, float]


def trim(built: Built, part: str, feature: str, curve: str, at: Point) -> tuple[str, Patch]:
    """Label and patch that take away the piece of a curve round a place (mm), as far as what crosses it; all of it where nothing does."""
    draft = _kept(built, part, feature, curve)
    du, dv = draft.shift_now()
    cutter = _Cutter(draft, curve)
    place = cutter.along((at[0] - du, at[1] - dv))
    crossings = cutter.crossings()
    record = draft.curves[curve]
    if isinstance(record, DrawnCircle):
        if len(crossings) < 2:
            draft.without({curve})
            return "Trim a circle away", draft.patch()
        a = cutter.cut(next((c for c in crossings if c[0] > place), crossings[0]))
        b = cutter.cut(next((c for c in reversed(crossings) if c[0] < place), crossings[-1]))
        arc = DrawnArc(a=a, b=b, centre=record.centre, order=record.order, name=record.name, edge=record.edge, helping=record.helping)
        draft.curves = {k: arc if k == curve else c for k, c in draft.curves.items()}
        draft.ended_anew()
        return "Trim a circle", draft.patch()
    assert isinstance(record, DrawnLine | DrawnArc)
    before = next((c for c in reversed(crossings) if c[0] < place), None)
    after = next((c for c in crossings if c[0] > place), None)
    if before is None and after is None:
        draft.without({curve})
        return f"Trim {_called(record)} away", draft.patch()
    ends = (cutter.cut(before) if before else None, cutter.cut(after) if after else None)
    if before is None:
        draft.curves[curve] = record.model_copy(update={"a": ends[1]})
    else:
        draft.curves[curve] = record.model_copy(update={"b": ends[0]})
    if before is not None and after is not None:
        rest = draft.curve(record.model_copy(update={"a": ends[1], "name": "", "edge": record.edge or curve}))
        draft.relate("in_line" if isinstance(record, DrawnLine) else "equal", [curve, rest])
    draft.ended_anew()
    _settle_ends(draft, record)
    return f"Trim {_called(record)}", draft.patch()


def split_drawn(built: Built, part: str, feature: str, curve: str, at: Point) -> tuple[str, Patch]:
    """Label and patch that split a line or an arc at a place (mm); the first piece keeps its key and its name, and both are one edge."""
    draft = _kept(built, part, feature, curve)
    du, dv = draft.shift_now()
    cutter = _Cutter(draft, curve)
    record = draft.curves[curve]
    if not isinstance(record, DrawnLine | DrawnArc):
        raise refused("A circle has no ends between which it is split", "curve", curve, "a line or an arc")
    t = cutter.along((at[0] - du, at[1] - dv))
    if not CONTACT < t < cutter.long - CONTACT:
        raise refused("It is split between its ends", "at", list(at), "a place on the line, off its ends")
    middle = draft.point(*cutter.place(t))
    draft.curves[curve] = record.model_copy(update={"b": middle})
    rest = draft.curve(record.model_copy(update={"a": middle, "name": "", "edge": record.edge or curve}))
    draft.relate("in_line" if isinstance(record, DrawnLine) else "equal", [curve, rest])
    return f"Split {_called(record)}", draft.patch()


def _called(record: Curve) -> str:
    return f"{'an' if record.kind == 'arc' else 'a'} {record.kind}"


def _kept(built: Built, part: str, feature: str, curve: str) -> Draft:
    draft = Draft(built, part, feature)
    if draft.curves.get(curve) is None or draft.curves[curve].kind in ("spline", "text"):
        raise refused(f"{curve} is no line, arc or circle of the drawing", "curve", curve, "a line, an arc or a circle")
    kept = draft.kept(draft.drawn())
    draft.points, draft.curves = dict(kept.points), dict(kept.curves)
    return draft


def _settle_ends(draft: Draft, before: DrawnLine | DrawnArc) -> None:
    """Points that ended a piece that is gone go with it, where nothing else is drawn from them or said of them."""
    used = {p for c in draft.curves.values() for p in c.points()}
    said = {k.partition(".")[0] for r in draft.relations.values() for k in r.of}
    for end in (before.a, before.b):
        if end not in used and end not in said:
            draft.points.pop(end, None)


class _Cutter:
    """A curve by the way along it: places, and where others cross it."""

    def __init__(self, draft: Draft, key: str) -> None:
        self.draft, self.key, self.record = draft, key, draft.curves[key]
        r = self.record
        if isinstance(r, DrawnLine):
            self.a, self.b = draft.at(r.a), draft.at(r.b)
            self.long = math.dist(self.a, self.b)
        else:
            assert isinstance(r, DrawnArc | DrawnCircle)
            self.c = draft.at(r.centre)
            self.start, self.sweep, self.radius = _turn(draft, r)
            self.long = self.radius * self.sweep

    def along(self, p: Point) -> float:
        """How far along the curve the place nearest to one lies."""
        if isinstance(self.record, DrawnLine):
            (ax, ay), (bx, by) = self.a, self.b
            return ((p[0] - ax) * (bx - ax) + (p[1] - ay) * (by - ay)) / max(self.long, EPS)
        turn = (math.atan2(p[1] - self.c[1], p[0] - self.c[0]) - self.start) % (2 * math.pi)
        if turn > self.sweep and turn - self.sweep > 2 * math.pi - turn:
            turn -= 2 * math.pi
        return turn * self.radius

    def place(self, t: float) -> Point:
        """The place so far along."""
        if isinstance(self.record, DrawnLine):
            s = t / max(self.long, EPS)
            return self.a[0] + (self.b[0] - self.a[0]) * s, self.a[1] + (self.b[1] - self.a[1]) * s
        w = self.start + t / self.radius
        return self.c[0] + self.radius * math.cos(w), self.c[1] + self.radius * math.sin(w)

    def crossings(self) -> list[tuple[float, str, Point]]:
        """Where other curves cross or meet this one between its ends: how far along, which, and where; in order."""
        found: list[tuple[float, str, Point]] = []
        for key, other in self.draft.curves.items():
            if key == self.key or other.kind in ("spline", "text"):
                continue
            theirs = _Cutter(self.draft, key)
            for p in _meet(self, theirs):
                t, s = self.along(p), theirs.along(p)
                inside = CONTACT < t < self.long - CONTACT or isinstance(self.record, DrawnCircle)
                if inside and (-CONTACT <= s <= theirs.long + CONTACT or isinstance(other, DrawnCircle)):
                    found.append((t, key, p))
        return sorted(found)

    def cut(self, crossing: tuple[float, str, Point]) -> str:
        """The point at a crossing: an end of the other curve where it is one, else a new one that lies on it."""
        _, key, p = crossing
        for end in self.draft.curves[key].points():
            if end != getattr(self.draft.curves[key], "centre", "") and math.dist(self.draft.at(end), p) <= SEEN:
                return end
        point = self.draft.point(*p)
        self.draft.relate("on", [point, key])
        return point


def _turn(draft: Draft, r: Curve) -> tuple[float, float, float]:
    """Start angle, sweep and radius of an arc or a circle."""
    if isinstance(r, DrawnCircle):
        return 0.0, 2 * math.pi, r.radius
    assert isinstance(r, DrawnArc)
    (ax, ay), (bx, by), (cx, cy) = (draft.at(k) for k in (r.a, r.b, r.centre))
    start = math.atan2(ay - cy, ax - cx)
    return start, (math.atan2(by - cy, bx - cx) - start) % (2 * math.pi), math.hypot(ax - cx, ay - cy)


def _meet(one: _Cutter, other: _Cutter) -> list[Point]:
    """Where the whole lines or circles of two curves meet."""
    lines = [c for c in (one, other) if isinstance(c.record, DrawnLine)]
    rounds = [c for c in (one, other) if c not in lines]
    if len(lines) == 2:
        (ax, ay), (bx, by), (cx, cy), (dx, dy) = one.a, one.b, other.a, other.b
        cross = (bx - ax) * (dy - cy) - (by - ay) * (dx - cx)
        if abs(cross) <= EPS * one.long * other.long:
            return []
        s = ((cx - ax) * (dy - cy) - (cy - ay) * (dx - cx)) / cross
        return [(ax + (bx - ax) * s, ay + (by - ay) * s)]
    if len(lines) == 1:
        line, ring = lines[0], rounds[0]
        (ax, ay), (bx, by), (cx, cy) = line.a, line.b, ring.c
        ex, ey = (bx - ax) / max(line.long, EPS), (by - ay) / max(line.long, EPS)
        along, off = (cx - ax) * ex + (cy - ay) * ey, (cx - ax) * ey - (cy - ay) * ex
        left = ring.radius**2 - off * off
        if left < -CONTACT * ring.radius:
            return []
        half = math.sqrt(max(left, 0.0))
        return [(ax + ex * t, ay + ey * t) for t in ({along - half, along + half})]
    (ax, ay), (bx, by) = one.c, other.c
    d = math.hypot(bx - ax, by - ay)
    if d <= EPS:
        return []
    along = (one.radius**2 - other.radius**2 + d * d) / (2 * d)
    left = one.radius**2 - along * along
    if left < -CONTACT * one.radius:
        return []
    half, ex, ey = math.sqrt(max(left, 0.0)), (bx - ax) / d, (by - ay) / d
    return [(ax + ex * along - ey * s, ay + ey * along + ex * s) for s in {half, -half}]
