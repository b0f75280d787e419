"""Lines, arcs, circles and what is made of them, drawn by pressing places; what is seen while they are drawn is kept as relations."""

from __future__ import annotations

import math
from typing import Any, Literal

from pydantic import Field

from zygon.design.patch import Patch
from zygon.drawn.drawing import DrawnArc, DrawnLine, DrawnSpline, DrawnText
from zygon.edits.drawings.draft import PLACES, Draft, refused, way_of
from zygon.geometry.lettering import Font, missing_letter
from zygon.limits import FARTHEST
from zygon.making.datums.scope import EntryScope
from zygon.making.result.built import Built
from zygon.measure.entry import Entry, Record
from zygon.measure.evaluate import evaluate
from zygon.tolerance import CONTACT, SEEN

__all__ = ["FIGURES", "PRESSES", "Press", "Tool", "draw", "lettered", "tall"]

Tool = Literal["point", "line", "arc_centre", "arc_through", "arc_smooth", "circle", "rectangle", "slot", "polygon", "spline", "text"]
#: How many places are pressed for each, at least and at most.
PRESSES: dict[str, tuple[int, int]] = {
    "point": (1, 1), "line": (2, 2), "arc_centre": (3, 3), "arc_through": (3, 3), "arc_smooth": (2, 2), "circle": (2, 2), "rectangle": (2, 2),
    "slot": (3, 3), "polygon": (2, 2), "spline": (2, 200), "text": (1, 1),
}  # fmt: skip
#: What may be typed while each is drawn.
FIGURES: dict[str, tuple[str, ...]] = {
    "line": ("length",),
    "arc_centre": ("radius",),
    "arc_through": ("radius",),
    "arc_smooth": ("radius",),
    "circle": ("diameter",),
    "rectangle": ("width", "height"),
    "slot": ("length", "width"),
    "polygon": ("diameter",),
    "text": ("height",),
}


#: Capitals of a text of which nothing else is said (mm).
TALL = 20.0


class Press(Record):
    """A pressed place in mm in the drawing's plane; ``on`` is what was caught there: a point, a line, an arc, what may be referred to, or 'KEY.middle' of a line.

    ``seen`` is how what is drawn lies that ends there: level or upright, or smooth or square to what it goes on from.
    """

    x: float = Field(ge=-FARTHEST, le=FARTHEST, allow_inf_nan=False)
    y: float = Field(ge=-FARTHEST, le=FARTHEST, allow_inf_nan=False)
    on: str = Field(default="", max_length=240)
    seen: list[Literal["level", "upright", "smooth", "square"]] = Field(default_factory=list, max_length=4)


def draw(
    built: Built,
    part: str,
    feature: str,
    tool: Tool,
    presses: list[Press],
    *,
    figures: dict[str, Entry],
    helping: bool = False,
    sides: int = 6,
    turns: Literal["left", "right"] = "left",
    text: str = "",
) -> tuple[str, Patch]:
    """Label and patch of what a tool draws by presses. ``figures`` are those that were typed, by the names of ``FIGURES``; an arc about a centre ``turns``."""
    least, most = PRESSES[tool]
    if not least <= len(presses) <= most:
        rule = f"{least} places" if least == most else f"from {least} to {most} places"
        raise refused(f"A {tool.replace('_', ' ')} is drawn by {rule}", "presses", len(presses), rule)
    odd = next((k for k in figures if k not in FIGURES.get(tool, ())), None)
    if odd:
        rule = f"of {', '.join(FIGURES.get(tool, ())) or 'nothing'}"
        raise refused(f"A {tool.replace('_', ' ')} has no {odd}", "figures", odd, rule)
    drawing = _Drawing(Draft(built, part, feature), presses, figures, helping)
    more: dict[str, dict[str, Any]] = {"polygon": {"sides": sides}, "arc_centre": {"left": turns == "left"}, "text": {"text": text}}
    getattr(drawing, f"_{tool}")(**more.get(tool, {}))
    name = {"arc_centre": "arc", "arc_through": "arc", "arc_smooth": "smooth arc", "spline": "smooth curve"}.get(tool, tool)
    return f"Draw {'an' if name[0] == 'a' else 'a'} {name}", drawing.draft.patch()


