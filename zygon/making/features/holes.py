"""Round holes that a drawing may refer to: of features of parallel parts, and of bores across the plane; before any joint."""

from __future__ import annotations

from collections.abc import Iterator, Mapping

from zygon.geometry.motion import Motion
from zygon.making.blanks.blank import Blank
from zygon.making.blanks.instances import Instance
from zygon.making.datums.drawings import Holes
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

    def of(self, key: str) -> Holes:
        """The holes in the plane of a part, by owner and number: 'feature:PART:KEY/0'."""
        blank = self.blanks[key]

        def hole(name: str) -> tuple[float, float, float] | None:
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
