"""Records of frames: points in the room, and lines between them that tubes, bars and rods lie on."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from zygon.design.parts.listed import Key
from zygon.design.parts.placed import Axis
from zygon.drawn.drawing import Drawing
from zygon.geometry.frame import Plane
from zygon.limits import MAX_FRAME_LINES, MAX_FRAME_POINTS
from zygon.measure.entry import Entry, Record

__all__ = ["FrameLine", "FramePoint", "LineFrame"]


class FramePoint(Record):
    """A place along x, y and z; or one on a line, so far from the point at its end; or one of the frame's drawing."""

    order: int = 0
    at: dict[Axis, Entry] = Field(default_factory=dict)
    on: str = Field(default="", description="key of the line that it lies on; it has no places of its own then")
    end: Literal["a", "b"] = Field(default="a", description="the end of that line from which it is measured")
    off: Entry | None = Field(default=None, description="how far from that end")
    drawn: str = Field(
        default="",
        max_length=90,
        description="of the frame's drawing a point, by its key; or the corner that two lines would meet in, with an arc between them, as 'LINE/LINE'",
    )


class FrameLine(Record):
    """From one point to another."""

    a: str = Field(description="key of the point that it starts at")
    b: str = Field(description="key of the point that it runs to")
    order: int = 0


class LineFrame(Record):
    """Points and lines that move, turn and are copied with the group that they lie in; of a path that is drawn they follow its ``drawing``."""

    name: str
    order: int = 0
    group: str = Field(default="", description="key of the group that it lies in")
    points: dict[Key, FramePoint] = Field(default_factory=dict, max_length=MAX_FRAME_POINTS)
    lines: dict[Key, FrameLine] = Field(default_factory=dict, max_length=MAX_FRAME_LINES)
    drawing: Drawing | None = Field(default=None, description="a path drawn freely in a plane along the axes, in the room's own places")
    plane: Plane | None = Field(default=None, description="the plane of its drawing")
    across: Entry | None = Field(default=None, description="where that plane lies, along the axis that it is square to")

    def fault(self) -> tuple[str, str, str] | None:
        """What is wrong with it by itself: the entry from the frame, its value and the rule; None for nothing."""
        for key, line in self.lines.items():
            for field, end in (("a", line.a), ("b", line.b)):
                if end not in self.points:
                    return f"lines/{key}/{field}", end, f"there is no point with the key {end!r}"
            if line.a == line.b:
                return f"lines/{key}/b", line.b, "a line runs from one point to another"
        for key, point in self.points.items():
            if point.on and point.on not in self.lines:
                return f"points/{key}/on", point.on, f"there is no line with the key {point.on!r}"
            if point.on and point.off is None:
                return f"points/{key}/off", "", "a point on a line says how far from its end"
            if point.drawn and not self._drawn(point.drawn):
                return f"points/{key}/drawn", point.drawn, "a point of the frame's drawing, or two lines of it"
            if not point.on and not point.drawn and set(point.at) != {"x", "y", "z"}:
                return f"points/{key}/at", ", ".join(sorted(point.at)), "a point has a place along x, y and z, or lies on a line"
        if (self.drawing is None) != (self.plane is None) or (self.drawing is None) != (self.across is None):
            return "plane", str(self.plane or ""), "a path that is drawn says in which plane, and where that lies"
        for key in self.points:
            if self._leads_back(key):
                return f"points/{key}/on", self.points[key].on, "a point does not lie on a line whose own ends hang on it"
        return None

    def _drawn(self, of: str) -> bool:
        """Whether its drawing has a point, or the two lines of a corner."""
        if self.drawing is None:
            return False
        one, corner, other = of.partition("/")
        return all(self.drawing.thing(k) == "l" for k in (one, other)) if corner else one in self.drawing.points

    def _leads_back(self, key: str) -> bool:
        """Whether where a point lies hangs on itself."""
        seen, waiting = set[str](), [key]
        while waiting:
            point = self.points[waiting.pop()]
            for end in (self.lines[point.on].a, self.lines[point.on].b) if point.on else ():
                if end == key:
                    return True
                if end not in seen:
                    seen.add(end)
                    waiting.append(end)
        return False

    def chain(self, lines: list[str]) -> list[str] | None:
        """The points that lines in a row pass, from A to B; None where they are not in a row or pass a point twice."""
        pairs = [(self.lines[k].a, self.lines[k].b) for k in lines]
        first = pairs[0]
        starts = first if len(pairs) == 1 or first[1] in pairs[1] else (first[1], first[0])
        found = list(starts)
        for a, b in pairs[1:]:
            if found[-1] not in (a, b):
                return None
            found.append(b if found[-1] == a else a)
        return found if len(set(found)) == len(found) else None
