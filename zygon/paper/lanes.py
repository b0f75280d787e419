"""Dimensions in lanes under and beside a view: places along it as coordinates, from the datum or in a chain, and sizes over all outside of them."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass

from zygon.paper.ink import Arc, Box, Dimension, Ink, Line, Point, Words
from zygon.paper.letters import width_of
from zygon.paper.marks import ARROW, dimension_line
from zygon.paper.spread import spread
from zygon.paper.style import CLEAR, FIRST, LANE, PAST, Style, shown, text_of
from zygon.paper.view import Overall, Spot, View, Way
from zygon.tolerance import SEEN

__all__ = ["Lanes", "lane_deep", "stations", "turned"]

#: From a lane of coordinates to their figures, mm.
STUB = 3.0


@dataclass(frozen=True)
class Station:
    """A place that is wanted: its dimension's name, where it is bound, and how far it lies from the datum (mm of the part)."""

    name: str
    spot: Spot
    far: float


def stations(view: View, style: Style, way: Way) -> list[Station]:
    """The places wanted along a way, in order, each once; those at the view's own ends are sizes over all."""
    k = "xy".index(way)
    zero, size = _datum(view, style, way), view.bounds[k + 2] - view.bounds[k]
    found: dict[int, Station] = {}
    for n in view.across if way == "x" else view.up:
        spot, name = view.spots[n], f"{view.name}/{way}/{n}"
        off = abs(spot.at[k] - zero)
        if off > SEEN and abs(off - size) > SEEN and shown(style, name):
            found.setdefault(round(spot.at[k] / SEEN), Station(name, spot, view.length(way, zero, spot.at[k])))
    return sorted(found.values(), key=lambda s: s.spot.at[k])


def _datum(view: View, style: Style, way: Way) -> float:
    """Where places are measured from, mm of the view."""
    high = _from_high(style, way)
    return view.bounds["xy".index(way) + 2 * high]


def _from_high(style: Style, way: Way) -> bool:
    return style.said.datum.endswith("right") if way == "x" else style.said.datum.startswith("high")


def _overall(view: View, style: Style, way: Way) -> list[Overall]:
    return [o for o in view.overall if o.way == way and shown(style, f"{view.name}/size/{o.name}")]


def lane_deep(view: View, style: Style, way: Way) -> float:
    """How far the lanes along a way reach from the view, mm of paper."""
    wanted = stations(view, style, way)
    if not wanted or style.places == "table":
        reach = FIRST - LANE
    elif style.places == "coordinates":
        reach = FIRST + STUB + 3.0 + max(width_of(text_of(style, s.name, s.far), style.height) for s in wanted) - LANE / 2
    else:
        reach = FIRST + LANE * (len(wanted) - 1 if style.places == "base line" else 0)
    return reach + LANE * len(_overall(view, style, way)) + 3.0


def turned(way: Way, p: Point) -> Point:
    """A place of a level lane, in an upright one with x and y exchanged."""
    return p if way == "x" else (p[1], p[0])


