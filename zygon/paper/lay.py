"""A view laid on paper at a scale: its strokes, and its dimensions in lanes about it, spaced so that no figure lies on another."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, replace

from scipy.optimize import linear_sum_assignment

from zygon.design.papers import DimensionSaid, Papers, Places, SheetSaid, Shift
from zygon.paper.figures import PaperFigures, worded
from zygon.paper.ink import Anchor, Area, Arc, Box, Dimension, Ink, Line, Point, Words, moved, scaled
from zygon.paper.letters import width_of, wrapped
from zygon.paper.marks import arrow, dimension_line, leader, ring
from zygon.paper.spread import spread
from zygon.paper.view import Callout, Overall, Ring, Spot, View
from zygon.tolerance import SEEN

__all__ = ["Laid", "Margins", "Style", "lay", "margins_of"]

#: From a view to its first lane, and between lanes, mm.
FIRST, LANE = 9.0, 7.0
#: From what is measured to where its extension line begins, and how far that runs past its lane, mm.
CLEAR, PAST = 1.0, 1.5
#: From a view to its callouts, and how wide those are at most, mm.
OUT, WIDEST = 12.0, 62.0
#: From a view to its label above it.
LABEL = 5.0


@dataclass(frozen=True)
class Style:
    """How a sheet's dimensions are set: height of figures in mm, how places are measured, from which corner, and what is said of them."""

    height: float
    places: Places
    figures: PaperFigures
    said: SheetSaid
    papers: Papers

    @property
    def step(self) -> float:
        """From one label in a row to the next, mm."""
        return self.height * 1.5


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


def _said(style: Style, name: str) -> DimensionSaid | None:
    return style.said.dimensions.get(name)


def _shown(style: Style, name: str) -> bool:
    said = _said(style, name)
    return not (said.out if said else style.said.bare)


def _stations(view: View, style: Style, way: str) -> list[tuple[str, Spot, float]]:
    """The places wanted along a way, by value from the datum, each once: the dimension's name, the spot and how far it is."""
    names = view.across if way == "x" else view.up
    k = 0 if way == "x" else 1
    zero = _datum(view, style, way)
    seen: dict[int, tuple[str, Spot, float]] = {}
    for n in names:
        spot = view.spots[n]
        far = abs(spot.at[k] - zero)
        size = view.bounds[k + 2] - view.bounds[k]
        name = f"{view.name}/{way}/{n}"
        if far > SEEN and abs(far - size) > SEEN and _shown(style, name):
            seen.setdefault(round(spot.at[k] / SEEN), (name, spot, far))
    return sorted(seen.values(), key=lambda s: s[1].at[k])


def _datum(view: View, style: Style, way: str) -> float:
    """Where places are measured from, mm of the view."""
    if way == "x":
        return view.bounds[2] if style.said.datum.endswith("right") else view.bounds[0]
    return view.bounds[3] if style.said.datum.startswith("high") else view.bounds[1]


def _datum_name(view: View, style: Style, way: str) -> str:
    high = style.said.datum.endswith("right") if way == "x" else style.said.datum.startswith("high")
    return view.corners[(0 if way == "x" else 2) + high]


def _overall(view: View, style: Style, way: str) -> list[Overall]:
    return [o for o in view.overall if o.way == way and _shown(style, f"{view.name}/size/{o.name}")]


def _lanes(view: View, style: Style, way: str) -> int:
    """How many lanes the places take."""
    n = len(_stations(view, style, way))
    return 0 if not n else n if style.places == "base line" else 1


def _deep(view: View, style: Style, way: str) -> float:
    """How far the lanes along a way reach from the view."""
    stations = _stations(view, style, way)
    if not stations:
        reach = FIRST - LANE
    elif style.places == "coordinates":
        longest = max(width_of(_text(style, name, far), style.height) for name, _, far in stations)
        reach = FIRST + 3.0 + longest + 2.0 - LANE / 2
    else:
        reach = FIRST + (_lanes(view, style, way) - 1) * LANE
    return reach + LANE * len(_overall(view, style, way)) + 3.0


def _text(style: Style, name: str, value: float) -> str:
    return worded(style.figures.length(value), _said(style, name), style.figures.other(value))


def _callouts(view: View, style: Style) -> list[tuple[Callout, list[str]]]:
    found = []
    for c in view.callouts:
        name = f"{view.name}/{c.name}"
        if _shown(style, name):
            other = style.figures.other(c.value) if c.kind != "note" and c.value else ""
            found.append((c, wrapped(worded(c.text, _said(style, name), other), style.height, WIDEST)))
    return found


