"""What a drawing lies on, whatever that is: its plane, how far that is seen, and what in it may be referred to."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from zygon.design.patch import Patch
from zygon.drawn.drawing import Drawing, Reference
from zygon.geometry.motion import Motion
from zygon.making.asked.questions import Meeting
from zygon.making.datums.drawings import Drawn, Holes, drawn_on
from zygon.making.datums.on_plane import OnPlane
from zygon.making.datums.rounds import rounds_in
from zygon.making.result.built import Built
from zygon.making.rooms.named import NamedPlace, named_places
from zygon.owner import part_id

__all__ = ["Candidate", "Place"]

Pair = tuple[float, float]


@dataclass(frozen=True)
class Candidate:
    """What a drawing may refer to: ``id`` names it, ``words`` call it, and the reference is what would be written."""

    id: str
    words: str
    reference: Reference


class Place:
    """A plane that is drawn on, with all values of the document. Each thing that is drawn on has its own."""

    #: where the drawing is in the document, and whose it is
    where: str
    owner: str
    #: what it is called in sentences, and the drawing as a maker calls it
    name: str
    title: str
    plane: OnPlane
    #: takes (x, y, w) to the room; it is drawn at ``high`` along w
    motion: Motion
    high: float = 0.0
    #: 1 where it is looked at against w, else -1
    side: float = 1.0
    #: what of the plane is seen at first, in mm: its low corner and how far it reaches
    low: Pair = (0.0, 0.0)
    size: Pair
    drawing: Drawing | None
    #: the ways, 'x' and 'y', along which the drawing is moved to where its part begins
    adrift: tuple[str, ...] = ()

    def __init__(self, built: Built, part: str, feature: str = "") -> None:
        self.document, self.part, self.feature = built.document, part, feature
        self.meeting = Meeting(built.document, built.good)
        self.values = self.meeting.values

    @property
    def holes(self) -> Holes:
        """What of other parts lies in the plane beside round ones that go through it."""
        return lambda _: None

    def drawn(self, drawing: Drawing) -> Drawn:
        """A drawing as it would lie here; what is wrong with it is not told."""
        known = len(self.values.faults)
        try:
            return drawn_on(self.values, self.plane, drawing, self.where, self.owner, holes=self.holes)
        finally:
            del self.values.faults[known:]

    def beside(self, drawing: Drawing) -> Patch:
        """What else of the document follows the records of a drawing that is written."""
        return []

    def shift(self, drawn: Drawn) -> Pair:
        """By how much it is moved so that it begins where its part does."""
        return 0.0, 0.0

    def candidates(self) -> list[Candidate]:
        """All that it may refer to, by the ids that gestures name them by."""
        found: list[Candidate] = []
        for k, way in enumerate("xy"):
            found += self.sides(way)
            found += self._named(way, k)
        found += [
            Candidate(part_id(key), self.document.parts[key].name, Reference(kind="circle", body=key, seen=[round(x, 6) for x in lies]))
            for key, lies in rounds_in(self.values, self.plane)
        ]
        return found + list(self.others())

    def sides(self, way: str) -> list[Candidate]:
        """The lines of what is drawn on itself, across a way of the plane."""
        zero = self.plane.zeros["xy".index(way)]
        return [self._line(f"zero:{way}", way, 0.0, zero, followed=False)] if zero else []

    def others(self) -> Iterator[Candidate]:
        """What else of other parts lies in the plane."""
        return iter(())

    def takes(self, named: NamedPlace) -> bool:
        """Whether a named place is none that the drawing itself says."""
        return named.part.partition("@")[0] != self.plane.part

    def _named(self, way: str, k: int) -> Iterator[Candidate]:
        axis = self.plane.ways[k]
        if not axis or (self.plane.frame is not None and not self.plane.frame.plain):
            return
        seen: set[str] = set()
        for named in named_places(self.values, axis):
            if self.takes(named) and named.text not in seen:
                seen.add(named.text)
                yield self._line(f"{way}:{named.text}", way, named.value - self.plane.low(self.values, k), named.text)

    def _line(self, id_: str, way: str, at: float, words: str, *, followed: bool = True) -> Candidate:
        """A line across a way, as far as the plane is seen; one that is ``followed`` lies at an entry."""
        at = round(at, 6) + 0.0
        (x, y), (w, h) = self.low, self.size
        ends = [at, y, at, y + max(round(h, 6), 1.0)] if way == "x" else [x, at, x + max(round(w, 6), 1.0), at]
        entry = {way: {"text": id_.partition(":")[2], "unit": self.document.unit}} if followed else {}
        return Candidate(id_, words, Reference.model_validate({"kind": "line", **entry, "seen": [round(e, 6) + 0.0 for e in ends]}))
