"""Records of a drawing: points, the lines and arcs between them, what is referred to, and the relations that hold them. In mm, in the plane's own x and y.

A drawing keeps where its points lay when it was last edited; every build starts from there, so that what comes out hangs on the document alone.
"""

from __future__ import annotations

from collections.abc import Iterator
from typing import Annotated, Any, ClassVar, Literal

from pydantic import Field

from zygon.drawn.backdrop import Backdrop
from zygon.limits import FARTHEST, MAX_DRAWN_CURVES, MAX_DRAWN_POINTS, MAX_DRAWN_REFERENCES, MAX_DRAWN_RELATIONS
from zygon.measure.entry import Entry, Record
from zygon.measure.key import Key
from zygon.measure.quantity import Kind
from zygon.owner import part_id

__all__ = [
    "Curve",
    "DIMENSIONS",
    "Drawing",
    "DrawnArc",
    "DrawnCircle",
    "DrawnLine",
    "DrawnPoint",
    "DrawnSpline",
    "DrawnText",
    "Reference",
    "Relation",
    "RelationKind",
    "TAKES",
    "TIES",
    "Thing",
    "fits",
]

#: Along one axis of the plane, in mm.
Coordinate = Annotated[float, Field(ge=-FARTHEST, le=FARTHEST)]
RelationKind = Literal[
    "same_place", "on", "level", "upright", "in_line", "parallel", "square", "tangent", "equal", "same_centre", "middle", "mirrored", "held",
    "distance", "across", "up", "angle", "radius", "diameter",
]  # fmt: skip
#: Those that carry a figure, and its kind.
DIMENSIONS: dict[str, Kind] = {
    "distance": "length",
    "across": "length",
    "up": "length",
    "angle": "angle",
    "radius": "length",
    "diameter": "length",
}
#: What of a part has these names already.
OWN_NAMES = ("left", "right", "front", "back", "bottom", "top", "centre", "center", "thickness", "pitch", "all")
#: What each of the things is that a relation ties: 'p' a point, 'l' a straight line, 'c' a circle or an arc.
Thing = Literal["p", "l", "c", "s"]
#: What each kind of relation ties, one text a way; a '*' behind stands for one or more of the last.
TAKES: dict[RelationKind, tuple[str, ...]] = {
    "same_place": ("pp*",),
    "on": ("pl", "pc"),
    "level": ("l", "pp*"),
    "upright": ("l", "pp*"),
    "in_line": ("ll*",),
    "parallel": ("ll*",),
    "square": ("ll",),
    "tangent": ("lc", "cl", "cc", "ls", "sl", "cs", "sc", "ss"),
    "equal": ("ll*", "cc*"),
    "same_centre": ("cc*", "pc", "cp"),
    "middle": ("pl", "ppp"),
    "mirrored": ("ppl", "ccl", "lll"),
    "held": ("p",),
    "distance": ("l", "pp", "pl", "lp", "ll", "lc", "cl", "pc", "cp", "cc"),
    "across": ("pp", "l"),
    "up": ("pp", "l"),
    "angle": ("ll",),
    "radius": ("c",),
    "diameter": ("c",),
}


class DrawnPoint(Record):
    """Where a point lay when the drawing was last edited."""

    x: Coordinate
    y: Coordinate


class _Curve(Record):
    order: int = 0
    name: str = Field(default="", max_length=40, pattern=r"^$|^[a-z][a-z0-9_]*$", description="by which its edge is called")
    edge: str = Field(
        default="", max_length=60, description="key of the line of whose edge it is a piece, since that was split; '' for its own"
    )
    helping: bool = Field(default=False, description="drawn to refer to; it is not part of the outline")

    def points(self) -> tuple[str, ...]:
        """Keys of the points that it goes through or about."""
        raise NotImplementedError


class DrawnLine(_Curve):
    """A straight line from one point to another."""

    thing: ClassVar[Thing] = "l"

    kind: Literal["line"] = "line"
    a: Key
    b: Key

    def points(self) -> tuple[str, ...]:
        return self.a, self.b


class DrawnArc(_Curve):
    """An arc about a centre, from one point counter-clockwise to another."""

    thing: ClassVar[Thing] = "c"

    kind: Literal["arc"] = "arc"
    a: Key
    b: Key
    centre: Key

    def points(self) -> tuple[str, ...]:
        return self.a, self.b, self.centre


