"""Contacts: how two boards meet, found from where they lie.

Square to each other: corner, tee, cross. At another angle (``build/angle.py``): ``angle``, or ``angle_lap`` in one plane. Parallel: ``edge`` (edge to edge in one plane), ``lap`` (one over the other in one plane, with
a ``form``: corner, tee, cross or line), ``faces`` (face on face). Or not at all, with the reason.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

from zygon.geometry.frame import AXES, FACES
from zygon.making.result.box import Box
from zygon.measure.display import Display, format_length
from zygon.tolerance import CONTACT

__all__ = ["Contact", "Reach", "find_contact", "turned_round"]

How = Literal["near", "far", "passes", "inside", "apart"]
Form = Literal["", "corner", "tee", "cross", "line"]
Stem = Literal["", "a", "b"]


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
    """Two boards' meeting. ``axis_a`` and ``axis_b`` are their normals, ``axis`` the joint's run with ``run`` its extent in mm.

    Parallel boards: ``across`` is the axis on which edges meet; ``region`` the common rectangle by axis; ``form`` how a lap lies; ``stem``
    the board ('a' or 'b') that ends in a tee; ``reach_a.side`` the side of a on which b lies.
    """

    kind: Literal["corner", "tee", "cross", "edge", "lap", "faces", "angle", "angle_lap", "none"]
    axis_a: str = ""
    axis_b: str = ""
    axis: str = ""
    reach_a: Reach = Reach("apart")
    reach_b: Reach = Reach("apart")
    run: tuple[float, float] = (0.0, 0.0)
    reason: str = ""
    across: str = ""
    form: Form = ""
    stem: Stem = ""
    region: tuple[tuple[str, float, float], ...] = ()
    #: of boards square to each other those ('a', 'b', 'ab') along whose whole run the other one is there too
    covered: str = ""

    def span(self, axis: str) -> tuple[float, float]:
        """The common rectangle's extent along an axis, in mm."""
        return next((low, high) for x, low, high in self.region if x == axis)


def turned_round(c: Contact) -> Contact:
    """The contact as the other board sees it."""
    stem: Stem = "b" if c.stem == "a" else "a" if c.stem == "b" else ""
    covered = "".join({"a": "b", "b": "a"}[x] for x in reversed(c.covered))
    return replace(c, axis_a=c.axis_b, axis_b=c.axis_a, reach_a=c.reach_b, reach_b=c.reach_a, stem=stem, covered=covered)


def _reach(low: float, high: float, slab: tuple[float, float]) -> Reach:
    """How the run low..high meets a slab."""
    near, far = slab
    touches = {
        ("high", "near"): high - near,
        ("high", "far"): high - far,
        ("low", "near"): low - far,
        ("low", "far"): low - near,
    }
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
        return _parallel(box_a, name_a, box_b, name_b, normal_a, display)
    axis = next(x for x in AXES if x not in (normal_a, normal_b))
    a, b = _reach(*box_a.span(normal_b), box_b.span(normal_b)), _reach(*box_b.span(normal_a), box_a.span(normal_a))
    low = max(box_a.span(axis)[0], box_b.span(axis)[0])
    high = min(box_a.span(axis)[1], box_b.span(axis)[1])
    covered = "".join(
        name
        for name, own, other in (("a", box_a, box_b), ("b", box_b, box_a))
        if other.span(axis)[0] <= own.span(axis)[0] + CONTACT and other.span(axis)[1] >= own.span(axis)[1] - CONTACT
    )
    none = Contact("none", normal_a, normal_b, axis, a, b, (low, high), covered=covered)
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


