"""A drawing on a part that lies in a plane: its outline, or one of its shapes."""

from __future__ import annotations

from collections.abc import Iterator

from zygon.design.features import ShapeFeature
from zygon.design.outlines import drawing_of
from zygon.design.parts.kinds import is_plate
from zygon.design.pointer import pointer
from zygon.drawing.words import thing_words
from zygon.drawn.drawing import Reference
from zygon.errors import DocumentError
from zygon.geometry.frame import FACES
from zygon.making.asked.drawings.place import Candidate, Pair, Place
from zygon.making.blanks.plane import on_blank
from zygon.making.datums.drawings import Drawn, Holes, adrift, says_how_far, shift_of
from zygon.making.features.holes import HolesOnPlane
from zygon.making.result.built import Built
from zygon.owner import feature_id, is_of, read_owner

__all__ = ["OnPlate"]


class OnPlate(Place):
    """A part's outline, or one of its shapes; with the part's blank."""

    def __init__(self, built: Built, part: str, feature: str = "") -> None:
        super().__init__(built, part, feature)
        document = built.document
        record = document.parts.get(part)
        if not is_plate(record):
            raise DocumentError(f"{part} is no board", entry="part", value=part, rule="a part in a plane")
        blank = self.meeting.blanks.get(part)
        if blank is None:
            raise DocumentError(f"{record.name} has no place yet", entry="part", value=part, rule="a part with a place")
        self.record, self.blank, self.name = record, blank, record.name
        self.on_plane = HolesOnPlane(self.values, self.meeting.blanks, self.meeting.instances)
        self.plane, self.motion = on_blank(self.values, blank), blank.in_room
        self.owner = feature_id(part, feature) if feature else "outline"
        face = blank.frame.face_a if record.up == "a" else blank.frame.face_b
        if feature:
            shape = record.features.get(feature)
            if not isinstance(shape, ShapeFeature):
                raise DocumentError(f"{record.name} has no shape {feature}", entry="feature", value=feature, rule="a shape drawn freely")
            self.drawing = shape.drawing
            self.where, face = pointer("parts", part, "features", feature, "drawing"), shape.face or face
            self.title = "a shape drawn on it"
        else:
            self.drawing = drawing_of(record)
            self.where, self.title = pointer("parts", part, "outline", "drawing"), "its outline"
            self.adrift = adrift(self.drawing) if self.drawing else ()
        self.high, self.side = (blank.thickness, 1.0) if face == blank.frame.face_a else (0.0, -1.0)
        low, high = zip(*(blank.span.span(a) for a in (blank.frame.u, blank.frame.v)), strict=True)
        self.size = high[0] - low[0], high[1] - low[1]

    @property
    def holes(self) -> Holes:
        return self.on_plane.of(self.part)

    def shift(self, drawn: Drawn) -> Pair:
        return (0.0, 0.0) if self.feature else shift_of(drawn)

    def sides(self, way: str) -> list[Candidate]:
        axis = self.plane.ways["xy".index(way)]
        stand = {e.face for e in self.record.ends()} if self.feature else self._that_stand()
        return [c for face, c in self.four_sides().items() if face in FACES[axis] and face in stand]

    def four_sides(self) -> dict[str, Candidate]:
        """The four sides of the part, by their words."""
        frame, (w, h) = self.blank.frame, self.size
        return {
            face: self._line(f"{way}:{self.record.name}.{face}", way, k * long, face)
            for way, axis, long in (("x", frame.u, w), ("y", frame.v, h))
            for k, face in enumerate(FACES[axis])
        }

    def others(self) -> Iterator[Candidate]:
        """Round holes across the plane, and lines of parallel outlines."""
        for name, (u, v, r) in self.on_plane.every(self.part):
            if not (self.feature and name.rpartition("/")[0] == self.owner):
                reference = Reference(kind="circle", hole=name, seen=[round(u, 6), round(v, 6), round(r, 6)])
                yield Candidate(f"hole:{name}", self._hole_words(name), reference)
        for name, lies in self.on_plane.lines(self.part):
            seen_at = [round(x, 6) for x in lies]
            reference = Reference(kind="line" if len(lies) == 4 else "circle", line=name.removeprefix("line:"), seen=seen_at)
            if len(lies) == 3 or seen_at[:2] != seen_at[2:]:
                yield Candidate(name, self._of_a_drawing(reference.line), reference)

    def _that_stand(self) -> set[str]:
        """The sides that the part's own outline does not say the place of."""
        axes = (self.blank.frame.u, self.blank.frame.v)
        return {face for a in axes for face in FACES[a] if not says_how_far(self.record, a)}

    def _hole_words(self, hole: str) -> str:
        """Whose hole it is, and which of its row."""
        owner, _, number = hole.rpartition("/")
        said = read_owner(owner)
        if is_of(owner, "bore"):
            whose = f"bore {self.document.bores[said.key].name}"
        else:
            feature = self.document.plates()[said.part].features[said.key]
            whose = f"{feature.name or feature.kind.replace('_', ' ')} of {self.document.parts[said.part].name}"
        return whose if number == "0" else f"{whose}, {int(number) + 1}"

    def _of_a_drawing(self, line: str) -> str:
        part, _, curve = line.partition("/")
        other = self.document.parts[part]
        drawing = drawing_of(other)
        return f"{other.name}'s {thing_words(drawing, curve)}" if drawing else "line"