def margins_of(view: View, style: Style, scale: float) -> Margins:
    """The room that a view's dimensions and words take about it."""
    callouts = _callouts(view, style)
    wide = max((width_of(t, style.height) for _, lines in callouts for t in lines), default=0.0)
    left = _deep(view, style, "y") if view.up or view.overall else 2.0
    low = _deep(view, style, "x") if view.across or view.overall else 2.0
    high = LABEL + style.height if view.label else 2.0
    right = OUT + 5.0 + wide if callouts else 4.0
    if any(r.lead for r in view.rings):
        room = 2 * OUT + style.height * 4
        left, right, high, low = max(left, room), max(right, room), max(high, OUT), max(low, OUT)
    width, height = view.size[0] * scale, view.size[1] * scale
    # a column of words that is higher than its view stands out above and below it; so do labels along a lane
    over = sum(len(lines) * style.height * 1.6 + style.height for _, lines in callouts) - height
    if over > 0:
        low, high = max(low, over / 2 + 2), max(high, over / 2 + 2)
    for way, long in (("x", width), ("y", height)):
        spill = (len(_stations(view, style, way)) * style.step - long) / 2 + style.step if style.places == "coordinates" else 0.0
        if way == "x" and spill > 0:
            left, right = max(left, spill), max(right, spill)
        elif spill > 0:
            low, high = max(low, spill), max(high, spill)
    label = width_of(view.label, style.height) if view.label else 0.0
    return Margins(left, max(right, label - width), low, high)


def lay(view: View, style: Style, scale: float, corner: Point) -> Laid:
    """The view with the lower left corner of its box at ``corner`` on the paper."""
    x0, y0 = view.bounds[:2]

    def to(p: Point) -> Point:
        return corner[0] + (p[0] - x0) * scale, corner[1] + (p[1] - y0) * scale

    ink: list[Ink] = scaled(view.strokes, scale, to)
    width, height = view.size[0] * scale, view.size[1] * scale
    box: Box = (corner[0], corner[1], corner[0] + width, corner[1] + height)
    if view.label:
        ink.append(Words(view.label, (corner[0], box[3] + LABEL - 1.0), style.height))
    dimensions: list[Dimension] = []
    for way in ("x", "y"):
        dimensions += _places(view, style, scale, to, box, way) + _sizes(view, style, scale, to, box, way)
    dimensions += _words_beside(view, style, scale, to, box)
    rings = _rings(view, style, to, box)
    anchors = tuple(Anchor(s.name, to(s.at), s.along, s.words, s.of) for s in view.spots.values())
    added, faults = _added(view, style, scale, to)
    shifted = [_shifted(d, style.said.dimensions[d.name].shift) if d.name in style.said.dimensions else d for d in dimensions]
    return Laid(tuple(ink), tuple(replace(d, view=view.name) for d in [*shifted, *added]), anchors, rings, tuple(faults))


def _shifted(d: Dimension, shift: Shift) -> Dimension:
    """A dimension moved by hand: its words and lines, not what it points to."""
    if not (shift.x or shift.y):
        return d
    if d.kind in ("linear", "ordinate"):
        # along its line only the figure goes, across it the line
        words = [moved(i, shift.x, shift.y) if isinstance(i, Words | Area) or (isinstance(i, Line)) else i for i in d.ink]
        return replace(d, ink=tuple(words), base=(d.base[0] + shift.x, d.base[1] + shift.y))
    return replace(d, ink=tuple(moved(i, shift.x, shift.y) if isinstance(i, Words) else _stretched(i, shift) for i in d.ink))


def _stretched(ink: Ink, shift: Shift) -> Ink:
    """The leader's end at the words goes along, its tip stays."""
    if isinstance(ink, Line):
        shelf = abs(ink.p[1] - ink.q[1]) < SEEN and math.dist(ink.p, ink.q) < 3.1
        p = (ink.p[0] + shift.x, ink.p[1] + shift.y) if shelf else ink.p
        return replace(ink, p=p, q=(ink.q[0] + shift.x, ink.q[1] + shift.y))
    return ink


def _turned(way: str, p: Point, q: Point) -> tuple[Point, Point]:
    """Level lanes as they are, upright ones with x and y exchanged."""
    return (p, q) if way == "x" else ((p[1], p[0]), (q[1], q[0]))


