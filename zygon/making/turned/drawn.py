"""The half-profile of a turned part as it is drawn in a plane through its axis."""

from __future__ import annotations

from dataclasses import replace

from zygon.drawing.loops import Loops
from zygon.geometry.contour import Contour
from zygon.making.datums.on_plane import OnPlane, plane_of
from zygon.making.datums.placing import motion_between
from zygon.making.datums.values import Values
from zygon.owner import edge_id
from zygon.tolerance import SEEN

__all__ = ["NotTurned", "half_profile", "plane_in_room"]

Pair = tuple[float, float]


class NotTurned(ValueError):
    """What keeps a drawing from being turned: a sentence, the rule, the curve that it is about, and how long its part would be with it."""

    def __init__(self, message: str, rule: str, curve: str = "", long: float = 0.0) -> None:
        super().__init__(message)
        self.message, self.rule, self.curve, self.long = message, rule, curve, long


def plane_in_room(values: Values, key: str) -> OnPlane:
    """The plane in which a turned part's half-profile lies, as it is seen from where the part stands."""
    plane = plane_of(values, key)
    if values.still:
        return plane
    motion = motion_between(values, key, "")
    return replace(plane, frame=motion, lows=(plane.low(values, 0), plane.low(values, 1)))


def half_profile(loops: Loops, along: int) -> Contour:
    """A drawing as a closed contour in (r, w), counter-clockwise: a line from axis to axis, or closed and clear of the axis; ``along`` is 0 where the
    drawing's x runs along the axis, 1 where its y does. Raises NotTurned.
    """
    for fault in loops.faults:
        if fault.code != "open":
            raise NotTurned(fault.message, fault.rule, fault.curves[0] if fault.curves else "")
    runs = [*loops.open, *loops.closed]
    if not runs:
        raise NotTurned("nothing is drawn", "a half-profile: a line from axis to axis, or closed and clear of it")
    if len(runs) > 1:
        raise NotTurned("its profile is in several pieces", "one line, each piece joined to the next", runs[1].owners[0])
    run = runs[0]
    points = [(y, x) if along == 0 else (x, y) for x, y in run.points]
    if min(_least(run, along), *(r for r, _ in points)) < -SEEN:
        raise NotTurned("its profile crosses its axis", "a profile on one side of the axis", run.owners[0])
    points = [(0.0 if abs(r) <= SEEN else r, w) for r, w in points]
    bulges = [-b if along == 0 else b for b in run.bulges]
    if not run.closed:
        off = next(((p, o) for p, o in ((points[0], run.owners[0]), (points[-1], run.owners[-1])) if p[0] > 0.0), None)
        if off is not None:
            rule = "a line whose both ends lie on the axis, or one that is closed"
            raise NotTurned(f"its profile ends {off[0][0]:.4g} mm off its axis", rule, off[1])
        bulges.append(0.0)
    return Contour(tuple(points), tuple(bulges), (edge_id("turned"),) * len(points)).wound(ccw=True)


def _least(run: Contour, along: int) -> float:
    """The smallest radius, arcs and all."""
    return run.bounds[1 - along]
