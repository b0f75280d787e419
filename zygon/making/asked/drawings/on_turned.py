"""The half-profile of a turned part, in a plane through its axis."""

from __future__ import annotations

import numpy as np

from zygon.design.parts.kinds import is_turned
from zygon.design.pointer import pointer
from zygon.errors import DocumentError
from zygon.geometry.frame import AXES, FACES
from zygon.geometry.motion import Motion, of_rows
from zygon.making.asked.drawings.place import Candidate, Place
from zygon.making.datums.drawings import says_how_far
from zygon.making.datums.on_plane import OnPlane
from zygon.making.datums.values import Values
from zygon.making.result.built import Built
from zygon.making.turned.drawn import plane_in_room

__all__ = ["OnTurned", "motion_at_rest"]

#: So much is seen beyond its ends and its largest radius, and on the other side of its axis, as a share of them.
AROUND = 0.3


class OnTurned(Place):
    """The half-profile of a turned part."""

    title = "its half-profile"

    def __init__(self, built: Built, part: str, feature: str = "") -> None:
        super().__init__(built, part, feature)
        document = built.document
        record = document.parts.get(part)
        if not is_turned(record) or feature:
            raise DocumentError(f"{part} is no turned part", entry="part", value=part, rule="a turned part")
        box = self.values.box(part)
        if box is None or part not in self.meeting.instances:
            raise DocumentError(f"{record.name} has no place yet", entry="part", value=part, rule="a part with a place")
        self.record, self.name, self.drawing = record, record.name, record.drawing
        self.owner, self.where = "outline", pointer("parts", part, "drawing")
        self.plane = plane_in_room(self.values, part)
        self.motion = self.meeting.instances[part].motion @ motion_at_rest(self.values, self.plane)
        low, high = box.span(record.axis)
        self.long, self.radius = high - low, self.values.thickness_of(part) / 2
        self.along = self.plane.ways.index(record.axis)
        along, across = (-AROUND * self.long, (1 + 2 * AROUND) * self.long), (-AROUND * self.radius, (1 + 2 * AROUND) * self.radius)
        (x, w), (y, h) = (along, across) if self.along == 0 else (across, along)
        self.low, self.size = (x, y), (w, h)

    def sides(self, way: str) -> list[Candidate]:
        """Its ends, where they stand; its axis and its end A, which it is drawn from."""
        if "xy".index(way) != self.along:
            return super().sides(way)
        words, stand = FACES[self.record.axis], not says_how_far(self.record, self.record.axis)
        ends = [self._line(f"{way}:{self.name}.{w}", way, k * self.long, w) for k, w in enumerate(words)] if stand else []
        return [*super().sides(way), *ends]


def motion_at_rest(values: Values, plane: OnPlane) -> Motion:
    """Takes (x, y, 0) of a plane along two axes of the room to where its part lies at rest, through its middle."""
    across = next(a for a in AXES if a not in plane.ways)
    x, y = (np.eye(3)[AXES.index(w)] for w in plane.ways)
    z = np.cross(x, y)
    origin = {
        across: values.datum(plane.part, across, "centre"),
        **{w: values.datum(plane.part, w, plane.sides[k]) for k, w in enumerate(plane.ways)},
    }
    return of_rows([[float(x[i]), float(y[i]), float(z[i]), origin[a]] for i, a in enumerate(AXES)])