def _places(view: View, style: Style, scale: float, to, box: Box, way: str) -> list[Dimension]:
    """The places along a way, in the lanes nearest to the view."""
    stations = _stations(view, style, way)
    if not stations:
        return []
    k = 0 if way == "x" else 1
    side = box[1 - k]  # the view's lower or left edge, where lanes begin
    zero = _datum(view, style, way)
    from_ = to((zero, view.bounds[1]) if way == "x" else (view.bounds[0], zero))[k]
    at = [to(s.at)[k] for _, s, _ in stations]
    starts = [to(s.at)[1 - k] for _, s, _ in stations]
    texts = [_text(style, name, far) for name, _, far in stations]
    if style.places == "coordinates":
        return _coordinates(view, style, scale, way, side, from_, stations, at, starts, texts)
    found = []
    order = range(len(stations)) if not style.said.datum.endswith("right" if way == "x" else "high") else range(len(stations) - 1, -1, -1)
    if way == "y" and style.said.datum.startswith("high"):
        order = range(len(stations) - 1, -1, -1)
    before, lane = from_, side - FIRST
    chain = style.places == "chain"
    values = [abs(a - b) for a, b in zip(at, [from_, *at], strict=False)]
    ordered = list(order)
    labels: dict[int, float] = {}
    if chain:
        ends = [from_, *[at[i] for i in ordered]]
        middles = [(p + q) / 2 for p, q in zip(ends, ends[1:], strict=False)]
        values = {i: abs(q - p) / scale for i, p, q in zip(ordered, ends, ends[1:], strict=False)}  # type: ignore[assignment]
        texts = [_text(style, stations[i][0], values[i]) for i in range(len(stations))]
        ranked = sorted(range(len(ordered)), key=lambda n: middles[n])
        placed = spread([middles[n] for n in ranked], [width_of(texts[ordered[n]], style.height) + 2.0 for n in ranked])
        labels = {ordered[n]: x for n, x in zip(ranked, placed, strict=True)}
    for i in ordered:
        name, spot, far = stations[i]
        p, q = (before, lane), (at[i], lane)
        low, high = min(p[0], q[0]), max(p[0], q[0])
        label = labels.get(i, (low + high) / 2) - low
        ink = _lane(way, (low, lane), (high, lane), texts[i], style, label, spot.of)
        for x, y in ((before, side), (at[i], starts[i])):
            ink.append(_extension(way, x, y, lane, spot.of))
        a, b = _turned(way, (before, side), (at[i], starts[i]))
        base = _turned(way, (low, lane), (high, lane))[0]
        value = values[i] if chain else far
        found.append(
            Dimension(name, "linear", value, texts[i], tuple(ink), a, b, base, 0.0 if way == "x" else math.pi / 2, scale, spot.of, spot.entry)
        )
        if chain:
            before = at[i]
        else:
            lane -= LANE
    return found


def _lane(way: str, p: Point, q: Point, text: str, style: Style, label: float, of: str) -> list[Ink]:
    """A dimension line in a level or an upright lane."""
    a, b = _turned(way, p, q)
    return dimension_line(a, b, text, style.height, label, of)


def _extension(way: str, x: float, start: float, lane: float, of: str) -> Line:
    p, q = _turned(way, (x, start - CLEAR), (x, lane - PAST))
    return Line("thin", p, q, of)


def _coordinates(view: View, style: Style, scale: float, way: str, side: float, from_: float, stations, at, starts, texts) -> list[Dimension]:
    """Running dimensions from one origin: a figure at each extension line, moved apart where places lie close together."""
    lane = side - FIRST
    labels = spread(at, [style.step] * len(at))
    found = []
    for (name, spot, far), x, start, label, text in zip(stations, at, starts, labels, texts, strict=True):
        bent = [(x, start - CLEAR), (x, side - FIRST / 2), (label, lane), (label, lane - 3.0)]
        if abs(label - x) < SEEN:
            bent = [bent[0], bent[3]]
        lines = [_turned(way, p, q) for p, q in zip(bent, bent[1:], strict=False)]
        ink: list[Ink] = [Line("thin", p, q, spot.of) for p, q in lines]
        # figures stand across their lane: read from the right under a view, from below beside it
        if way == "x":
            ink.append(Words(text, (label + style.height / 2, lane - 4.0), style.height, "end", math.pi / 2, of=spot.of))
        else:
            ink.append(Words(text, (lane - 4.0, label - style.height / 2), style.height, "end", of=spot.of))
        p, q = _turned(way, (from_, side), (x, start))
        base = _turned(way, (label, lane - 3.0), (0.0, 0.0))[0]
        found.append(
            Dimension(name, "ordinate", far, text, tuple(ink), p, q, base, 0.0 if way == "x" else math.pi / 2, scale, spot.of, spot.entry)
        )
    return found


