"""A drawing on a part as it lies in a document, and all that it may refer to; asked while it is drawn."""

from __future__ import annotations

from dataclasses import dataclass

from zygon.design.document import Document
from zygon.design.drawing import Drawing, Reference
from zygon.design.features import ShapeFeature
from zygon.design.outlines import drawing_of
from zygon.design.parts.kinds import is_plate
from zygon.design.patch import pointer
from zygon.drawing.words import thing_words
from zygon.errors import DocumentError
from zygon.geometry.frame import FACES
from zygon.making.asked.questions import Meeting
from zygon.making.datums.drawings import Drawn, drawn_on, says_how_far, shift_of
from zygon.making.features.holes import HolesOnPlane
from zygon.making.rooms.named import named_places
from zygon.owner import feature_id

__all__ = ["Candidate", "Place", "candidates", "place_of", "sides_of"]


@dataclass(frozen=True)
class Candidate:
    """What a drawing may refer to: ``id`` names it, ``words`` call it, and the reference is what would be written."""

    id: str
    words: str
    reference: Reference


class Place:
    """Where a drawing is: a part's outline, or one of its shapes; with the part's blank and all values of the document."""

    def __init__(self, document: Document, part: str, feature: str = "") -> None:
        record = document.parts.get(part)
        if not is_plate(record):
            raise DocumentError(f"{part} is no board", entry="part", value=part, rule="a part in a plane")
        self.meeting = Meeting(document)
        blank = self.meeting.blanks.get(part)
        if blank is None:
            raise DocumentError(f"{record.name} has no place yet", entry="part", value=part, rule="a part with a place")
        self.document, self.part, self.feature, self.record, self.blank = document, part, feature, record, blank
        self.values = self.meeting.values
        self.holes = HolesOnPlane(self.values, self.meeting.blanks, self.meeting.instances)
        if feature:
            shape = record.features.get(feature)
            if not isinstance(shape, ShapeFeature):
                raise DocumentError(f"{record.name} has no shape {feature}", entry="feature", value=feature, rule="a shape drawn freely")
            self.drawing: Drawing | None = shape.drawing
            self.where = pointer("parts", part, "features", feature, "drawing")
        else:
            self.drawing = drawing_of(record)
            self.where = pointer("parts", part, "outline", "drawing")

    @property
    def owner(self) -> str:
        """What belongs to the drawing."""
        return feature_id(self.part, self.feature) if self.feature else "outline"

    @property
    def size(self) -> tuple[float, float]:
        """How far the part's spans reach along its u and v, in mm."""
        low, high = zip(*(self.blank.span.span(a) for a in (self.blank.frame.u, self.blank.frame.v)), strict=True)
        return high[0] - low[0], high[1] - low[1]

    def drawn(self, drawing: Drawing) -> Drawn:
        """A drawing as it would lie here; what is wrong with it is not told."""
        known = len(self.values.faults)
        frame = None if self.values.still else self.blank.place
        try:
            return drawn_on(
                self.values,
                self.part,
                drawing,
                self.where,
                self.owner,
                holes=self.holes.of(self.part),
                frame=frame,
                lows=self.blank.origin,
            )
        finally:
            del self.values.faults[known:]

    def shift(self, drawn: Drawn) -> tuple[float, float]:
        """By how much it is moved so that it begins where the part does."""
        return (0.0, 0.0) if self.feature else shift_of(drawn)


def place_of(document: Document, part: str, feature: str = "") -> tuple[Place, Drawing]:
    """Where a drawing is, and the drawing. Raises DocumentError where there is none."""
    place = Place(document, part, feature)
    if place.drawing is None:
        rule = "an outline drawn freely"
        raise DocumentError(f"{place.record.name} is not drawn freely", entry="part", value=part, rule=rule)
    return place, place.drawing


def candidates(place: Place) -> list[Candidate]:
    """The sides of the part, the faces of others that are square to its plane, and round holes across it; by the ids that ``reference_named`` reads."""
    blank, values, record = place.blank, place.values, place.record
    (w, h), unit = place.size, place.document.unit
    found: list[Candidate] = []
    sides = sides_of(place)
    follows = {e.face for e in record.ends()} if place.feature else _sides_that_stand(place)
    for way, axis, low in (("x", blank.frame.u, blank.origin[0]), ("y", blank.frame.v, blank.origin[1])):
        found += [sides[face] for face in FACES[axis] if face in follows]
        if not blank.place.plain:
            continue
        seen: set[str] = set()
        for named in named_places(values, axis):
            if named.part.partition("@")[0] == place.part or named.text in seen:
                continue
            seen.add(named.text)
            found.append(_line(f"{way}:{named.text}", way, named.value - low, named.text, unit, w, h))
    for name, (u, v, r) in place.holes.every(place.part):
        if place.feature and name.rpartition("/")[0] == place.owner:
            continue
        reference = Reference(kind="circle", hole=name, seen=[round(u, 6), round(v, 6), round(r, 6)])
        found.append(Candidate(f"hole:{name}", "hole", reference))
    for name, lies in place.holes.lines(place.part):
        seen_at = [round(x, 6) for x in lies]
        reference = Reference(kind="line" if len(lies) == 4 else "circle", line=name.removeprefix("line:"), seen=seen_at)
        if len(lies) == 3 or seen_at[:2] != seen_at[2:]:
            found.append(Candidate(name, _of_a_drawing(place, reference.line), reference))
    return found


def _of_a_drawing(place: Place, line: str) -> str:
    part, _, curve = line.partition("/")
    other = place.document.parts[part]
    drawing = drawing_of(other)
    return f"{other.name}'s {thing_words(drawing, curve)}" if drawing else "line"


def sides_of(place: Place) -> dict[str, Candidate]:
    """The four sides of a part, by their words."""
    (w, h), frame = place.size, place.blank.frame
    return {
        face: _line(f"{way}:{place.record.name}.{face}", way, k * long, face, place.document.unit, w, h)
        for way, axis, long in (("x", frame.u, w), ("y", frame.v, h))
        for k, face in enumerate(FACES[axis])
    }


def _sides_that_stand(place: Place) -> set[str]:
    """The sides of a part that its own outline does not say the place of."""
    axes = (place.blank.frame.u, place.blank.frame.v)
    return {face for a in axes for face in FACES[a] if not says_how_far(place.record, a)}


def _line(id_: str, way: str, at: float, words: str, unit: str, w: float, h: float) -> Candidate:
    text = id_.partition(":")[2]
    at = round(at, 6) + 0.0
    seen = [at, 0.0, at, max(round(h, 6), 1.0)] if way == "x" else [0.0, at, max(round(w, 6), 1.0), at]
    entry = {"text": text, "unit": unit}
    return Candidate(id_, words, Reference.model_validate({"kind": "line", way: entry, "seen": seen}))
