"""Numbers in rings: balloons about a view with their leaders, and those that sit on lines and pieces."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence

from scipy.optimize import linear_sum_assignment

from zygon.paper.ink import Box, Ink, Line, Point, Words, box_of
from zygon.paper.marks import arrow, ring, ring_radius
from zygon.paper.style import OUT, Style
from zygon.paper.view import Ring, View

__all__ = ["balloon_room", "rings_about"]

#: Figures in balloons are so much taller than others, and balloons stand so far apart (mm).
TALLER, GAP = 1.2, 2.0


def _largest(led: Sequence[Ring], style: Style) -> float:
    return max(ring_radius(r.text, style.height * TALLER) for r in led)


def _ellipse(view: View, led: Sequence[Ring], style: Style, scale: float) -> tuple[float, float, float]:
    """The half axes of the ellipse about a view on which the middles of its balloons stand, and how far apart they stand at least."""
    radius = _largest(led, style)
    step = 2 * radius + GAP
    a, b = (s * scale / 2 + OUT + radius - 4.0 for s in view.size)
    round_ = _round(a, b)
    more = max(1.0, 1.05 * len(led) * step / round_)
    return a * more, b * more, step


def _round(a: float, b: float) -> float:
    """The length of an ellipse, by Ramanujan's formula."""
    return math.pi * (3 * (a + b) - math.sqrt((3 * a + b) * (a + 3 * b)))


def balloon_room(view: View, style: Style, scale: float) -> float:
    """How much room they take on each side of a view, mm."""
    led = [r for r in view.rings if r.lead]
    a, b, _ = _ellipse(view, led, style, scale)
    return max(a - view.size[0] * scale / 2, b - view.size[1] * scale / 2) + _largest(led, style) + 1.0


def rings_about(view: View, style: Style, to: Callable[[Point], Point], box: Box) -> dict[str, tuple[Ink, ...]]:
    """Balloons about the view, and the numbers that sit on its lines, by name."""
    found: dict[str, tuple[Ink, ...]] = {}
    taken: list[Box] = []
    for r in view.rings:
        if not r.lead:
            choices = [_seated(r, to(p), style) for p in r.places]
            ink = min(choices, key=lambda ink: sum(_common(box_of(ink), b) for b in taken))
            taken.append(box_of(ink))
            found[f"{view.name}/{r.name}"] = tuple(ink)
    led = [r for r in view.rings if r.lead]
    if not led:
        return found
    scale = (box[2] - box[0]) / view.size[0] if view.size[0] else 1.0
    a, b, step = _ellipse(view, led, style, scale)
    slots = _slots(((box[0] + box[2]) / 2, (box[1] + box[3]) / 2), a, b, max(len(led), int(_round(a, b) / step)))
    points = [[to(p) for p in r.places] for r in led]
    cost = [[min(math.dist(p, s) for p in own) ** 2 for s in slots] for own in points]
    for i, j in zip(*linear_sum_assignment(cost), strict=True):
        r, slot = led[i], slots[j]
        name = f"{view.name}/{r.name}"
        shift = style.said.moved.get(name)
        at = (slot[0] + shift.x, slot[1] + shift.y) if shift else slot
        found[name] = tuple(_balloon(r, at, min(points[i], key=lambda p: math.dist(p, at)), style.height * TALLER))
    return found


def _seated(r: Ring, at: Point, style: Style) -> list[Ink]:
    """A number that sits on a line, with what stands beside it."""
    ink, radius = ring(at, r.text, style.height, r.of)
    if r.beside:
        ink.append(Words(r.beside, (at[0] + radius + 1.0, at[1] - style.height / 2), style.height, of=r.of))
    return ink


def _common(a: Box, b: Box) -> float:
    """The area that two boxes have in common."""
    return max(0.0, min(a[2], b[2]) - max(a[0], b[0])) * max(0.0, min(a[3], b[3]) - max(a[1], b[1]))


def _balloon(r: Ring, at: Point, tip: Point, height: float) -> list[Ink]:
    ink, radius = ring(at, r.text, height, r.of)
    away = math.dist(at, tip)
    if away <= radius:
        return ink
    way = ((tip[0] - at[0]) / away, (tip[1] - at[1]) / away)
    return [Line("thin", (at[0] + way[0] * radius, at[1] + way[1] * radius), tip, r.of), arrow(tip, way, r.of), *ink]


def _slots(middle: Point, a: float, b: float, count: int) -> list[Point]:
    """Places on an ellipse that lie equally far apart along it."""
    fine = [2 * math.pi * k / 2000 for k in range(2001)]
    run = [0.0]
    for s, t in zip(fine, fine[1:], strict=False):
        run.append(run[-1] + math.hypot(a * (math.cos(t) - math.cos(s)), b * (math.sin(t) - math.sin(s))))
    found, k = [], 0
    for i in range(count):
        while run[k] < run[-1] * i / count:
            k += 1
        found.append((middle[0] + a * math.cos(fine[k]), middle[1] + b * math.sin(fine[k])))
    return found
