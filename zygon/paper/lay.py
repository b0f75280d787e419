"""A view laid on paper at a scale: its strokes, and its dimensions about it, spaced so that no figure lies on another."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from zygon.paper.added import added_to, shifted
from zygon.paper.balloons import balloon_room, rings_about
from zygon.paper.breaks import gap_ink
from zygon.paper.callouts import Row, callouts_of, over_height, over_width, words_beside, words_over
from zygon.paper.details import loupe_ink
from zygon.paper.hatch import cut_lines, hatched
from zygon.paper.hole_table import number_ink
from zygon.paper.ink import Anchor, Box, Dimension, Ink, Point, Words, box_of, scaled
from zygon.paper.lanes import Lanes, lane_deep, stations
from zygon.paper.letters import width_of
from zygon.paper.style import OUT, Style
from zygon.paper.view import WAYS, View

__all__ = ["Laid", "Margins", "lay", "margins_of"]

#: From a view to its label above it.
LABEL = 5.0
#: What the lines of sections take about a view, mm.
OVER_CUT = 8.0


@dataclass(frozen=True)
class Margins:
    """How much room stands about a view, mm of paper."""

    left: float
    right: float
    low: float
    high: float


@dataclass(frozen=True)
class Laid:
    """A view on paper."""

    ink: tuple[Ink, ...]
    dimensions: tuple[Dimension, ...]
    anchors: tuple[Anchor, ...]
    rings: Mapping[str, tuple[Ink, ...]]
    faults: tuple[str, ...] = ()


def margins_of(view: View, style: Style, scale: float) -> Margins:
    """The room that a view's dimensions and words take about it."""
    beside, over = callouts_of(view, style, scale)
    wide = max((width_of(t, style.height) for _, lines in beside for t in lines), default=0.0)
    width, height = view.size[0] * scale, view.size[1] * scale
    left = lane_deep(view, style, "y") if view.up or view.overall else 2.0
    low = lane_deep(view, style, "x") if view.across or view.overall else 2.0
    high = (LABEL + style.height if view.label else 2.0) + over_height(over, style)
    right = max(OUT + 5.0 + wide if beside else 4.0, over_width(over, view, style, scale) - width)
    if any(r.lead for r in view.rings):
        around = balloon_room(view, style, scale)
        left, right, low = (max(m, around) for m in (left, right, low))
        high = max(high, around + (LABEL + style.height if view.label else 0.0))
    # a column of words that is higher than its view stands out above and below it; so do labels along a lane
    high += _label_up(view, style, scale, beside)
    spill = _column_over(beside, style, height) + 2
    if spill > 2:
        low, high = max(low, spill), max(high, spill)
    if style.places == "coordinates":
        for way, long in zip(WAYS, (width, height), strict=True):
            spill = (len(stations(view, style, way)) * style.step - long) / 2 + style.step
            if way == "x" and spill > 0:
                left, right = max(left, spill), max(right, spill)
            elif spill > 0:
                low, high = max(low, spill), max(high, spill)
    for o in view.overall:
        long = (width, height)[WAYS.index(o.way)]
        words = width_of(style.figures.length(long / scale), style.height)
        if o.way == "x" and words + 1 > long:  # a figure beside a short line
            right = max(right, words + 8.0)
        elif words + 1 > long:
            high = max(high, words + 8.0)
    if view.cuts:
        left, right, low, high = (m + OVER_CUT for m in (left, right, low, high))
    elif view.loupes:
        right, high = right + style.height * 2, high + style.height * 2
    label = width_of(view.label, style.height) if view.label else 0.0
    return Margins(left, max(right, label - width), low, high)


def _column_over(beside: Sequence[Row], style: Style, height: float) -> float:
    """How far the column of words beside a view stands out over its height, above and below, mm."""
    return max(0.0, (sum(len(lines) * style.height * 1.6 + style.height for _, lines in beside) - height) / 2)


def _label_up(view: View, style: Style, scale: float, beside: Sequence[Row]) -> float:
    """How much higher the label stands where it reaches over the column of words."""
    reaches = width_of(view.label, style.height) > view.size[0] * scale + OUT - 2.0
    return _column_over(beside, style, view.size[1] * scale) if view.label and beside and reaches else 0.0


def lay(view: View, style: Style, scale: float, corner: Point, among: Sequence[View]) -> Laid:
    """The view with the lower left corner of its box at ``corner`` on the paper, ``among`` those of its sheet."""
    x0, y0 = view.bounds[:2]

    def to(p: Point) -> Point:
        return corner[0] + (p[0] - x0) * scale, corner[1] + (p[1] - y0) * scale

    ink: list[Ink] = [i for f in view.faces for i in hatched(f, scale, to)]
    ink += [*scaled(view.strokes, scale, to), *cut_lines(view, style.height, to)]
    ink += [*gap_ink(view, to), *loupe_ink(view, style.height, scale, to)]
    width, height = view.size[0] * scale, view.size[1] * scale
    box: Box = (corner[0], corner[1], corner[0] + width, corner[1] + height)
    rings = rings_about(view, style, to, box)
    ink += number_ink(among, view, style, to, box, [box_of(own) for own in rings.values()])
    beside, over = callouts_of(view, style, scale)
    if view.label:
        up = over_height(over, style) + _label_up(view, style, scale, beside) + LABEL - 1.0 + (OVER_CUT - 2.0 if view.cuts else 0.0)
        if any(r.lead for r in view.rings):
            up = max(up, balloon_room(view, style, scale) + LABEL - 1.0)
        ink.append(Words(view.label, (corner[0], box[3] + up), style.height))
    dimensions: list[Dimension] = []
    for way in WAYS:
        lanes = Lanes(view, style, scale, to, box, way)
        ink += lanes.origin()
        dimensions += lanes.dimensions()
    dimensions += words_beside(beside, view, style, scale, to, box) + words_over(over, view, style, scale, to, box)
    added, faults = added_to(view, style, scale, to)
    said = style.said.dimensions
    placed = [shifted(d, said[d.name].shift) if d.name in said else d for d in [*dimensions, *added]]
    anchors = tuple(Anchor(s.name, to(s.at), s.along, s.words, s.of) for s in view.spots.values())
    return Laid(tuple(ink), tuple(placed), anchors, rings, tuple(faults))
