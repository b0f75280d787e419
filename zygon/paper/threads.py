"""Threads of bars and tubes as drawings have them (ISO 6410-1): from the side the outer diameter wide, the core thin and the thread's end wide; from its end three quarters
of the core's circle, thin. A solid has the core alone, as a step that is taken off here."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace

from zygon.geometry.motion import Motion, Vector
from zygon.making.result.body import Matrix
from zygon.making.result.built import MadePart
from zygon.making.tube.bent import BentBody
from zygon.making.tube.body import MemberBody
from zygon.making.tube.tips import Tip, core_of, size_of
from zygon.paper.ink import Arc, Line, Point
from zygon.paper.looks import Look
from zygon.paper.solid_views import placed_alone
from zygon.paper.strokes import Stroke, tidied
from zygon.paper.view import View
from zygon.tolerance import EPS, SEEN

__all__ = ["with_threads"]

#: A line off the paper by less than this (sine) lies in it.
IN_VIEW = 1e-6


@dataclass(frozen=True)
class _Thread:
    """A thread's end in a view, the way into the part there, how long it is, and its core and outside as radii; mm."""

    at: Point
    way: Point
    long: float
    inner: float
    outer: float
    toward: bool


def with_threads(part: MadePart, view: View, look: Look | None) -> View:
    """A view of a part by itself with its threads as drawings have them; where it is looked at askew they stay as the solid has them."""
    if look is None:
        return view
    strokes: list[Stroke] = list(view.strokes)
    found = list(_threads(part, look))
    for t in found:
        strokes = _from_end(strokes, t, part.key) if t.way == (0.0, 0.0) else _from_side(strokes, t, part.key)
    return replace(view, strokes=tuple(tidied(strokes))) if found else view


def _threads(part: MadePart, look: Look) -> Iterable[_Thread]:
    rows = placed_alone(part)
    for tip, motion in _tipped(part):
        if not tip.thread:
            continue
        at, way = _placed(rows, motion.shift, 1.0), _placed(rows, motion.vector((0.0, 0.0, -1.0)), 0.0)
        x, y = look.seen(way)
        flat = math.hypot(x, y)
        inner, outer = core_of(tip.thread) / 2, size_of(tip.thread) / 2
        if abs(flat - 1.0) < IN_VIEW:
            yield _Thread(look.seen(at), (x / flat, y / flat), tip.long, inner, outer, True)
        elif flat < IN_VIEW:
            toward = sum(a * b for a, b in zip(way, look.toward, strict=True)) < 0
            yield _Thread(look.seen(at), (0.0, 0.0), tip.long, inner, outer, toward)


def _tipped(part: MadePart) -> list[tuple[Tip, Motion]]:
    """What is done at each end, with the end's own motion, w outward."""
    body = part.body
    if isinstance(body, BentBody):
        return body.tipped()
    if not isinstance(body, MemberBody):
        return []
    ends = ((body.tips[0], 0.0, -1.0), (body.tips[1], body.length, 1.0))
    return [(t, Motion(((1.0, 0.0, 0.0, 0.0), (0.0, s, 0.0, 0.0), (0.0, 0.0, s, w)))) for t, w, s in ends if t]


def _placed(rows: Matrix, v: Sequence[float], shifted: float) -> Vector:
    a, b, c = (sum(r[i] * v[i] for i in range(3)) + r[3] * shifted for r in rows)
    return a, b, c


def _from_side(strokes: Sequence[Stroke], t: _Thread, key: str) -> list[Stroke]:
    (x, y), (dx, dy) = t.at, t.way

    def place(along: float, off: float) -> Point:
        return x + dx * along - dy * off, y + dy * along + dx * off

    kept: list[Stroke] = [replace(s, pen="thin") if _on_core(s, t) else s for s in strokes]
    kept += [Line("visible", place(0.0, k * t.outer), place(t.long, k * t.outer), key) for k in (-1, 1)]
    kept += [Line("visible", place(w, -t.outer), place(w, t.outer), key) for w in (0.0, t.long)]
    return kept


def _on_core(s: Stroke, t: _Thread) -> bool:
    """Whether a line runs along a thread's core."""
    if not isinstance(s, Line) or s.pen != "visible":
        return False
    (x, y), (dx, dy) = t.at, t.way
    for px, py in (s.p, s.q):
        along, off = (px - x) * dx + (py - y) * dy, (py - y) * dx - (px - x) * dy
        if abs(abs(off) - t.inner) > SEEN or not -SEEN < along < t.long + SEEN:
            return False
    return True


def _from_end(strokes: Sequence[Stroke], t: _Thread, key: str) -> list[Stroke]:
    """From its own end it shows its circles; from behind, nothing of it is seen."""
    if not t.toward:
        return list(strokes)

    def ours(s: Stroke) -> bool:
        return isinstance(s, Arc) and math.dist(s.centre, t.at) < SEEN and s.radius < t.outer - EPS and s.radius > t.inner - SEEN

    kept = [s for s in strokes if not ours(s)]
    kept.append(Arc("visible", t.at, t.outer, 0.0, 2 * math.pi, key))
    kept.append(Arc("thin", t.at, t.inner, math.pi / 2, 1.5 * math.pi, key))
    return kept
