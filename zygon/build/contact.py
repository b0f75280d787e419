"""Contacts: how two boards meet, found from where they lie. Corner, tee, cross, or not at all with the reason."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

from zygon.build.built import Box
from zygon.geometry.frame import AXES, FACES
from zygon.geometry.tolerance import CONTACT
from zygon.measure.display import Display, format_length

__all__ = ["Contact", "Reach", "find_contact"]

How = Literal["near", "far", "passes", "inside", "apart"]


@dataclass(frozen=True)
class Reach:
    """How one board's run meets the other's slab: it ends at the near or the far face, passes, ends inside, or stays apart.

    ``side`` is the end that meets ('low' or 'high'); ``gap`` the distance where apart, the depth where inside, in mm.
    """

    how: How
    side: str = ""
    gap: float = 0.0

    @property
    def ends(self) -> bool:
        """Whether the board ends at the slab."""
        return self.how in ("near", "far")


@dataclass(frozen=True)
class Contact:
    """Two boards' meeting. ``axis_a`` and ``axis_b`` are their normals, ``axis`` the joint's run with ``run`` its extent in mm."""

    kind: Literal["corner", "tee", "cross", "none"]
    axis_a: str = ""
    axis_b: str = ""
    axis: str = ""
    reach_a: Reach = Reach("apart")
    reach_b: Reach = Reach("apart")
    run: tuple[float, float] = (0.0, 0.0)
    reason: str = ""


def _reach(low: float, high: float, slab: tuple[float, float]) -> Reach:
    """How the run low..high meets a slab."""
    near, far = slab
    touches = {
        ("high", "near"): high - near, ("high", "far"): high - far, ("low", "near"): low - far, ("low", "far"): low - near,
    }  # fmt: skip
    for (side, how), distance in touches.items():
        if abs(distance) <= CONTACT and not (how == "far" and (low > near + CONTACT if side == "high" else high < far - CONTACT)):
            return Reach(how, side)  # type: ignore[arg-type]
    if high < near:
        return Reach("apart", "high", near - high)
    if low > far:
        return Reach("apart", "low", low - far)
    if low < near and high > far:
        return Reach("passes")
    return Reach("inside", "high", high - near) if low < near else Reach("inside", "low", far - low)


def find_contact(box_a: Box, normal_a: str, name_a: str, box_b: Box, normal_b: str, name_b: str, display: Display = "mm") -> Contact:
    """How board a and board b meet; ``reason`` says why where they do not."""
    if normal_a == normal_b:
        return Contact("none", reason=f"{name_a} and {name_b} lie parallel; these joints need boards that stand square to each other")
    axis = next(x for x in AXES if x not in (normal_a, normal_b))
    a, b = _reach(*box_a.span(normal_b), box_b.span(normal_b)), _reach(*box_b.span(normal_a), box_a.span(normal_a))
    low = max(box_a.span(axis)[0], box_b.span(axis)[0])
    high = min(box_a.span(axis)[1], box_b.span(axis)[1])
    none = Contact("none", normal_a, normal_b, axis, a, b, (low, high))
    for reach, one, other in ((a, name_a, name_b), (b, name_b, name_a)):
        if reach.how == "apart":
            return replace(none, reason=f"{one} ends {format_length(reach.gap, display)} before {other}")
    if high - low <= CONTACT:
        words = f"from {FACES[axis][0]} to {FACES[axis][1]}"
        return replace(none, reason=f"{name_a} and {name_b} share no length {words}")
    for reach, one, other in ((a, name_a, name_b), (b, name_b, name_a)):
        if reach.how == "inside":
            reason = f"{one} ends {format_length(reach.gap, display)} deep inside {other}; a joint cut straight through needs it to end at a face"
            return replace(none, reason=reason)
    if a.ends and b.ends:
        return replace(none, kind="corner")
    if a.ends or b.ends:
        return replace(none, kind="tee")
    return replace(none, kind="cross")