class DrawnCircle(_Curve):
    """A circle about a point; ``radius`` is what it was when the drawing was last edited, in mm."""

    thing: ClassVar[Thing] = "c"

    kind: Literal["circle"] = "circle"
    centre: Key
    radius: float = Field(gt=0, le=FARTHEST)

    def points(self) -> tuple[str, ...]:
        return (self.centre,)


class DrawnSpline(_Curve):
    """A smooth curve through points, in their order; a closed one comes back to the first."""

    thing: ClassVar[Thing] = "s"

    kind: Literal["spline"] = "spline"
    through: list[Key] = Field(min_length=2, max_length=200)
    closed: bool = False

    def points(self) -> tuple[str, ...]:
        return tuple(self.through)


class DrawnText(_Curve):
    """A line of text as outlines, from its left end on its baseline; ``height`` is that of its capitals (mm), ``turned`` counter-clockwise in degrees."""

    thing: ClassVar[Thing] = "s"

    kind: Literal["text"] = "text"
    at: Key
    text: str = Field(min_length=1, max_length=60)
    height: float = Field(ge=0.5, le=2000)
    turned: float = Field(default=0.0, ge=-360, le=360)
    font: Literal["sans", "mono"] = "sans"

    def points(self) -> tuple[str, ...]:
        return (self.at,)


Curve = Annotated[DrawnLine | DrawnArc | DrawnCircle | DrawnSpline | DrawnText, Field(discriminator="kind")]


class Reference(Record):
    """What lies fast in the plane: a line across one of its ways, a point, a circle, of something else, which is followed; or of nothing, which stays.

    ``seen`` is where it lay when the drawing was last edited, in mm: x and y of both ends of a line, of a circle's centre and its radius, of a point.
    A line is at ``x`` or ``y``, a point at both, as entries in the room along the axes of the plane; a circle is the ``hole`` of a part, by its owner.
    Either is the ``line`` (an arc, as the circle that it is of) of the drawing of a parallel part's outline. A circle may be the ``body`` of a round rod,
    tube or turned part that goes square through the plane.
    """

    order: int = 0
    kind: Literal["line", "circle", "point"]
    x: Entry | None = None
    y: Entry | None = None
    hole: str = Field(default="", max_length=200, description="owner of a round hole, and which of its row: 'feature:PART:KEY/0'")
    line: str = Field(default="", max_length=130, description="a line of another part's drawing: 'PART/CURVE', by their keys")
    body: str = Field(default="", max_length=64, description="key of a round part that goes square through the plane")
    seen: Annotated[list[Coordinate], Field(min_length=2, max_length=4)]

    @property
    def thing(self) -> Thing:
        """What a relation takes it for."""
        return {"line": "l", "circle": "c", "point": "p"}[self.kind]  # type: ignore[return-value]

    @property
    def stays(self) -> bool:
        """Whether it follows nothing."""
        return self.x is None and self.y is None and not self.followed

    @property
    def followed(self) -> str:
        """What it is of, where that is a hole, a line of another drawing or a round part: 'feature:PART:KEY/0', 'line:PART/CURVE', 'part:KEY'; '' for none."""
        return self.hole or (f"line:{self.line}" if self.line else part_id(self.body) if self.body else "")

    def alike(self, other: Reference) -> bool:
        """Whether another follows the same, or lies fast where this does however far it is drawn."""
        if self.stays and other.stays:
            return self.kind == other.kind and self._lies == other._lies
        return (self.kind, self.x, self.y, self.followed) == (other.kind, other.x, other.y, other.followed)

    @property
    def _lies(self) -> tuple[float | None, ...]:
        if self.kind != "line":
            return tuple(self.seen)
        (x0, y0, x1, y1) = self.seen
        return (x0, None) if x0 == x1 else (None, y0) if y0 == y1 else (x0, y0, x1, y1)


class Relation(Record):
    """What holds between things of a drawing, each by its key: 'KEY.a', 'KEY.b' and 'KEY.centre' are points of a curve or a reference.

    A dimension has an ``entry``; a ``measured`` one is only read, and stands in brackets.
    """

    kind: RelationKind
    of: list[str] = Field(min_length=1, max_length=40)
    entry: Entry | None = None
    measured: bool = False
    out: bool = Field(default=False, description="left out without being deleted")
    order: int = 0


