"""A flat as a view: its outline, holes, pockets and bend lines, the places on it that have names, and what a maker needs to make and check it."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field

from zygon.geometry.arc import arc_from_bulge
from zygon.geometry.contour import Contour, Segment
from zygon.making.flats.face_words import end_words, face_word
from zygon.making.flats.flat import edge_bore_axis, turned_over
from zygon.making.result.built import Built, FlatPart
from zygon.making.result.flat import Flat
from zygon.making.result.operations import Pocket
from zygon.measure.display import listed
from zygon.owner import edge_id, is_of, part_id, read_owner
from zygon.paper.contour_ink import contour_ink
from zygon.paper.figures import PaperFigures, degrees, times
from zygon.paper.ink import Arc, Line
from zygon.paper.looks import LOOKS
from zygon.paper.view import WAYS, Callout, Overall, Ring, Spot, View, Way
from zygon.stock.hardware.threads import diameter_of
from zygon.tolerance import CONTACT, SEEN, WITHIN

__all__ = ["flat_view", "lying_up"]

Point = tuple[float, float]
#: Of an outline more turns than this along one way are a drawing of their own, which the cut file has; its sizes over all are said.
MOST_TURNS = 14
#: Of a cut that stands more often than this in rows and fields only the outermost are placed.
MOST_ALIKE = 8
#: Where on a bend line its number may sit, as shares of its length, the first that is free.
ALONG_BEND = (0.35, 0.65, 0.2, 0.8, 0.5, 0.08, 0.92)
#: Widths that differ by less are one on paper (mm): a tenth of what is shown.
ALIKE = 1e-3
#: Centre lines stand so far over their circle, as a share of its radius and in mm.
OVER_CIRCLE = (0.25, 0.5)


def lying_up(part: FlatPart) -> Flat:
    """The flat with the face up that lies up on the cutter, with its bands: finished."""
    return turned_over(part.flat) if part.record.up == "b" else part.flat


@dataclass
class _Gathered:
    """What is found on a flat, by and by."""

    spots: dict[str, Spot] = field(default_factory=dict)
    across: list[str] = field(default_factory=list)
    up: list[str] = field(default_factory=list)
    callouts: list[Callout] = field(default_factory=list)
    rings: list[Ring] = field(default_factory=list)
    strokes: list[Line | Arc] = field(default_factory=list)

    def point(self, name: str, at: Point, words: str, of: str, *, wanted: str = "xy") -> None:
        self.spots[name] = Spot(name, at, "both", words, of)
        if "x" in wanted:
            self.across.append(name)
        if "y" in wanted:
            self.up.append(name)

    def line(self, name: str, at: Point, along: Way, words: str, of: str, *, wanted: bool = True) -> None:
        self.spots[name] = Spot(name, at, along, words, of)
        if wanted:
            (self.across if along == "x" else self.up).append(name)


def flat_view(built: Built, part: FlatPart, flat: Flat, *, bends: Sequence[int] = (), name: str = "flat", label: str = "") -> View:
    """The view of a flat as it lies (``flat`` is the part's own, turned over or not); ``bends`` are the numbers of its bends in its table."""
    found = _Gathered()
    figures = PaperFigures(built.document)
    key = part.key
    x0, y0, x1, y1 = flat.bounds
    for piece in flat.pieces:
        for c in (piece.outer, *piece.inner):
            found.strokes += contour_ink(c, "visible", key)
    seen = flat.seen
    for p in flat.pockets:
        for c in p.contours:
            found.strokes += contour_ink(c, "visible" if p.face == seen else "hidden", key)
    for m in flat.engraved:
        found.strokes += contour_ink(m.contour, "smooth" if m.face == seen else "hidden", key)
    corners = _corners(part, flat, found)
    _holes(built, flat, found, figures, seen)
    _pockets(built, flat, found, figures, seen)
    _bores(part, flat, found, figures)
    _outline(built, part, flat, found, figures)
    _bends(flat, found, bends)
    overall = (
        Overall("across", "x", corners[0], corners[1], part_id(part.of)),
        Overall("up", "y", corners[2], corners[3], part_id(part.of)),
    )
    return View(
        name=name,
        label=label or f"Face {face_word(part, part.record.up)}, as it lies",
        strokes=tuple(found.strokes),
        bounds=(x0, y0, x1, y1),
        spots=found.spots,
        corners=corners,
        across=tuple(found.across),
        up=tuple(found.up),
        overall=overall,
        callouts=tuple(found.callouts),
        rings=tuple(found.rings),
        look=LOOKS["front"] if name == "front" else None,
    )


def _corners(part: FlatPart, flat: Flat, found: _Gathered) -> tuple[str, str, str, str]:
    """The lines of the box round it, by the words of the ends that lie there."""
    (left, right), (low, high) = end_words(part)
    if part.record.up == "b":
        left, right = right, left
    x0, y0, x1, y1 = flat.bounds
    outer = [p for piece in flat.pieces for p in piece.outer.points]
    names = []
    ends: tuple[tuple[str, Way, float], ...] = ((left, "x", x0), (right, "x", x1), (low, "y", y0), (high, "y", y1))
    for word, along, value in ends:
        name = f"{edge_id(word)}/end"
        k = 0 if along == "x" else 1
        near = [p for p in outer if abs(p[k] - value) < SEEN]
        other = min((p[1 - k] for p in near), default=y0 if along == "x" else x0)
        at = (value, other) if along == "x" else (other, value)
        found.line(name, at, along, f"{word} end", part_id(part.of), wanted=False)
        names.append(name)
    return names[0], names[1], names[2], names[3]


def _numbered(things: Iterable[tuple[str, Contour]]) -> list[tuple[str, Contour]]:
    """Contours with their names: the owner's, and a number where it has several, by place so that the cut's order is of no account."""
    by: dict[str, list[Contour]] = {}
    for owner, contour in things:
        by.setdefault(owner, []).append(contour)
    named = []
    for owner, own in by.items():
        own.sort(key=lambda c: (round(c.bounds[1], 3), round(c.bounds[0], 3)))
        named += [(f"{owner}/{n}", c) for n, c in enumerate(own, 1)]
    return named


def _cross(found: _Gathered, u: float, v: float, r: float, of: str) -> None:
    """Centre lines through a hole."""
    over = r * (1 + OVER_CIRCLE[0]) + OVER_CIRCLE[1]
    found.strokes += [Line("centre", (u - over, v), (u + over, v), of), Line("centre", (u, v - over), (u, v + over), of)]


def _holes(built: Built, flat: Flat, found: _Gathered, figures: PaperFigures, seen: str) -> None:
    """What goes straight through."""
    sinks = {(round(s.u, 3), round(s.v, 3)): s for s in flat.sinks}
    discs: dict[tuple[float, str], list[tuple[float, float, float, str]]] = {}
    others: list[tuple[str, Contour]] = []
    named = _numbered((c.owners[0], c) for c in flat.inside)
    fields = _fields(named)
    for name, c in named:
        disc = c.as_circle
        if disc is None:
            others.append((name, c))
            continue
        u, v, r = disc
        sink = sinks.get((round(u, 3), round(v, 3)))
        after = ", in a field: the outermost are placed" if c.owners[0] in fields else ""
        if sink:
            far = "" if sink.face == seen else ", far side"
            after += f", sunk to ⌀ {figures.length(sink.diameter)} at {degrees(sink.angle)}{far}"
            found.strokes.append(Arc("visible" if sink.face == seen else "hidden", (sink.u, sink.v), sink.diameter / 2, 0.0, 2 * math.pi))
        after += _thread(built, c.owners[0], (u, v, r), found)
        discs.setdefault((round(2 * r, 3), after), []).append((u, v, r, name))
        wanted = fields.get(c.owners[0], {}).get(name, "xy")
        found.point(f"{name}/centre", (u, v), f"centre of a hole ⌀ {figures.length(2 * r)}", c.owners[0], wanted=wanted)
        _cross(found, u, v, r, c.owners[0])
    for (across, after), places in discs.items():
        owner = _owner(places[0][3])
        many = times(len(places))
        found.callouts.append(
            Callout(
                f"hole/{places[0][3]}", f"{many}⌀ {figures.length(across)}{after}", tuple(p[:3] for p in places), "diameter", across, owner
            )
        )
    _shapes(others, found, figures, "")


def _thread(built: Built, owner: str, disc: tuple[float, float, float], found: _Gathered) -> str:
    """What is said of a hole that is tapped for its set, which is drawn as three quarters of the thread's outer circle (ISO 6410-1); '' of another."""
    bore = built.document.bores.get(read_owner(owner).key) if is_of(owner, "bore") else None
    said = bore.hardware if bore else None
    u, v, r = disc
    if said is None or said.holds_by != "thread" or 2 * r > diameter_of(said.size) - CONTACT:
        return ""
    found.strokes.append(Arc("thin", (u, v), diameter_of(said.size) / 2, math.pi / 2 + 0.1, 1.5 * math.pi, owner))
    return f", {said.size} thread"


def _fields(named: Sequence[tuple[str, Contour]]) -> dict[str, dict[str, str]]:
    """Of owners with many cuts: the ways in which each of them is placed, the first and the last along both."""
    by: dict[str, list[tuple[str, float, float]]] = {}
    for name, c in named:
        x0, y0, x1, y1 = c.bounds
        by.setdefault(c.owners[0], []).append((name, (x0 + x1) / 2, (y0 + y1) / 2))
    found: dict[str, dict[str, str]] = {}
    for owner, own in by.items():
        if len(own) <= MOST_ALIKE:
            continue
        ends = {
            "x": {min(own, key=lambda c: c[1])[0], max(own, key=lambda c: c[1])[0]},
            "y": {min(own, key=lambda c: c[2])[0], max(own, key=lambda c: c[2])[0]},
        }
        found[owner] = {name: "".join(w for w in "xy" if name in ends[w]) for name, _, _ in own}
    return found


def _owner(name: str) -> str:
    return name.rpartition("/")[0]


def _shapes(things: list[tuple[str, Contour]], found: _Gathered, figures: PaperFigures, after: str) -> None:
    """Slots, rectangles and drawn shapes: their size once for all that are alike, each one's place."""
    alike: dict[str, list[tuple[float, float, float, str]]] = {}
    fields = _fields(things)
    for name, c in things:
        x0, y0, x1, y1 = c.bounds
        ways = fields.get(c.owners[0], {}).get(name, "xy")
        what, middle = _what(c, figures)
        owner = c.owners[0]
        spot = _on_outline(c)
        alike.setdefault(what + after, []).append((*spot, 0.0, name))
        if middle:
            found.point(f"{name}/centre", ((x0 + x1) / 2, (y0 + y1) / 2), f"middle of {what}", owner, wanted=ways)
            _axes(found, c, owner)
        else:
            found.line(f"{name}/low x", (x0, y0), "x", f"left of {what}", owner, wanted="x" in ways)
            found.line(f"{name}/low y", (x0, y0), "y", f"lower edge of {what}", owner, wanted="y" in ways)
            found.line(f"{name}/high x", (x1, y0), "x", f"right of {what}", owner, wanted=False)
            found.line(f"{name}/high y", (x0, y1), "y", f"upper edge of {what}", owner, wanted=False)
    for what, places in alike.items():
        many = times(len(places))
        found.callouts.append(
            Callout(f"shape/{places[0][3]}", f"{many}{what}", tuple(p[:3] for p in places), "note", 0.0, _owner(places[0][3]))
        )


def _axes(found: _Gathered, c: Contour, of: str) -> None:
    """Centre lines along and across a slot."""
    x0, y0, x1, y1 = c.bounds
    x, y = (x0 + x1) / 2, (y0 + y1) / 2
    over = min(x1 - x0, y1 - y0) / 2 * OVER_CIRCLE[0] + OVER_CIRCLE[1]
    found.strokes += [Line("centre", (x0 - over, y), (x1 + over, y), of), Line("centre", (x, y0 - over), (x, y1 + over), of)]


def _on_outline(c: Contour) -> Point:
    """A place on a contour, upper right."""
    s = max(c.segments(), key=lambda s: (round((s.p[0] + s.q[0]) / 2, 3), (s.p[1] + s.q[1]) / 2))
    if s.bulge:
        cx, cy, r, start, sweep = arc_from_bulge(s.p, s.q, s.bulge)
        return cx + r * math.cos(start + sweep / 2), cy + r * math.sin(start + sweep / 2)
    return (s.p[0] + s.q[0]) / 2, (s.p[1] + s.q[1]) / 2


def _what(c: Contour, figures: PaperFigures) -> tuple[str, bool]:
    """A closed shape in words, and whether it is placed by its middle."""
    x0, y0, x1, y1 = c.bounds
    wide, high = x1 - x0, y1 - y0
    f = figures.length
    lines = [s for s in c.segments() if not s.bulge]
    arcs = [arc_from_bulge(s.p, s.q, s.bulge) for s in c.segments() if s.bulge]
    square = all(abs(s.p[0] - s.q[0]) < SEEN or abs(s.p[1] - s.q[1]) < SEEN for s in lines)
    radii = {round(a[2], 3) for a in arcs}
    area = abs(c.area)
    if len(radii) == 1 and square:
        r = radii.pop()
        if abs(min(wide, high) - 2 * r) < SEEN and abs(area - (wide * high - (4 - math.pi) * r * r)) < 0.01 * max(area, 1.0):
            return f"slot {f(min(wide, high))} × {f(max(wide, high))}", True
        if abs(area - (wide * high - (4 - math.pi) * r * r)) < WITHIN * max(area, 1.0):
            return f"{f(wide)} × {f(high)}, R {f(r)}", False
    if abs(area - wide * high) < SEEN:
        return f"{f(wide)} × {f(high)}", False
    return f"{f(wide)} × {f(high)} over all, shaped", False


def _pockets(built: Built, flat: Flat, found: _Gathered, figures: PaperFigures, seen: str) -> None:
    """What is sunk from a face."""
    discs: dict[tuple[float, float, str], list[tuple[float, float, float, str]]] = {}
    other: dict[tuple[str, float, str], list[tuple[str, Contour]]] = {}
    faced: dict[int, Pocket] = {id(p.contour): p for p in flat.pockets}
    for name, c in _numbered((p.contour.owners[0] or p.owner, p.contour) for p in flat.pockets):
        p = faced[id(c)]
        far = "" if p.face == seen else ", far side"
        disc = p.as_circle
        if disc:
            u, v, r = disc
            thread = _thread(built, p.owner, (u, v, r), found)
            discs.setdefault((round(2 * r, 3), round(p.depth, 3), far + thread), []).append((u, v, r, name))
            found.point(f"{name}/centre", (u, v), f"centre of a hole ⌀ {figures.length(2 * r)}", p.owner)
            _cross(found, u, v, r, p.owner)
        else:
            other.setdefault((p.what, round(p.depth, 3), far), []).append((name, c))
    for (across, deep, far), places in discs.items():
        many = times(len(places))
        text = f"{many}⌀ {figures.length(across)}, {figures.length(deep)} deep{far}"
        found.callouts.append(Callout(f"hole/{places[0][3]}", text, tuple(p[:3] for p in places), "diameter", across, _owner(places[0][3])))
    for (what, deep, far), things in other.items():
        _shapes(things, found, figures, f", {figures.length(deep)} deep, {what}{far}")


def _bores(part: FlatPart, flat: Flat, found: _Gathered, figures: PaperFigures) -> None:
    """Holes into edges, as they are seen from above; how high they lie stands with them."""
    alike: dict[str, list[tuple[float, float, float, str]]] = {}
    over = part.record.up == "b"
    for n, b in enumerate(sorted(flat.bores, key=lambda b: (b.edge, b.along, b.w)), 1):
        (u0, v0, _), (u1, v1, _) = edge_bore_axis(b)
        if over:  # bores keep the board's own coordinates
            x0, _, x1, _ = part.flat.bounds
            u0, u1 = x0 + x1 - u0, x0 + x1 - u1
        away = flat.thickness - b.w if not over else b.w
        text = f"⌀ {figures.length(b.diameter)}, {figures.length(b.depth)} deep into the edge, {figures.length(away)} under this face"
        name = f"{b.owner}/bore {n}"
        r = b.diameter / 2
        if b.across == "u":
            found.strokes += [Line("hidden", (u0, v0 + k * r), (u1, v0 + k * r), part.key) for k in (-1, 1)] + [
                Line("hidden", (u1, v0 - r), (u1, v0 + r), part.key)
            ]
        else:
            found.strokes += [Line("hidden", (u0 + k * r, v0), (u0 + k * r, v1), part.key) for k in (-1, 1)] + [
                Line("hidden", (u0 - r, v1), (u0 + r, v1), part.key)
            ]
        found.line(f"{name}/along", (u0, v0), "y" if b.across == "u" else "x", "a hole into the edge", b.owner)
        alike.setdefault(text, []).append(((u0 + u1) / 2, (v0 + v1) / 2, 0.0, name))
    for text, places in alike.items():
        many = times(len(places))
        found.callouts.append(Callout(f"bore/{places[0][3]}", many + text, tuple(p[:3] for p in places), "note", 0.0, _owner(places[0][3])))


def _outline(built: Built, part: FlatPart, flat: Flat, found: _Gathered, figures: PaperFigures) -> None:
    """Where the outline turns, its rounds and slants, and what joints cut into it."""
    x0, y0, x1, y1 = flat.bounds
    turns: dict[str, dict[int, tuple[str, Point, str]]] = {"x": {}, "y": {}}
    rounds: dict[float, list[tuple[float, float, float, str]]] = {}
    middles: dict[float, list[Point]] = {}
    joints: dict[str, list[Segment]] = {}
    for piece in flat.pieces:
        segments = piece.outer.segments()
        counted: dict[str, int] = {}
        for before, s in zip([segments[-1], *segments[:-1]], segments, strict=True):
            if is_of(s.owner, "joint"):
                joints.setdefault(s.owner, []).append(s)
            elif s.bulge:
                cx, cy, r, start, sweep = arc_from_bulge(s.p, s.q, s.bulge)
                middle = cx + r * math.cos(start + sweep / 2), cy + r * math.sin(start + sweep / 2)
                rounds.setdefault(round(r, 3), []).append((*middle, 0.0, s.owner))
                middles.setdefault(round(r, 3), []).append((cx, cy))
            else:
                _slant(s, found)
            if is_of(s.owner, "joint") and is_of(before.owner, "joint", "edge"):
                continue
            if is_of(before.owner, "joint") and is_of(s.owner, "edge"):
                continue
            counted[s.owner] = counted.get(s.owner, 0) + 1
            for k, way in ((0, "x"), (1, "y")):
                low, high = ((x0, x1), (y0, y1))[k]
                if low + SEEN < s.p[k] < high - SEEN:
                    turns[way].setdefault(round(s.p[k] / SEEN), (f"{s.owner}/turn {counted[s.owner]}", s.p, s.owner))
    for way, at in turns.items():
        for name, p, owner in at.values():
            found.spots.setdefault(name, Spot(name, p, "both", "a corner of the outline", owner))
            if len(at) <= MOST_TURNS:
                (found.across if way == "x" else found.up).append(name)
    if any(len(at) > MOST_TURNS for at in turns.values()):
        top = max((p for piece in flat.pieces for p in piece.outer.points), key=lambda p: (round(p[1], 3), p[0]))
        found.callouts.append(Callout("outline", "outline as in its cut file", ((*top, 0.0),), "note", 0.0, part_id(part.of)))
    for r, places in rounds.items():
        many = times(len(places))
        owner = places[0][3]
        name, text = f"round/{owner}/{len(rounds)}", f"{many}R {figures.length(r)}"
        found.callouts.append(Callout(name, text, tuple(p[:3] for p in places), "radius", r, owner, tuple(middles[r])))
    for owner, own in joints.items():
        _joint(built, part, owner, own, found, figures)


def _slant(s: Segment, found: _Gathered) -> None:
    """A straight edge that lies along neither way: its angle to the nearer of both."""
    dx, dy = abs(s.q[0] - s.p[0]), abs(s.q[1] - s.p[1])
    if min(dx, dy) < SEEN or math.hypot(dx, dy) < 1.0:
        return
    turn = math.atan2(dy, dx)
    angle, to = (turn, "level") if turn <= math.pi / 4 + CONTACT else (math.pi / 2 - turn, "upright")
    name = f"slant/{s.owner}"
    if not any(c.name == name for c in found.callouts):
        at = ((s.p[0] + s.q[0]) / 2, (s.p[1] + s.q[1]) / 2, 0.0)
        found.callouts.append(Callout(name, f"{degrees(angle)} to {to}", (at,), "note", angle, s.owner))


def _joint(built: Built, part: FlatPart, owner: str, own: list[Segment], found: _Gathered, figures: PaperFigures) -> None:
    """What a joint cuts into the outline, in one line: how many, how wide, how deep."""
    joint = built.joints.get(read_owner(owner).key)
    if joint is None:
        return
    record = built.document.joints[joint.key]
    xs = [p[0] for s in own for p in (s.p, s.q)]
    ys = [p[1] for s in own for p in (s.p, s.q)]
    deep = min(max(xs) - min(xs), max(ys) - min(ys))
    mine = [f for f in joint.fingers if f.owner == part.of] or list(joint.fingers)
    widths = sorted({round(f.high - f.low, 2) for f in mine})
    mate = next((built.parts[k].path for pair in joint.pairs if part.key in pair for k in pair if k != part.key), "")
    sizes = [figures.length(w) for w in widths]
    said = (
        f"{len(mine)} × {sizes[0]} wide" if len(widths) == 1 else f"{len(mine)}, {listed(sizes)} wide" if widths and len(widths) < 4 else ""
    )
    text = ", ".join(
        t for t in (record.title.lower(), said, f"{figures.length(deep)} deep" if deep > ALIKE else "", f"to {mate}" if mate else "") if t
    )
    found.callouts.append(
        Callout(
            f"joint/{owner}",
            text.replace("_", " "),
            tuple(((s.p[0] + s.q[0]) / 2, (s.p[1] + s.q[1]) / 2, 0.0) for s in own),
            "note",
            0.0,
            owner,
        )
    )


def _bends(flat: Flat, found: _Gathered, numbers: Sequence[int]) -> None:
    """Bend lines with their numbers, way and angle; where they run along the sheet their places too."""
    if flat.fold is None:
        return
    for i, b in enumerate(flat.fold.bends):
        p, q = b.middle
        found.strokes.append(Line("bend", p, q, b.owner))
        n = numbers[i] if numbers else i + 1
        places = tuple((p[0] + (q[0] - p[0]) * s, p[1] + (q[1] - p[1]) * s) for s in ALONG_BEND)
        beside = f"{'▲' if b.angle > 0 else '▼'} {degrees(abs(b.angle))}"
        found.rings.append(Ring(f"bend/{b.owner}/{b.key}", str(n), places, b.owner, lead=False, beside=beside))
        for k, along in enumerate(WAYS):
            if abs(p[k] - q[k]) < SEEN:
                start = min(p, q, key=lambda r: r[1 - k])
                found.line(f"{b.owner}/{b.key}/line", start, along, f"bend line {n}", b.owner)
