"""A drawing while it is changed: records are added and taken away, then it is solved where it lies and written back as one patch."""

from __future__ import annotations

import math
from collections.abc import Iterable
from typing import Any

from zygon.design.document import Document
from zygon.design.layout_operations import fresh_key
from zygon.design.patch import Patch
from zygon.drawn.drawing import Curve, Drawing, DrawnArc, DrawnCircle, DrawnLine, DrawnPoint, Reference, Relation
from zygon.errors import DocumentError
from zygon.making.asked.drawings.of import place_of
from zygon.making.asked.drawings.place import Place
from zygon.making.datums.drawings import Drawn
from zygon.making.result.built import Built
from zygon.measure.entry import Entry

__all__ = ["PLACES", "Draft", "kept_as", "refused", "way_of"]

#: Places are kept to this many places behind the point, in mm: a nanometre.
PLACES = 6
#: So many times a drawing that contradicts is solved again from where it came to.
SETTLED = 3


def refused(said: str, entry: str, value: object, rule: str) -> DocumentError:
    """What cannot be done in a drawing."""
    return DocumentError(said, entry=entry, value=value, rule=rule)


class Draft:
    """The records of a drawing, changed in place; ``place`` is where it lies."""

    def __init__(self, built: Built, part: str, feature: str = "") -> None:
        self.document: Document = built.document
        self.place: Place
        self.place, self.drawing = place_of(built, part, feature)
        self.points = dict(self.drawing.points)
        self.curves: dict[str, Curve] = dict(self.drawing.curves)
        self.references = dict(self.drawing.references)
        self.relations = dict(self.drawing.relations)
        self._known: dict[str, Reference] | None = None

    # -- records

    def _fresh(self, wish: str) -> str:
        # a key that pieces of a line are still called by is no new line's
        edges = {c.edge: c for c in self.curves.values() if c.edge}
        return fresh_key({**self.points, **self.curves, **self.references, **edges}, wish)

    def point(self, x: float, y: float) -> str:
        """A new point."""
        key = self._fresh(f"p{len(self.points) + 1}")
        self.points[key] = DrawnPoint(x=round(x, PLACES), y=round(y, PLACES))
        return key

    def at(self, key: str) -> tuple[float, float]:
        """Where a point is kept, in mm; also a 'KEY.a', 'KEY.b', 'KEY.centre' or a reference."""
        own, _, end = key.partition(".")
        if own in self.points:
            return self.points[own].x, self.points[own].y
        if own in self.curves and end:
            return self.at(getattr(self.curves[own], end))
        if own in self.references:
            seen = self.references[own].seen
            return (seen[2], seen[3]) if end == "b" else (seen[0], seen[1])
        raise refused(f"There is no point {key} in the drawing", "of", key, "a point of the drawing")

    def curve(self, record: Curve) -> str:
        """A new line, arc, circle or spline, behind those that are there."""
        key = self._fresh(f"{record.kind}{1 + sum(c.kind == record.kind for c in self.curves.values())}")
        order = 1 + max((c.order for c in self.curves.values()), default=-1)
        self.curves[key] = record.model_copy(update={"order": order})
        return key

    def line(self, a: str, b: str, *, helping: bool = False) -> str:
        """A new straight line."""
        return self.curve(DrawnLine(a=a, b=b, helping=helping))

    def arc(self, a: str, b: str, centre: str, *, helping: bool = False) -> str:
        """A new arc, counter-clockwise from one point to another."""
        return self.curve(DrawnArc(a=a, b=b, centre=centre, helping=helping))

    def circle(self, centre: str, radius: float, *, helping: bool = False) -> str:
        """A new circle."""
        return self.curve(DrawnCircle(centre=centre, radius=round(max(radius, 10**-PLACES), PLACES), helping=helping))

    def relate(self, kind: str, of: Iterable[str], entry: Entry | None = None, *, measured: bool = False) -> str:
        """A new relation; nothing where the same is said already."""
        things = list(of)
        for key, r in self.relations.items():
            if r.kind == kind and set(r.of) == set(things) and entry is None and not r.out:
                return key
        key = fresh_key(self.relations, f"r{len(self.relations) + 1}")
        order = 1 + max((r.order for r in self.relations.values()), default=-1)
        self.relations[key] = Relation(kind=kind, of=things, entry=entry, measured=measured, order=order)  # type: ignore[arg-type]
        return key

    def candidate(self, id_: str) -> Reference:
        """What a candidate's id names, where it lies in the drawing."""
        if self._known is None:
            self._known = {c.id: c.reference for c in self.place.candidates()}
        wanted = self._known.get(id_)
        if wanted is None:
            raise refused(
                f"There is nothing called {id_} to refer to", "on", id_, "a side, a face square to the plane, or a hole across it"
            )
        shift = self.shift_now()
        seen = list(wanted.seen)
        for k in range(0, 2 if wanted.kind == "circle" else len(seen)):
            seen[k] -= shift[k % 2]
        return wanted.model_copy(update={"seen": seen})

    def reference(self, id_: str) -> str:
        """The key of what a candidate's id names, taken over where the drawing does not refer to it yet."""
        wanted = self.candidate(id_)
        for key, r in self.references.items():
            if r.alike(wanted):
                return key
        key = self._fresh(f"f{len(self.references) + 1}")
        order = 1 + max((r.order for r in self.references.values()), default=-1)
        self.references[key] = wanted.model_copy(update={"order": order})
        return key

    def named(self, key: str) -> str:
        """The key of a thing that a gesture names: its own, or a candidate's id, which is taken over."""
        own = key.rpartition(".") if key.rpartition(".")[2] in ("a", "b", "centre", "middle") else (key, "", "")
        base = own[0] if own[1] else key
        if ":" in base:
            return self.reference(base) + own[1] + own[2]
        if base not in self.points and base not in self.curves and base not in self.references:
            raise refused(f"There is nothing called {key} in the drawing", "of", key, "a point, a line, an arc or what is referred to")
        return key

    def shift_now(self) -> tuple[float, float]:
        """By how much the drawing is shown beside where it is kept."""
        return self.place.shift(self.drawn(solve=False))

    def without(self, gone: set[str]) -> None:
        """Takes things away: points with their curves, curves with the points that are theirs alone, and the relations of both."""
        curves = {k for k in self.curves if k in gone or any(p in gone for p in self.curves[k].points())}
        lost = {p for k in curves for p in self.curves[k].points()}
        self.curves = {k: c for k, c in self.curves.items() if k not in curves}
        used = {p for c in self.curves.values() for p in c.points()}
        gone_points = (lost - used) | (gone & set(self.points) - used)
        self.points = {k: p for k, p in self.points.items() if k not in gone_points}
        gone_all = curves | gone_points | (gone & set(self.references))
        self.references = {k: r for k, r in self.references.items() if k not in gone}
        self.relations = {
            k: kept for k, r in self.relations.items() if k not in gone and (kept := _still(r, gone_all, curves, self.drawing)) is not None
        }

    def ended_anew(self) -> None:
        """Forgets what was said of a point and a curve that it has become an end of."""
        for key, r in list(self.relations.items()):
            lines = [self.curves[k] for k in r.of if k in self.curves]
            if r.kind in ("on", "middle", "distance") and any(k in c.points() for c in lines for k in r.of):
                del self.relations[key]

    def unreferred(self) -> None:
        """Takes away what is referred to by nothing any more."""
        used = {k.partition(".")[0] for r in self.relations.values() for k in r.of}
        self.references = {k: r for k, r in self.references.items() if k in used or r.stays}

    # -- solved and written

    def made(self) -> Drawing:
        """The drawing as it is now. Raises DocumentError where its records do not fit together."""
        try:
            found = Drawing(
                points=self.points,
                curves=self.curves,
                references=self.references,
                relations=self.relations,
                backdrop=self.drawing.backdrop,
            )
        except ValueError as error:
            raise refused("The drawing has too much in it", "drawing", len(self.points), str(error).splitlines()[-1][:120]) from None
        wrong = found.fault()
        if wrong:
            field, value, rule = wrong
            raise DocumentError(f"{rule[0].upper()}{rule[1:]}", entry=field, value=value, rule=rule, code="bad_reference")
        return found

    def drawn(self, *, solve: bool = True) -> Drawn:
        """The drawing solved where it lies; as it was when it was begun, without ``solve``."""
        return self.place.drawn(self.made() if solve else self.drawing)

    def kept(self, drawn: Drawn) -> Drawing:
        """The drawing with all places as they came out."""
        return kept_as(drawn)

    def patch(self, *, solve: bool = True) -> Patch:
        """The patch that writes the drawing, solved."""
        written = self.made()
        # where it did not all hold, it may from where that led
        for _ in range(SETTLED if solve else 0):
            drawn = self.place.drawn(written)
            written = kept_as(drawn)
            if drawn.solved.holds:
                break
        value = written.model_dump(mode="json", exclude_none=True)
        return [{"op": "replace", "path": self.place.where, "value": value}, *self.place.beside(written)]