class Drawing(Record):
    """Points, curves, references and relations by keys, no two of which are alike."""

    points: dict[Key, DrawnPoint] = Field(default_factory=dict, max_length=MAX_DRAWN_POINTS)
    curves: dict[Key, Curve] = Field(default_factory=dict, max_length=MAX_DRAWN_CURVES)
    references: dict[Key, Reference] = Field(default_factory=dict, max_length=MAX_DRAWN_REFERENCES)
    relations: dict[Key, Relation] = Field(default_factory=dict, max_length=MAX_DRAWN_RELATIONS)
    backdrop: Backdrop | None = Field(default=None, description="a picture behind it, to be traced")

    def thing(self, key: str) -> Thing | None:
        """What a key stands for; None where there is no such thing."""
        own, _, end = key.partition(".")
        if not end:
            if own in self.points:
                return "p"
            found = self.curves.get(own) or self.references.get(own)
            return found.thing if found else None
        curve, reference = self.curves.get(own), self.references.get(own)
        if isinstance(curve, DrawnLine | DrawnArc | DrawnCircle):
            return "p" if end in type(curve).model_fields and end in ("a", "b", "centre") else None
        if reference is None:
            return None
        return "p" if end in {"line": ("a", "b"), "circle": ("centre",), "point": ()}[reference.kind] else None

    def edge_of(self, key: str) -> str:
        """The key of the line of whose edge a curve is a piece: its own where it was not split."""
        curve = self.curves.get(key)
        return curve.edge or key if curve else key

    def named(self, name: str) -> str | None:
        """The key of the curve that has a name; None for none."""
        return next((k for k, c in self.curves.items() if name and c.name == name), None)

    def point(self, key: str) -> str:
        """The key of a point of the drawing that a curve's end or centre is; the key itself of all else."""
        own, _, end = key.partition(".")
        return str(getattr(self.curves[own], end)) if end and own in self.curves else key

    def smooth_at(self, one: str, other: str) -> str:
        """The key of the point in which two curves end, one of them a smooth one that is open; '' where they do not."""
        ends = []
        for key in (one, other):
            curve = self.curves.get(key)
            if isinstance(curve, DrawnSpline):
                ends.append(() if curve.closed else (curve.through[0], curve.through[-1]))
            else:
                ends.append((curve.a, curve.b) if isinstance(curve, DrawnLine | DrawnArc) else ())
        return next((p for p in ends[0] if p in ends[1]), "")

    def mirrored(self, way: Literal["x", "y"], long: float) -> Drawing:
        """The drawing on a part that is ``long`` mm that way, as its mirror image has it; without the picture behind it."""

        def at(x: float, y: float) -> tuple[float, float]:
            return (round(long - x, 6) + 0.0, y) if way == "x" else (x, round(long - y, 6) + 0.0)

        points = {k: DrawnPoint(x=at(p.x, p.y)[0], y=at(p.x, p.y)[1]) for k, p in self.points.items()}
        # an arc runs counter-clockwise: its ends change places
        curves = {k: c.model_copy(update={"a": c.b, "b": c.a}) if isinstance(c, DrawnArc) else c for k, c in self.curves.items()}
        turned = {"a": "b", "b": "a"}

        def named(of: str) -> str:
            own, dot, end = of.partition(".")
            return f"{own}.{turned.get(end, end)}" if dot and isinstance(self.curves.get(own), DrawnArc) else of

        references = {}
        for k, r in self.references.items():
            seen = [*at(r.seen[0], r.seen[1])] + ([*at(r.seen[2], r.seen[3])] if r.kind == "line" else r.seen[2:])
            references[k] = r.model_copy(update={"seen": seen})
        relations = {k: r.model_copy(update={"of": [named(o) for o in r.of]}) for k, r in self.relations.items()}
        return self.model_copy(
            update={"points": points, "curves": curves, "references": references, "relations": relations, "backdrop": None}
        )

    def fault(self) -> tuple[str, Any, str] | None:
        """What is wrong with the records among themselves: the field, its value and the rule; None for nothing."""
        return next(self._faults(), None)

    def _faults(self) -> Iterator[tuple[str, Any, str]]:
        seen: set[str] = set()
        for field, records in (("points", self.points), ("curves", self.curves), ("references", self.references)):
            for key in records:
                if key in seen:
                    yield f"{field}/{key}", key, "a key stands for one thing of the drawing"
                seen.add(key)
        names: set[str] = set()
        for key, curve in self.curves.items():
            for p in curve.points():
                if p not in self.points:
                    yield f"curves/{key}", p, f"there is no point with the key {p!r}"
            if len(set(curve.points())) < len(curve.points()):
                yield f"curves/{key}", list(curve.points()), f"the points of a {curve.kind} differ"
            if curve.name in OWN_NAMES:
                yield f"curves/{key}/name", curve.name, "a name that is no side of the part, nor its centre or thickness"
            if curve.name and curve.name in names:
                yield f"curves/{key}/name", curve.name, "each line has a name of its own"
            names.add(curve.name)
        for key, reference in self.references.items():
            n = {"line": 4, "circle": 3, "point": 2}[reference.kind]
            if len(reference.seen) != n:
                yield f"references/{key}/seen", reference.seen, f"a {reference.kind} that lies fast has {n} figures"
            of = (reference.hole, reference.line, reference.body)
            said = (reference.x is not None, reference.y is not None, *(bool(o) for o in of))
            allowed = {
                "line": ((1, 0, 0, 0, 0), (0, 1, 0, 0, 0), (0, 0, 0, 1, 0)),
                "point": ((1, 1, 0, 0, 0),),
                "circle": ((0, 0, 1, 0, 0), (0, 0, 0, 1, 0), (0, 0, 0, 0, 1)),
            }[reference.kind]
            if not reference.stays and said not in allowed:
                rule = {
                    "line": "a line lies at x or at y, or is of a drawing",
                    "point": "a point lies at x and y",
                    "circle": "a circle is of a hole, a drawing or a round part",
                }[reference.kind]
                yield f"references/{key}", key, rule
            if reference.kind == "circle" and len(reference.seen) == n and reference.seen[2] <= 0:
                yield f"references/{key}/seen", reference.seen, "a circle's radius is greater than 0"
            if reference.kind == "line" and reference.seen[:2] == reference.seen[2:]:
                yield f"references/{key}/seen", reference.seen, "a line's ends differ"
        for key, relation in self.relations.items():
            yield from self._wrong(key, relation)

    def _wrong(self, key: str, relation: Relation) -> Iterator[tuple[str, Any, str]]:
        things = [self.thing(of) for of in relation.of]
        if None in things:
            lost = relation.of[things.index(None)]
            yield f"relations/{key}/of", lost, f"there is nothing with the key {lost!r} in the drawing"
            return
        if not any(fits("".join(t or "" for t in things), way) for way in TAKES[relation.kind]):
            yield f"relations/{key}/of", relation.of, f"{relation.kind.replace('_', ' ')} {TIES[relation.kind]}"
        if len({self.point(of) for of in relation.of}) < len(relation.of):
            yield f"relations/{key}/of", relation.of, "a relation is between different things"
        if relation.kind == "tangent" and "s" in things and not self.smooth_at(*relation.of):
            yield f"relations/{key}/of", relation.of, "a smooth curve is tangent at its end to what ends there too"
        own = [of for of, thing in zip(relation.of, things, strict=True) if thing == "p"]
        lines = [self.curves[of] for of, thing in zip(relation.of, things, strict=True) if thing in ("l", "c") and of in self.curves]
        if relation.kind in ("on", "middle", "distance") and any(self.point(p) in c.points() for p in own for c in lines):
            yield f"relations/{key}/of", relation.of, "a point that is no point of the line itself"
        if (relation.kind in DIMENSIONS) != (relation.entry is not None) and not (relation.measured and relation.kind in DIMENSIONS):
            rule = "a dimension has an entry" if relation.kind in DIMENSIONS else f"{relation.kind.replace('_', ' ')} has no figure"
            yield f"relations/{key}/entry", relation.entry and relation.entry.text, rule


def fits(things: str, way: str) -> bool:
    """Whether things, a letter each, are tied in a way of ``TAKES``."""
    if not way.endswith("*"):
        return things == way
    least = way[:-1]
    return things.startswith(least) and set(things[len(least) :]) <= {least[-1]}


#: What each kind ties, in words.
TIES: dict[str, str] = {
    "same_place": "is of two or more points",
    "on": "is of a point and a line, a circle or an arc",
    "level": "is of a line, or of points",
    "upright": "is of a line, or of points",
    "in_line": "is of two or more lines",
    "parallel": "is of two or more lines",
    "square": "is of two lines",
    "tangent": "is of two circles or arcs, or of one and a line; or of what ends where a smooth curve does",
    "equal": "is of lines, or of circles and arcs",
    "same_centre": "is of circles and arcs, or of one and a point",
    "middle": "is of a point and a line, or of a point and two others",
    "mirrored": "is of two alike and the line between them",
    "held": "is of a point",
    "distance": "is of a line, or between two of points, lines, circles and arcs",
    "across": "is of a line, or between two points",
    "up": "is of a line, or between two points",
    "angle": "is between two lines",
    "radius": "is of a circle or an arc",
    "diameter": "is of a circle or an arc",
}
