"""What a drawing may refer to of other parts: round holes of parallel ones and of bores across the plane, and lines of parallel outlines; before any joint."""

from __future__ import annotations

from collections.abc import Iterator, Mapping

from zygon.design.outlines import drawing_of
from zygon.design.pointer import pointer
from zygon.drawn.drawing import Drawing, DrawnArc, DrawnCircle, DrawnLine
from zygon.geometry.motion import Motion
from zygon.making.blanks.blank import Blank
from zygon.making.blanks.instances import Instance
from zygon.making.blanks.plane import on_blank
from zygon.making.datums.drawings import Drawn, Holes, drawn_on, shift_of
from zygon.making.datums.values import Values
from zygon.making.features.bores import Axes, bore_axes
from zygon.making.features.reader import Reader
from zygon.making.features.shapes import feature_alone
from zygon.making.result.operations import Cut, Pocket
from zygon.owner import bore_id, feature_id, is_of, read_owner
from zygon.tolerance import EPS, WITHIN

__all__ = ["HolesOnPlane"]


class HolesOnPlane:
    """The holes of a design as they lie in a part's plane; each is worked out where it is asked for, and what is wrong with it is said elsewhere."""

    def __init__(self, values: Values, blanks: Mapping[str, Blank], instances: Mapping[str, Instance]) -> None:
        self.values, self.blanks, self.instances = values, blanks, instances
        self._axes: Axes | None = None
        #: parts whose outlines are being solved: one that comes back to itself refers to itself
        self._open: list[str] = []
        self._circular = False

    def of(self, key: str) -> Holes:
        """What lies in the plane of a part: holes by owner and number, 'feature:PART:KEY/0', lines of outlines as 'line:PART/CURVE'."""
        blank = self.blanks[key]

        def hole(name: str) -> tuple[float, ...] | None:
            if is_of(name, "line"):
                other, _, curve = name.partition(":")[2].partition("/")
                return self._line(key, other, curve)
            owner, _, number = name.rpartition("/")
            found = [self._onto(blank, h) for h in self._of_owner(owner)]
            n = int(number) if number.isdigit() else -1
            return found[n] if 0 <= n < len(found) else None

        return hole

    def every(self, key: str) -> Iterator[tuple[str, tuple[float, float, float]]]:
        """All holes in the plane of a part that may be referred to: name, and middle (u, v) with radius in mm."""
        blank = self.blanks[key]
        owners = [feature_id(k, f) for k, b in self.blanks.items() for f in b.record.features if not b.record.features[f].out]
        owners += [bore_id(k) for k in self.values.document.bores]
        for owner in owners:
            for n, hole in enumerate(self._of_owner(owner)):
                at = self._onto(blank, hole)
                if at is not None:
                    yield f"{owner}/{n}", at

    def lines(self, key: str) -> Iterator[tuple[str, tuple[float, ...]]]:
        """All lines, arcs and circles of parallel parts' drawn outlines: 'line:PART/CURVE', and where they lie in a part's plane as ``Reference.seen`` has it."""
        for other, blank in self.blanks.items():
            drawing = drawing_of(blank.record)
            for curve in drawing.curves if drawing and other != key else ():
                lies = self._line(key, other, curve)
                if lies is not None:
                    yield f"line:{other}/{curve}", lies

    def _line(self, key: str, other: str, curve: str) -> tuple[float, ...] | None:
        """A line's two ends, or the middle and the radius of an arc or a circle, of another part's outline in a part's plane."""
        blank, its = self.blanks[key], self.blanks.get(other)
        drawing = drawing_of(its.record) if its else None
        record = drawing.curves.get(curve) if drawing else None
        if its is None or drawing is None or record is None or record.kind in ("spline", "text") or other == key:
            return None
        if other in self._open:
            self._circular = True
            return None
        motion = blank.in_room.inverse @ its.in_room
        if abs(abs(motion.vector((0.0, 0.0, 1.0))[2]) - 1) > EPS:
            return None
        found = self._solved(other, its, drawing, key)
        if found is None:
            return None
        du, dv = shift_of(found)

        def at(point: str) -> tuple[float, float]:
            u, v = found.solved.point(point)
            x, y, _ = motion.point((u + du, v + dv, 0.0))
            return round(x, 7) + 0.0, round(y, 7) + 0.0

        if isinstance(record, DrawnLine):
            return *at(record.a), *at(record.b)
        assert isinstance(record, DrawnArc | DrawnCircle)
        return *at(record.centre), abs(found.solved.radius(curve))

    def _solved(self, other: str, its: Blank, drawing: Drawing, key: str) -> Drawn | None:
        """Another part's outline, told of elsewhere; None where it hangs on that of the part that asks."""
        known = len(self.values.faults)
        self._open.append(key)
        try:
            where = pointer("parts", other, "outline", "drawing")
            found = drawn_on(self.values, on_blank(self.values, its), drawing, where, "outline", holes=self.of(other))
            return None if self._circular else found
        finally:
            self._open.pop()
            del self.values.faults[known:]
            self._circular = self._circular and bool(self._open)

    def _of_owner(self, owner: str) -> list[tuple[tuple[float, float, float], tuple[float, float, float], float]]:
        """A place on the axis, the axis's way, and the radius of each hole of an owner, in the room."""
        known = len(self.values.faults)
        try:
            if is_of(owner, "bore"):
                return self._of_bore(read_owner(owner).key)
            if is_of(owner, "feature"):
                return self._of_feature(read_owner(owner).part, read_owner(owner).key)
            return []
        finally:
            del self.values.faults[known:]

    def _of_bore(self, key: str) -> list[tuple[tuple[float, float, float], tuple[float, float, float], float]]:
        if self._axes is None:
            self._axes = bore_axes(self.values, self.instances)
        found = self._axes.get(key)
        return [(line.point, line.way, found.diameter / 2) for line in found.lines[: found.own]] if found else []

    def _of_feature(self, part: str, key: str) -> list[tuple[tuple[float, float, float], tuple[float, float, float], float]]:
        blank = self.blanks.get(part)
        feature = blank.record.features.get(key) if blank else None
        if blank is None or feature is None or feature.out or feature.kind in NOT_ROUND:
            return []
        found = []
        for operation in feature_alone(Reader(self.values, blank, key, feature)):
            if isinstance(operation, Cut | Pocket) and (ring := operation.contour.as_circle):
                u, v, radius = ring
                found.append((blank.in_room.point((u, v, 0.0)), blank.in_room.vector((0.0, 0.0, 1.0)), radius))
        return found

    @staticmethod
    def _onto(
        blank: Blank, hole: tuple[tuple[float, float, float], tuple[float, float, float], float]
    ) -> tuple[float, float, float] | None:
        point, way, radius = hole
        back: Motion = blank.in_room.inverse
        (u, v, w), (du, dv, dw) = back.point(point), back.vector(way)
        if abs(dw) < 1 - EPS:
            return None
        u, v = u - w * du / dw, v - w * dv / dw
        return (round(u, 7) + 0.0, round(v, 7) + 0.0, radius) if radius > WITHIN else None


#: Kinds of features that have no round holes of their own, and those that are drawn after what they refer to.
NOT_ROUND = frozenset(
    {"shape", "corner", "taper", "edge_curve", "edge_notch", "trim", "edge_profile", "edge_band", "edge_hole", "rebate", "groove"}
)