def kept_as(drawn: Drawn) -> Drawing:
    """A drawing with all places as they came out."""
    d, solved = drawn.drawing, drawn.solved

    def xy(key: str) -> DrawnPoint:
        x, y = solved.point(key)
        return DrawnPoint(x=round(x, PLACES) + 0.0, y=round(y, PLACES) + 0.0)

    curves: dict[str, Any] = {}
    for key, curve in d.curves.items():
        if isinstance(curve, DrawnCircle):
            radius = round(max(abs(solved.radius(key)), 10**-PLACES), PLACES)
            curve = curve.model_copy(update={"radius": radius})
        curves[key] = curve
    references = {
        k: r.model_copy(update={"seen": [round(x, PLACES) + 0.0 for x in drawn.fast[k]]}) if k in drawn.fast else r
        for k, r in d.references.items()
    }
    return d.model_copy(update={"points": {k: xy(k) for k in d.points}, "curves": curves, "references": references})


def _still(relation: Relation, gone: set[str], curves: set[str], before: Drawing) -> Relation | None:
    """A relation without what is gone; None where too little is left of it."""

    def left(of: str) -> bool:
        own, _, end = of.partition(".")
        return own not in gone and not (end and own in curves) and before.point(of) not in gone

    of = [k for k in relation.of if left(k)]
    if len(of) == len(relation.of):
        return relation
    many = relation.kind in ("equal", "parallel", "in_line", "same_centre", "same_place") or (
        relation.kind in ("level", "upright") and len(relation.of) > 2
    )
    return relation.model_copy(update={"of": of}) if many and len(of) >= 2 else None


def way_of(p: tuple[float, float], q: tuple[float, float]) -> float:
    """The direction from one point to another, in radians."""
    return math.atan2(q[1] - p[1], q[0] - p[0])