def _parallel(box_a: Box, name_a: str, box_b: Box, name_b: str, normal: str, display: Display) -> Contact:
    """How two parallel boards meet: edge to edge, lapping in one plane, or face on face."""
    none = Contact("none", normal, normal)
    slab_a, slab_b = box_a.span(normal), box_b.span(normal)
    axes = [x for x in AXES if x != normal]
    common = {x: (max(box_a.span(x)[0], box_b.span(x)[0]), min(box_a.span(x)[1], box_b.span(x)[1])) for x in axes}
    width = {x: common[x][1] - common[x][0] for x in axes}
    region = tuple((x, *common[x]) for x in axes)
    between = max(slab_a[0], slab_b[0]) - min(slab_a[1], slab_b[1])
    apart = max(width.items(), key=lambda xw: -xw[1])
    if between > CONTACT:
        return replace(none, reason=f"{name_a} and {name_b} lie parallel, {format_length(between, display)} apart")
    if apart[1] < -CONTACT:
        return replace(none, reason=f"{name_a} and {name_b} lie parallel and end {format_length(-apart[1], display)} before each other")
    if between > -CONTACT:  # their faces lie in one plane
        if min(width.values()) <= CONTACT:
            return replace(none, reason=f"{name_a} and {name_b} lie parallel and touch in a line only")
        side = "high" if slab_b[0] > slab_a[0] else "low"
        other = "low" if side == "high" else "high"
        run_axis = max(axes, key=lambda x: width[x])
        return Contact("faces", normal, normal, run_axis, Reach("near", side), Reach("near", other), common[run_axis], region=region)
    touching = [x for x in axes if abs(width[x]) <= CONTACT]
    if len(touching) == 1 and len(axes) == 2:
        across = touching[0]
        axis = next(x for x in axes if x != across)
        if abs(slab_a[0] - slab_b[0]) > CONTACT or abs(slab_a[1] - slab_b[1]) > CONTACT:
            return replace(none, reason=f"the edges of {name_a} and {name_b} touch, but their faces are not flush")
        side = "high" if box_b.span(across)[0] > box_a.span(across)[0] else "low"
        other = "low" if side == "high" else "high"
        return Contact("edge", normal, normal, axis, Reach("near", side), Reach("near", other), common[axis], across=across, region=region)
    if touching:
        return replace(none, reason=f"{name_a} and {name_b} touch at one corner only")
    return _lap(box_a, name_a, box_b, name_b, normal, axes, common, region)


def _lap(box_a: Box, name_a: str, box_b: Box, name_b: str, normal: str, axes: list[str], common: dict, region: tuple) -> Contact:
    """How boards that cover one another in one plane run on past the common rectangle."""

    def beyond(box: Box) -> dict[str, list[str]]:
        sides: dict[str, list[str]] = {}
        for x in axes:
            low, high = box.span(x)
            found = [s for s, on in (("low", low < common[x][0] - CONTACT), ("high", high > common[x][1] + CONTACT)) if on]
            if found:
                sides[x] = found
        return sides

    a, b = beyond(box_a), beyond(box_b)
    none = Contact("none", normal, normal, reason=f"{name_a} and {name_b} lie in one plane and one covers the other")
    if len(a) != 1 or len(b) != 1:
        return none
    (axis_a, sides_a), (axis_b, sides_b) = next(iter(a.items())), next(iter(b.items()))
    ends = {1: "end", 2: "through"}
    forms: dict[tuple[str, str], Form] = {("end", "end"): "corner", ("through", "through"): "cross"}
    form = forms.get((ends[len(sides_a)], ends[len(sides_b)]), "tee")
    if axis_a == axis_b:
        if len(sides_a) != 1 or sides_a == sides_b:
            return none
        form = "line"
    stem: Stem = ("a" if len(sides_a) == 1 else "b") if form == "tee" else ""
    run = next(low_high for x, *low_high in region if x == axis_a)
    return Contact(
        "lap",
        normal,
        normal,
        axis_a,
        Reach("passes", sides_a[0]),
        Reach("passes", sides_b[0]),
        (run[0], run[1]),
        across=axis_b,
        form=form,
        stem=stem,
        region=region,
    )
