"""The ink of dimensions: arrows, lines with their figures, leaders, rings (ISO 129-1)."""

from __future__ import annotations

import math
from collections.abc import Sequence

from zygon.paper.ink import Arc, Area, Ink, Line, Point, Words
from zygon.paper.letters import width_of
from zygon.tolerance import EPS

__all__ = ["ARROW", "arrow", "dimension_line", "leader", "ring", "ring_radius"]

#: Length of an arrow and half its width, mm.
ARROW, HALF = 2.5, 0.42
#: Between a line and the figure on it, mm.
OVER = 0.8


def arrow(tip: Point, way: Point, of: str = "") -> Area:
    """A filled arrow whose tip looks along ``way``, a direction of length 1."""
    x, y = tip[0] - way[0] * ARROW, tip[1] - way[1] * ARROW
    return Area((tip, (x - way[1] * HALF, y + way[0] * HALF), (x + way[1] * HALF, y - way[0] * HALF)), of=of)


def dimension_line(p: Point, q: Point, text: str, height: float, label: float, of: str = "") -> list[Ink]:
    """A line from p to q with arrows and its figure, whose middle lies ``label`` mm from p along it: over the line, readable from below or from the right.

    Where there is no room for the arrows within, they stand outside; the line runs on under a figure that lies beside.
    """
    long = math.dist(p, q)
    way = ((q[0] - p[0]) / long, (q[1] - p[1]) / long) if long else (1.0, 0.0)
    words = _on_line(p, way, label, text, height, of)
    inside = long >= 2.6 * ARROW
    half = words.long / 2 + 0.5
    low, high = min(0.0, label - half) if not 0 <= label <= long else 0.0, max(long, label + half) if not 0 <= label <= long else long
    if not inside:
        low, high = min(low, -2 * ARROW), max(high, long + 2 * ARROW)

    def at(t: float) -> Point:
        return p[0] + way[0] * t, p[1] + way[1] * t

    back = (-way[0], -way[1])
    tips = [arrow(p, back if inside else way, of), arrow(q, way if inside else back, of)]
    return [Line("thin", at(low), at(high), of), *tips, words]


def _on_line(p: Point, way: Point, label: float, text: str, height: float, of: str) -> Words:
    turned = math.atan2(way[1], way[0])
    if not -math.pi / 2 + EPS < turned <= math.pi / 2 + EPS:
        turned += math.pi if turned < 0 else -math.pi
    up = (-math.sin(turned), math.cos(turned))
    at = (p[0] + way[0] * label + up[0] * OVER, p[1] + way[1] * label + up[1] * OVER)
    return Words(text, at, height, "middle", turned, of=of)


def leader(place: tuple[float, float, float], knee: Point, lines: Sequence[str], height: float, of: str = "") -> list[Ink]:
    """A leader from a place (to its circle, where it has a radius) over a knee to words at its right."""
    x, y, radius = place
    away = math.dist((x, y), knee)
    way = ((x - knee[0]) / away, (y - knee[1]) / away) if away else (-1.0, 0.0)
    tip = (x - way[0] * radius, y - way[1] * radius)
    shelf = (knee[0] + 3.0, knee[1])
    found: list[Ink] = [Line("thin", tip, knee, of), Line("thin", knee, shelf, of)]
    # on an outline an arrow, within it a dot
    found.append(arrow(tip, way, of) if radius else _dot((x, y), of))
    step = height * 1.6
    top = knee[1] + (len(lines) - 1) * step / 2 - height / 2
    for i, line in enumerate(lines):
        found.append(Words(line, (shelf[0] + 1.0, top - i * step), height, of=of))
    return found


def _dot(at: Point, of: str) -> Area:
    return Area(tuple((at[0] + 0.6 * math.cos(k * math.pi / 6), at[1] + 0.6 * math.sin(k * math.pi / 6)) for k in range(12)), of=of)


def ring_radius(text: str, height: float) -> float:
    """The radius of the ring round a number, mm."""
    return max(height * 1.35, width_of(text, height) / 2 + height * 0.55)


def ring(at: Point, text: str, height: float, of: str = "") -> tuple[list[Ink], float]:
    """A number in a ring about ``at``, and the ring's radius."""
    words = Words(text, (at[0], at[1] - height / 2), height, "middle", of=of)
    radius = ring_radius(text, height)
    disc = tuple((at[0] + radius * math.cos(k * math.pi / 12), at[1] + radius * math.sin(k * math.pi / 12)) for k in range(24))
    return [Area(disc, "paper", of), Arc("thin", at, radius, 0.0, 2 * math.pi, of), words], radius
