"""Words with leaders beside a view: in a column to its right, and over it where they are of what lies at its left."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence

from zygon.paper.figures import worded
from zygon.paper.ink import Box, Dimension, Ink, Line, Point, Words
from zygon.paper.letters import width_of, wrapped
from zygon.paper.marks import arrow, leader
from zygon.paper.spread import spread
from zygon.paper.style import OUT, Style, said_for, shown
from zygon.paper.view import Callout, View
from zygon.tolerance import SEEN

__all__ = ["Row", "callouts_of", "over_height", "over_width", "words_beside", "words_over"]

#: How wide callouts are at most, mm.
WIDEST = 62.0
#: What lies so far to the left, as a share of the view's width, is said over a view that is wider than WIDE mm of paper.
LEFT, WIDE = 0.3, 45.0
#: A callout and its lines.
Row = tuple[Callout, list[str]]


def callouts_of(view: View, style: Style, scale: float) -> tuple[list[Row], list[Row]]:
    """The callouts that are shown: those beside the view, and those over it."""
    beside: list[Row] = []
    over: list[Row] = []
    limit = view.bounds[0] + LEFT * view.size[0]
    for c in view.callouts:
        name = f"{view.name}/{c.name}"
        if not shown(style, name):
            continue
        other = style.figures.other(c.value) if c.kind != "note" and c.value else ""
        said = said_for(style, name)
        limits = style.figures.limits(said.tolerance, c.value) if said and c.kind == "diameter" else ""
        row = (c, wrapped(worded(c.text, said, other, limits), style.height, WIDEST))
        left = view.size[0] * scale > WIDE and all(p[0] < limit for p in c.places)
        (over if left else beside).append(row)
    return beside, over


def _tall(row: Row, style: Style) -> float:
    return len(row[1]) * style.height * 1.6 + style.height


def over_height(rows: Sequence[Row], style: Style) -> float:
    """The room over a view that callouts take, mm."""
    return sum(_tall(r, style) for r in rows)


def over_width(rows: Sequence[Row], view: View, style: Style, scale: float) -> float:
    """How far they reach from the view's left edge, mm."""
    return max(
        ((_highest(c)[0] - view.bounds[0]) * scale + 4 + max(width_of(t, style.height) for t in lines) for c, lines in rows), default=0.0
    )


def _highest(c: Callout) -> tuple[float, float, float]:
    return max(c.places, key=lambda p: (round(p[1], 3), -p[0]))


def words_over(rows: Sequence[Row], view: View, style: Style, scale: float, to: Callable[[Point], Point], box: Box) -> list[Dimension]:
    """Callouts over the view, the leftmost on top, so that each leader passes to the left of the words under its own."""
    found = []
    y = box[3] + over_height(rows, style)
    for c, lines in sorted(rows, key=lambda r: _highest(r[0])[0]):
        tall = _tall((c, lines), style)
        x, v, r = _highest(c)
        px, py = to((x, v))
        top = y - style.height
        knee = (px, top - (len(lines) - 1) * style.height * 0.8 - style.height / 2 + style.height)
        ink: list[Ink] = [Line("thin", (px, py + r * scale), knee, c.of), Line("thin", knee, (px + 3.0, knee[1]), c.of)]
        ink.append(arrow((px, py + r * scale), (0.0, -1.0), c.of))
        low = knee[1] - style.height / 2 + (len(lines) - 1) * style.height * 0.8
        ink += [Words(t, (px + 4.0, low - n * style.height * 1.6), style.height, of=c.of) for n, t in enumerate(lines)]
        found.append(_dimension(c, lines, ink, (px, py, r * scale), knee, scale, view, to))
        y -= tall
    return found


def words_beside(rows: Sequence[Row], view: View, style: Style, scale: float, to: Callable[[Point], Point], box: Box) -> list[Dimension]:
    """Callouts in a column to the right of the view, in such an order that their leaders do not cross."""
    if not rows:
        return []
    points = [_nearest(c, to, scale) for c, _ in rows]
    tall = [_tall(r, style) for r in rows]
    x = box[2] + OUT
    order = sorted(range(len(rows)), key=lambda i: (points[i][1], points[i][0]))
    for _ in range(len(rows) ** 2):  # exchanged until none crosses another: each exchange makes them shorter together
        ys = spread([points[i][1] for i in order], [tall[i] for i in order])
        pair = next(
            (
                (n, m)
                for n in range(len(order))
                for m in range(n + 1, len(order))
                if _cross(points[order[n]], ys[n], points[order[m]], ys[m], x)
            ),
            None,
        )
        if pair is None:
            break
        n, m = pair
        order[n], order[m] = order[m], order[n]
    ys = _within(spread([points[i][1] for i in order], [tall[i] for i in order]), [tall[i] for i in order], box)
    found = []
    for i, y in zip(order, ys, strict=True):
        c, lines = rows[i]
        ink = leader(points[i], (x, y), lines, style.height, c.of)
        found.append(_dimension(c, lines, ink, points[i], (x, y), scale, view, to))
    return found


def _within(ys: list[float], tall: Sequence[float], box: Box) -> list[float]:
    """The column moved to stay beside its view, or about its middle where it is higher."""
    low, high = ys[0] - tall[0] / 2, ys[-1] + tall[-1] / 2
    middle, room = (box[1] + box[3]) / 2, max(high - low, box[3] - box[1])
    shift = max(0.0, middle - room / 2 - low) - max(0.0, high - middle - room / 2)
    return [y + shift for y in ys]


def _dimension(
    c: Callout,
    lines: Sequence[str],
    ink: list[Ink],
    at: tuple[float, float, float],
    knee: Point,
    scale: float,
    view: View,
    to: Callable[[Point], Point],
) -> Dimension:
    x, y, r = at
    name = f"{view.name}/{c.name}"
    text = " ".join(lines)
    centre = _centre(c, at, to)
    if centre is not None:  # of a round: from its middle to the place on it
        p, q = centre, (x, y)
    else:
        p, q = (x - r, y), (x + r, y)
    return Dimension(name, c.kind, c.value, text, tuple(ink), p, q, knee, 0.0, scale, c.of, view=view.name, middle=centre)


def _centre(c: Callout, at: tuple[float, float, float], to: Callable[[Point], Point]) -> Point | None:
    """The middle of the round that a leader points to, on the paper."""
    places = zip(c.places, c.centres, strict=False)
    return next((to(m) for p, m in places if math.dist(to((p[0], p[1])), at[:2]) < SEEN), None)


def _nearest(c: Callout, to: Callable[[Point], Point], scale: float) -> tuple[float, float, float]:
    """Of a callout's places the one farthest to the right, on the paper."""
    x, y, r = max(c.places, key=lambda p: (round(p[0], 3), p[1]))
    px, py = to((x, y))
    return px, py, r * scale


def _cross(p: tuple[float, float, float], y: float, q: tuple[float, float, float], z: float, x: float) -> bool:
    """Whether the leaders from p to (x, y) and from q to (x, z) cross."""

    def side(a: Point, b: Point, c: Point) -> float:
        return (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0])

    a, b, c, d = p[:2], (x, y), q[:2], (x, z)
    return side(a, b, c) * side(a, b, d) < 0 and side(c, d, a) * side(c, d, b) < 0
