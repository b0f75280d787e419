"""Places of holes and cuts in a table: their numbers at the view, their coordinates from the datum beside it."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass

from zygon.paper.ink import Arc, Box, Ink, Line, Point, Words
from zygon.paper.letters import width_of
from zygon.paper.style import Style
from zygon.paper.table import Column, Table
from zygon.paper.view import WAYS, Spot, View

__all__ = ["hole_table", "number_ink"]

#: From a place to its number, mm of paper, the nearest that is free.
OFF = (1.4, 3.0, 5.0, 8.0, 11.0)
SIDES: tuple[tuple[int, int], ...] = ((1, 1), (-1, 1), (1, -1), (-1, -1))


@dataclass(frozen=True)
class _Row:
    """A place, and along which ways it is wanted: the left and the lower edge of a cut are one row."""

    at: Point
    ways: str
    spot: Spot


def _listed(view: View) -> list[_Row]:
    """The places that are wanted, from the top down and from left to right."""
    found: dict[str, _Row] = {}
    for name in dict.fromkeys((*view.across, *view.up)):
        spot = view.spots[name]
        ways = "".join(w for w, names in (("x", view.across), ("y", view.up)) if name in names and spot.along in (w, "both"))
        own = name if spot.along == "both" else name.rpartition("/")[0]
        other = found.get(own)
        if other is not None and other.ways != ways:
            x, y = (spot.at[0], other.at[1]) if ways == "x" else (other.at[0], spot.at[1])
            found[own] = _Row((x, y), "xy", other.spot)
        elif other is not None:
            found[name] = _Row(spot.at, ways, spot)
        else:
            found[own] = _Row(spot.at, ways, spot)
    return sorted(found.values(), key=lambda r: (-round(r.at[1], 3), round(r.at[0], 3), r.spot.name))


def hole_table(views: Sequence[View], style: Style) -> Table | None:
    """The table of a sheet's views that have places; None where there is none. Figures are those of the part."""
    rows: list[tuple[str, ...]] = []
    of: list[str] = []
    placed = [v for v in views if v.across or v.up]
    for view in placed:
        zero = _zero(view, style)
        for n, row in enumerate(_listed(view), 1):
            x, y = (style.figures.length(view.length(w, zero[k], row.at[k])) if w in row.ways else "" for k, w in enumerate(WAYS))
            rows.append((f"{_mark(placed, view)}{n}", x, y, _what(view, row.spot)))
            of.append(row.spot.of)
    if not rows:
        return None
    unit = style.figures.unit
    columns = (Column("No."), Column(f"X, {unit}", True), Column(f"Y, {unit}", True), Column("What", widest=50.0))
    return Table(
        "holes",
        f"Places from the {style.said.datum.replace('low', 'lower').replace('high', 'upper')} corner",
        columns,
        tuple(rows),
        tuple(of),
    )


def _mark(placed: Sequence[View], view: View) -> str:
    """What stands before the numbers where several views have places."""
    return chr(ord("A") + [v.name for v in placed].index(view.name)) if len(placed) > 1 else ""


def _zero(view: View, style: Style) -> Point:
    x0, y0, x1, y1 = view.bounds
    return x1 if style.said.datum.endswith("right") else x0, y1 if style.said.datum.startswith("high") else y0


def _what(view: View, spot: Spot) -> str:
    """What its callout says of it, without how often it is there; else what the place is called."""
    at = (round(spot.at[0], 3), round(spot.at[1], 3))
    for c in view.callouts:
        if any((round(x, 3), round(y, 3)) == at for x, y, _ in c.places):
            return c.text.removeprefix(f"{len(c.places)} × ")
    return spot.words


def number_ink(views: Sequence[View], view: View, style: Style, to: Callable[[Point], Point], box: Box, others: Sequence[Box]) -> list[Ink]:
    """The numbers at the places of a view, each where it covers the least, ``others`` among that, and the mark at the datum."""
    if style.places != "table" or not (view.across or view.up):
        return []
    mark = _mark([v for v in views if v.across or v.up], view)
    x, y = (box[2] if style.said.datum.endswith("right") else box[0]), (box[3] if style.said.datum.startswith("high") else box[1])
    ink: list[Ink] = [
        Arc("thin", (x, y), 1.2, 0.0, 2 * math.pi),
        Line("thin", (x - 3, y), (x + 3, y)),
        Line("thin", (x, y - 3), (x, y + 3)),
    ]
    taken = list(others)
    strokes = _upright(view, to)
    for n, row in enumerate(_listed(view), 1):
        words = _number(f"{mark}{n}", to(row.at), style.height, (taken, strokes, box), row.spot.of)
        taken.append(words.box)
        ink.append(words)
    return ink


def _upright(view: View, to: Callable[[Point], Point]) -> list[Box]:
    """The boxes round short strokes, and round level and upright ones: what a number would lie on."""
    found = []
    for s in view.strokes:
        if isinstance(s, Line):
            (x0, y0), (x1, y1) = to(s.p), to(s.q)
            found.append((min(x0, x1), min(y0, y1), max(x0, x1), max(y0, y1)))
    return found


def _number(text: str, at: Point, height: float, free: tuple[Sequence[Box], Sequence[Box], Box], of: str) -> Words:
    """A number where it covers no other text, lies within the view, and then covers as few lines as can be."""
    taken, strokes, (x0, y0, x1, y1) = free
    wide = width_of(text, height)
    choices = [
        Words(text, (at[0] + off * sx - (wide if sx < 0 else 0.0), at[1] + off * sy - (height if sy < 0 else 0.0)), height, of=of)
        for off in OFF
        for sx, sy in SIDES
    ]

    def cost(w: Words) -> tuple[int, bool, int]:
        a, b, c, d = w.box
        return sum(_meets(w.box, t) for t in taken), a < x0 or b < y0 or c > x1 or d > y1, sum(_meets(w.box, t) for t in strokes)

    return min(choices, key=cost)


def _meets(a: Box, b: Box) -> bool:
    return a[0] < b[2] and b[0] < a[2] and a[1] < b[3] and b[1] < a[3]