def _sizes(view: View, style: Style, scale: float, to, box: Box, way: str) -> list[Dimension]:
    """Sizes over all, outside of the places, each in a lane of its own."""
    k = 0 if way == "x" else 1
    rows = _overall(view, style, way)
    if not rows:
        return []
    lane = box[1 - k] - _deep(view, style, way) + 3.0 + LANE * (len(rows) - 1)
    found = []
    for o in rows:
        a, b = view.spots[o.a], view.spots[o.b]
        name = f"{view.name}/size/{o.name}"
        p, q = to(a.at), to(b.at)
        value = abs(b.at[k] - a.at[k])
        text = _text(style, name, value)
        low, high = sorted((p[k], q[k]))
        ink = _lane(way, (low, lane), (high, lane), text, style, (high - low) / 2, o.of)
        if width_of(text, style.height) + 2 > high - low - 1 and high - low < 2.6 * 2.5:  # beside a short one
            ink = _lane(way, (low, lane), (high, lane), text, style, high - low + width_of(text, style.height) / 2 + 3.5, o.of)
        for spot in (p, q):
            ink.append(_extension(way, spot[k], min(spot[1 - k], box[1 - k]), lane, o.of))
        base = _turned(way, (low, lane), (high, lane))[0]
        found.append(Dimension(name, "linear", value, text, tuple(ink), p, q, base, 0.0 if way == "x" else math.pi / 2, scale, o.of, o.entry))
        lane -= LANE
    return found


def _words_beside(view: View, style: Style, scale: float, to, box: Box) -> list[Dimension]:
    """Callouts in a column to the right of the view, set so that their leaders do not cross: the shortest together never do."""
    rows = _callouts(view, style)
    if not rows:
        return []
    middle = (box[1] + box[3]) / 2
    tall = [len(lines) * style.height * 1.6 + style.height for _, lines in rows]
    points = [_nearest(c, to, scale) for c, _ in rows]
    x = box[2] + OUT
    order = sorted(range(len(rows)), key=lambda i: (points[i][1], points[i][0]))
    for _ in range(len(rows)):  # exchanged until none crosses another
        ys = spread([points[i][1] for i in order], [tall[i] for i in order])
        crossing = next((n for n in range(len(order) - 1) for m in range(n + 1, len(order)) if _cross(points[order[n]], ys[n], points[order[m]], ys[m], x)), None)
        if crossing is None:
            break
        m = next(m for m in range(crossing + 1, len(order)) if _cross(points[order[crossing]], ys[crossing], points[order[m]], ys[m], x))
        order[crossing], order[m] = order[m], order[crossing]
    ys = spread([points[i][1] for i in order], [tall[i] for i in order])
    # the column stays about its view
    low, high = ys[0] - tall[order[0]] / 2, ys[-1] + tall[order[-1]] / 2
    room = max(high - low, box[3] - box[1])
    shift = max(0.0, middle - room / 2 - low) - max(0.0, high - middle - room / 2)
    found = []
    for i, y in zip(order, ys, strict=True):
        c, lines = rows[i]
        ink = leader(points[i], (x, y + shift), lines, style.height, right=True, of=c.of)
        px, py, r = points[i]
        found.append(
            Dimension(f"{view.name}/{c.name}", c.kind, c.value, " ".join(lines), tuple(ink), (px - r, py), (px + r, py), (x, y + shift), 0.0, scale, c.of, c.entry)
        )
    return found


def _nearest(c: Callout, to, scale: float) -> tuple[float, float, float]:
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


def _rings(view: View, style: Style, to, box: Box) -> dict[str, tuple[Ink, ...]]:
    """Balloons about the view, and the numbers that sit on its lines."""
    found: dict[str, tuple[Ink, ...]] = {}
    height = style.height * 1.2
    for r in view.rings:
        if not r.lead:
            at = to(r.places[0])
            ink, radius = ring(at, r.text, style.height, r.of)
            if r.beside:
                ink.append(Words(r.beside, (at[0] + radius + 1.0, at[1] - style.height / 2), style.height, of=r.of))
            found[f"{view.name}/{r.name}"] = tuple(ink)
    led = [r for r in view.rings if r.lead]
    if not led:
        return found
    slots = _slots(box, len(led), height * 3.4)
    points = [[to(p) for p in r.places] for r in led]
    cost = [[min(math.dist(p, s) for p in own) ** 2 for s in slots] for own in points]
    for i, j in zip(*linear_sum_assignment(cost), strict=True):
        r, slot = led[i], slots[j]
        name = f"{view.name}/{r.name}"
        shift = style.said.moved.get(name)
        at = (slot[0] + shift.x, slot[1] + shift.y) if shift else slot
        tip = min(points[i], key=lambda p: math.dist(p, at))
        ink, radius = ring(at, r.text, height, r.of)
        away = math.dist(at, tip) or 1.0
        way = ((tip[0] - at[0]) / away, (tip[1] - at[1]) / away)
        start = (at[0] + way[0] * radius, at[1] + way[1] * radius)
        found[name] = (Line("thin", start, tip, r.of), arrow(tip, way, r.of), *ink)
    return found