class _Drawing:
    def __init__(self, draft: Draft, presses: list[Press], figures: dict[str, Entry], helping: bool) -> None:
        self.draft, self.presses, self.figures, self.helping = draft, presses, figures, helping
        du, dv = draft.shift_now()
        self.xy = [(p.x - du, p.y - dv) for p in presses]

    # -- places

    def _point_at(self, n: int, *, new: bool = False) -> str:
        """The key of the point at a press: the one that was caught, else a new one that lies where it was caught."""
        draft, on = self.draft, self.presses[n].on
        if not on:
            return draft.point(*self.xy[n])
        base, _, end = on.rpartition(".") if on.endswith((".a", ".b", ".centre", ".middle")) else (on, "", "")
        key = draft.named(base)
        if end == "middle":
            p = draft.point(*self.xy[n])
            draft.relate("middle", [p, key])
            return p
        of = f"{key}.{end}" if end else key
        own = self._own_point(of)
        if own and not new:
            return own
        p = draft.point(*self.xy[n])
        if own or self._is_point(of):
            draft.relate("same_place", [p, own or of])
        elif (draft.curves.get(key) or draft.references.get(key)) and getattr(draft.curves.get(key), "kind", "") != "spline":
            draft.relate("on", [p, key])
        return p

    def _own_point(self, of: str) -> str:
        own, _, end = of.partition(".")
        if end and own in self.draft.curves:
            return str(getattr(self.draft.curves[own], end))
        return own if own in self.draft.points else ""

    def _is_point(self, of: str) -> bool:
        own, _, end = of.partition(".")
        reference = self.draft.references.get(own)
        return reference is not None and (bool(end) or reference.kind == "point")

    def _apart(self, a: str, b: str) -> float:
        return math.dist(self.draft.at(a), self.draft.at(b))

    def _some(self, a: str, b: str, what: str) -> None:
        if a == b or self._apart(a, b) <= CONTACT:
            raise refused(f"The {what} has no length", "presses", self.presses[-1].on or "the same place", "places that differ")

    def _say(self, figure: str, kind: str, of: list[str]) -> None:
        if figure in self.figures:
            self.draft.relate(kind, of, self.figures[figure])

    def _go_on(self, point: str, but: str = "") -> str | None:
        """The line or arc that ends in a point."""
        ending = [k for k, c in self.draft.curves.items() if k != but and isinstance(c, DrawnLine | DrawnArc) and point in (c.a, c.b)]
        return ending[-1] if ending else None

    def _see(self, curve: str, start: str, press: int) -> None:
        """Keeps what was seen of a curve that ends at a press."""
        for seen in self.presses[press].seen:
            if seen in ("level", "upright"):
                self.draft.relate(seen, [curve])
                continue
            before = self._go_on(start, curve)
            if before is None:
                continue
            kinds = {self.draft.curves[k].kind for k in (before, curve)}
            if seen == "square" and kinds == {"line"}:
                self.draft.relate("square", [before, curve])
            elif seen == "smooth":
                self.draft.relate("in_line" if kinds == {"line"} else "tangent", [before, curve])

    # -- tools

    def _point(self) -> None:
        self._point_at(0)

    def _line(self) -> None:
        a, b = self._point_at(0), self._point_at(1)
        self._some(a, b, "line")
        line = self.draft.line(a, b, helping=self.helping)
        self._see(line, a, 1)
        self._say("length", "distance", [line])

    def _arc_centre(self, *, left: bool) -> None:
        c, a = self._point_at(0), self._point_at(1)
        self._some(c, a, "arc")
        b = self._point_at(2)
        self._some(a, b, "arc")
        arc = self.draft.arc(*((a, b) if left else (b, a)), c, helping=self.helping)
        self._say("radius", "radius", [arc])

    def _arc_through(self) -> None:
        a, b = self._point_at(0), self._point_at(1)
        self._some(a, b, "arc")
        self._bent(a, b, self.xy[2], press=2)

    def _bent(self, a: str, b: str, through: tuple[float, float], press: int | None = None) -> str:
        """An arc from a to b by a third place; where that was caught, it lies on it."""
        draft = self.draft
        p, q = draft.at(a), draft.at(b)
        twice = (q[0] - p[0]) * (through[1] - p[1]) - (q[1] - p[1]) * (through[0] - p[0])
        if abs(twice) <= CONTACT * math.dist(p, q):
            raise refused("The three places lie in one line", "presses", list(through), "a third place beside the line between the others")
        centre = _centre(p, q, through)
        # counter-clockwise from a to b where the third place lies to the right of the way between them
        ends = (a, b) if twice < 0 else (b, a)
        arc = draft.arc(*ends, draft.point(*centre), helping=self.helping)
        if press is not None and self.presses[press].on:
            on = self._point_at(press, new=True)
            draft.relate("on", [on, arc])
        self._say("radius", "radius", [arc])
        return arc

    def _arc_smooth(self) -> None:
        draft = self.draft
        a = self._point_at(0)
        before = self._go_on(a)
        if before is None:
            raise refused(
                "A smooth arc goes on from the end of a line or an arc", "presses", self.presses[0].on, "an end of a line or an arc"
            )
        b = self._point_at(1)
        self._some(a, b, "arc")
        p, q = draft.at(a), draft.at(b)
        heading = self._heading(before, a)
        turn = math.remainder(way_of(p, q) - heading, 2 * math.pi)
        if abs(math.sin(turn)) <= SEEN:
            raise refused("A smooth arc would be straight there", "presses", list(q), "a place beside the way that it goes on")
        # the way at the start and the chord are half the sweep apart
        side = heading + math.copysign(math.pi / 2, turn)
        radius = math.dist(p, q) / 2 / abs(math.sin(turn))
        centre = draft.point(p[0] + radius * math.cos(side), p[1] + radius * math.sin(side))
        arc = draft.arc(*((a, b) if turn > 0 else (b, a)), centre, helping=self.helping)
        draft.relate("tangent", [before, arc])
        self._say("radius", "radius", [arc])

    def _heading(self, curve: str, end: str) -> float:
        """The way on which a curve leaves through one of its ends, in radians."""
        record, draft = self.draft.curves[curve], self.draft
        if isinstance(record, DrawnLine):
            other = record.b if end == record.a else record.a
            return way_of(draft.at(other), draft.at(end))
        assert isinstance(record, DrawnArc)
        out = way_of(draft.at(record.centre), draft.at(end))
        return out + (math.pi / 2 if end == record.b else -math.pi / 2)

    def _circle(self) -> None:
        c = self._point_at(0)
        radius = math.dist(self.draft.at(c), self.xy[1])
        if radius <= CONTACT:
            raise refused("The circle has no radius", "presses", 0, "a second place off its centre")
        circle = self.draft.circle(c, radius, helping=self.helping)
        if self.presses[1].on:
            on = self._point_at(1, new=False)
            self.draft.relate("on", [on, circle])
        self._say("diameter", "diameter", [circle])

    def _rectangle(self) -> None:
        draft = self.draft
        a, c = self._point_at(0), self._point_at(1)
        (x0, y0), (x1, y1) = draft.at(a), draft.at(c)
        if min(abs(x1 - x0), abs(y1 - y0)) <= CONTACT:
            raise refused("The rectangle has no width or no height", "presses", [x1 - x0, y1 - y0], "corners that differ both ways")
        b, d = draft.point(x1, y0), draft.point(x0, y1)
        lines = [draft.line(*ends, helping=self.helping) for ends in ((a, b), (b, c), (c, d), (d, a))]
        for n, line in enumerate(lines):
            draft.relate("upright" if n % 2 else "level", [line])
        self._say("width", "distance", [lines[0]])
        self._say("height", "distance", [lines[1]])

    def _slot(self) -> None:
        draft = self.draft
        c, d = self._point_at(0), self._point_at(1)
        self._some(c, d, "slot")
        p, q = draft.at(c), draft.at(d)
        ex, ey = (q[0] - p[0]) / math.dist(p, q), (q[1] - p[1]) / math.dist(p, q)
        far = abs(ex * (self.xy[2][1] - p[1]) - ey * (self.xy[2][0] - p[0]))
        r = far if far > CONTACT else math.dist(p, q) / 4
        corners = [(p, 1), (q, 1), (q, -1), (p, -1)]
        a1, a2, a3, a4 = (draft.point(o[0] + s * ey * r, o[1] - s * ex * r) for o, s in corners)
        one, two = draft.line(a1, a2, helping=self.helping), draft.line(a3, a4, helping=self.helping)
        end, start = draft.arc(a2, a3, d, helping=self.helping), draft.arc(a4, a1, c, helping=self.helping)
        for line, arc in ((one, end), (two, end), (two, start), (one, start)):
            draft.relate("tangent", [line, arc])
        draft.relate("equal", [end, start])
        if "level" in self.presses[1].seen or "upright" in self.presses[1].seen:
            draft.relate("level" if "level" in self.presses[1].seen else "upright", [c, d])
        if "width" in self.figures:
            draft.relate("distance", [one, two], self.figures["width"])
        self._say("length", "distance", [c, d])

    def _polygon(self, *, sides: int) -> None:
        draft = self.draft
        if not 3 <= sides <= 60:
            raise refused(f"A polygon of {sides} sides", "sides", sides, "from 3 to 60 sides")
        c = self._point_at(0)
        p, q = draft.at(c), self.xy[1]
        radius, start = math.dist(p, q), way_of(p, q)
        if radius <= CONTACT:
            raise refused("The polygon has no size", "presses", 0, "a second place off its centre")
        first = self._point_at(1)
        corners = [first]
        for n in range(1, sides):
            t = start + 2 * math.pi * n / sides
            corners.append(draft.point(p[0] + radius * math.cos(t), p[1] + radius * math.sin(t)))
        circle = draft.circle(c, radius, helping=True)
        lines = [draft.line(a, b, helping=self.helping) for a, b in zip(corners, [*corners[1:], corners[0]], strict=True)]
        for corner in corners:
            draft.relate("on", [corner, circle])
        for n in range(0, sides - 1, 30):  # a relation ties so many things at most
            draft.relate("equal", lines[n : n + 31])
        self._say("diameter", "diameter", [circle])

    def _spline(self) -> None:
        keys = [self._point_at(n) for n in range(len(self.presses))]
        closed = len(keys) > 2 and keys[0] == keys[-1]
        if closed:
            keys = keys[:-1]
        if len(set(keys)) < len(keys):
            raise refused("A smooth curve passes no place twice", "presses", len(keys), "places that differ")
        self.draft.curve(DrawnSpline(through=keys, closed=closed, helping=self.helping))

    def _text(self, text: str) -> None:
        drawn = lettered(text.strip(), "sans")
        height = TALL
        if "height" in self.figures:
            entry = self.figures["height"]
            height = evaluate(entry.text, entry.unit, "length", EntryScope(self.draft.place.values)).value
        self.draft.curve(DrawnText(at=self._point_at(0), text=drawn, height=tall(height), helping=self.helping))


def lettered(text: str, font: Font) -> str:
    """A text that a font has all letters of. Raises DocumentError where it has not."""
    if not text:
        raise refused("There is no text to draw", "text", text, "at least one letter")
    lost = missing_letter(text, font)
    if lost is not None:
        raise refused(f"The letters have no {lost!r}", "text", text, "letters, digits and signs of Western Europe")
    return text[:60]


def tall(height: float) -> float:
    """How high capitals are, in mm. Raises DocumentError where they cannot be."""
    if not 0.5 <= height <= 2000:
        raise refused(f"Capitals {height:g} mm high", "height", height, "from 0.5 to 2000 mm")
    return round(height, PLACES)


def _centre(p: tuple[float, float], q: tuple[float, float], r: tuple[float, float]) -> tuple[float, float]:
    """The centre of the circle through three places that lie in no line."""
    ax, ay, bx, by = q[0] - p[0], q[1] - p[1], r[0] - p[0], r[1] - p[1]
    d = 2 * (ax * by - ay * bx)
    a, b = ax * ax + ay * ay, bx * bx + by * by
    return p[0] + (by * a - ay * b) / d, p[1] + (ax * b - bx * a) / d