@dataclass(frozen=True)
class Lanes:
    """The lanes along one way of a view on paper: ``box`` is the view's, ``to`` takes places of the view there."""

    view: View
    style: Style
    scale: float
    to: Callable[[Point], Point]
    box: Box
    way: Way

    def dimensions(self) -> list[Dimension]:
        """Places in the lanes nearest to the view, sizes over all outside of them."""
        wanted = stations(self.view, self.style, self.way)
        lanes = {"coordinates": self._coordinates, "base line": self._base_line, "chain": self._chain}
        places = lanes[self.style.places](wanted) if self.style.places in lanes else []
        return [*places, *self._sizes()]

    def origin(self) -> list[Ink]:
        """The mark at the datum from which coordinates run."""
        if self.style.places != "coordinates" or not stations(self.view, self.style, self.way):
            return []
        lane, at = self._side - FIRST, self._from
        return [
            Line("thin", turned(self.way, (at, self._side - CLEAR)), turned(self.way, (at, lane - STUB))),
            Arc("thin", turned(self.way, (at, lane)), 1.0, 0.0, 2 * math.pi),
        ]

    @property
    def _k(self) -> int:
        return "xy".index(self.way)

    @property
    def _side(self) -> float:
        """The view's lower or left edge, where lanes begin."""
        return self.box[1 - self._k]

    @property
    def _from(self) -> float:
        """The datum on the paper."""
        return self.box[self._k + 2 * _from_high(self.style, self.way)]

    def _at(self, spot: Spot) -> tuple[float, float]:
        """Where a spot lies along the lanes, and across them."""
        p = self.to(spot.at)
        return p[self._k], p[1 - self._k]

    def _line(self, a: float, b: float, lane: float, text: str, of: str, label: float | None = None) -> list[Ink]:
        """A dimension line from a to b with its figure in the middle, or beside it where there is no room for it."""
        low, high = min(a, b), max(a, b)
        if label is None:
            wide = width_of(text, self.style.height)
            label = (low + high) / 2 if wide + 1.0 <= high - low else high + wide / 2 + (1.0 if high - low > 2.6 * ARROW else 2 * ARROW)
        return dimension_line(turned(self.way, (low, lane)), turned(self.way, (high, lane)), text, self.style.height, label - low, of)

    def _extension(self, at: float, start: float, lane: float, of: str) -> Line:
        return Line("thin", turned(self.way, (at, start - CLEAR)), turned(self.way, (at, lane - PAST)), of)

    def _made(self, name: str, kind, value: float, text: str, ink: list[Ink], ends, lane: float, of: str) -> Dimension:
        p, q = (turned(self.way, e) for e in ends)
        run = abs(ends[1][0] - ends[0][0])
        base = turned(self.way, (min(ends[0][0], ends[1][0]) if kind == "linear" else ends[1][0], lane))
        return Dimension(
            name,
            kind,
            value,
            text,
            tuple(ink),
            p,
            q,
            base,
            0.0 if self.way == "x" else math.pi / 2,
            run / value if self.view.gaps and value > SEEN else self.scale,
            of,
            view=self.view.name,
        )

    def _coordinates(self, wanted: list[Station]) -> list[Dimension]:
        """Running dimensions from one origin: a figure at each extension line, moved apart where places lie close together."""
        lane, height = self._side - FIRST, self.style.height
        labels = spread([self._at(s.spot)[0] for s in wanted], [self.style.step] * len(wanted), low=self.box[self._k] - self.style.step / 2)
        found = []
        for s, label in zip(wanted, labels, strict=True):
            at, start = self._at(s.spot)
            text = text_of(self.style, s.name, s.far)
            run = [(at, start - CLEAR), (at, self._side - FIRST / 2), (label, lane), (label, lane - STUB)]
            if abs(label - at) < SEEN:
                run = [run[0], run[3]]
            run = [turned(self.way, p) for p in run]
            ink: list[Ink] = [Line("thin", p, q, s.spot.of) for p, q in zip(run, run[1:], strict=False)]
            # figures stand across their lane: read from the right under a view, from below beside it
            if self.way == "x":
                ink.append(Words(text, (label + height / 2, lane - STUB - 1.0), height, "end", math.pi / 2, of=s.spot.of))
            else:
                ink.append(Words(text, (lane - STUB - 1.0, label - height / 2), height, "end", of=s.spot.of))
            ends = ((self._from, self._side), (at, start))
            found.append(self._made(s.name, "ordinate", s.far, text, ink, ends, lane - STUB, s.spot.of))
        return found

    def _base_line(self, wanted: list[Station]) -> list[Dimension]:
        """Each place from the datum, in a lane of its own, the nearest first."""
        lane, found = self._side - FIRST, []
        for s in sorted(wanted, key=lambda s: s.far):
            at, start = self._at(s.spot)
            text = text_of(self.style, s.name, s.far)
            ink = self._line(self._from, at, lane, text, s.spot.of)
            ink += [self._extension(self._from, self._side, lane, s.spot.of), self._extension(at, start, lane, s.spot.of)]
            ends = ((self._from, self._side), (at, start))
            found.append(self._made(s.name, "linear", s.far, text, ink, ends, lane, s.spot.of))
            lane -= LANE
        return found

    def _chain(self, wanted: list[Station]) -> list[Dimension]:
        """From place to place in one lane, beginning at the datum; figures are moved apart where they have no room."""
        lane, found = self._side - FIRST, []
        order = sorted(wanted, key=lambda s: s.far)
        ends = [(self._from, self._side), *(self._at(s.spot) for s in order)]
        values = [b.far - a for a, b in zip([0.0, *(s.far for s in order)], order, strict=False)]
        texts = [text_of(self.style, s.name, v) for s, v in zip(order, values, strict=True)]
        middles = [(p[0] + q[0]) / 2 for p, q in zip(ends, ends[1:], strict=False)]
        ranked = sorted(range(len(order)), key=lambda n: middles[n])
        sizes = [width_of(texts[n], self.style.height) + 2.0 for n in ranked]
        labels = dict(zip(ranked, spread([middles[n] for n in ranked], sizes, low=self.box[self._k] - 1.0), strict=True))
        for n, s in enumerate(order):
            p, q = ends[n], ends[n + 1]
            ink = self._line(p[0], q[0], lane, texts[n], s.spot.of, labels[n])
            ink += [self._extension(p[0], p[1], lane, s.spot.of), self._extension(q[0], q[1], lane, s.spot.of)]
            found.append(self._made(s.name, "linear", values[n], texts[n], ink, (p, q), lane, s.spot.of))
        return found

    def _sizes(self) -> list[Dimension]:
        """Sizes over all, each in a lane of its own."""
        rows = _overall(self.view, self.style, self.way)
        lane = self._side - lane_deep(self.view, self.style, self.way) + 3.0 + LANE * (len(rows) - 1)
        found = []
        for o in rows:
            a, b = self.view.spots[o.a], self.view.spots[o.b]
            name = f"{self.view.name}/size/{o.name}"
            value = self.view.length(self.way, a.at[self._k], b.at[self._k])
            text = text_of(self.style, name, value)
            ends = tuple((at, min(across, self._side)) for at, across in (self._at(a), self._at(b)))
            ink = self._line(ends[0][0], ends[1][0], lane, text, o.of)
            ink += [self._extension(at, start, lane, o.of) for at, start in ends]
            found.append(self._made(name, "linear", value, text, ink, ends, lane, o.of))
            lane -= LANE
        return found