def _slots(box: Box, n: int, step: float) -> list[Point]:
    """Places for balloons on an ellipse about a view, at least as many as are wanted."""
    x, y = (box[0] + box[2]) / 2, (box[1] + box[3]) / 2
    a, b = (box[2] - box[0]) / 2 + OUT, (box[3] - box[1]) / 2 + OUT
    round_ = math.pi * (3 * (a + b) - math.sqrt((3 * a + b) * (a + 3 * b)))
    count = max(n, int(round_ / step))
    if n * step > round_:  # farther out where they would touch
        a, b = a * n * step / round_, b * n * step / round_
    fine = [2 * math.pi * k / 2000 for k in range(2001)]
    run = [0.0]
    for s, t in zip(fine, fine[1:], strict=False):
        run.append(run[-1] + math.hypot(a * (math.cos(t) - math.cos(s)), b * (math.sin(t) - math.sin(s))))
    found, k = [], 0
    for i in range(count):
        while run[k] < run[-1] * i / count:
            k += 1
        found.append((x + a * math.cos(fine[k]), y + b * math.sin(fine[k])))
    return found


def _added(view: View, style: Style, scale: float, to) -> tuple[list[Dimension], list[str]]:
    """What a maker put in, and which of it waits for a place that is not there."""
    found, faults = [], []
    for key, said in sorted(style.said.added.items(), key=lambda kd: (kd[1].order, kd[0])):
        if said.view != view.name:
            continue
        lost = [n for n in (said.a, said.b) if n not in view.spots]
        name = f"added/{key}"
        if lost:
            faults.append(f"A dimension waits: {lost[0]} is not there any more")
            continue
        a, b = view.spots[said.a], view.spots[said.b]
        p, q = to(a.at), to(b.at)
        way = said.way
        if way == "straight" and {a.along, b.along} != {"both"}:
            way = "x" if "x" in (a.along, b.along) else "y"
        of = b.of or a.of
        if way == "straight":
            found.append(_straight(name, p, q, said.line or 8.0, style, scale, of))
            continue
        k = 0 if way == "x" else 1
        value = abs(b.at[k] - a.at[k])
        text = _text(style, name, value)
        low, high = sorted((p[k], q[k]))
        lane = min(p[1 - k], q[1 - k]) - (said.line or 8.0)
        ink = _lane(way, (low, lane), (high, lane), text, style, (high - low) / 2, of)
        down = 1.0 if lane < min(p[1 - k], q[1 - k]) else -1.0
        for s in (p, q):
            e, f = _turned(way, (s[k], s[1 - k] - down * CLEAR), (s[k], lane - down * PAST))
            ink.append(Line("thin", e, f, of))
        base = _turned(way, (low, lane), (high, lane))[0]
        found.append(Dimension(name, "linear", value, text, tuple(ink), p, q, base, 0.0 if way == "x" else math.pi / 2, scale, of, "", True))
    return found, faults


def _straight(name: str, p: Point, q: Point, line: float, style: Style, scale: float, of: str) -> Dimension:
    """The straight way between two points."""
    long = math.dist(p, q)
    way = ((q[0] - p[0]) / long, (q[1] - p[1]) / long) if long else (1.0, 0.0)
    side = (way[1], -way[0])
    a, b = ((s[0] + side[0] * line, s[1] + side[1] * line) for s in (p, q))
    text = _text(style, name, long / scale)
    ink = dimension_line(a, b, text, style.height, long / 2, of)
    sign = math.copysign(1.0, line)
    for s in (p, q):
        ink.append(Line("thin", (s[0] + side[0] * sign, s[1] + side[1] * sign), (s[0] + side[0] * (line + sign), s[1] + side[1] * (line + sign)), of))
    return Dimension(name, "linear", long / scale, text, tuple(ink), p, q, a, math.atan2(way[1], way[0]), scale, of, "", True)
