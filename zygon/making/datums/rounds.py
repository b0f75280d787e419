"""Round parts that go square through a plane, or lie along it as discs do, as a drawing in it refers to them."""

from __future__ import annotations

from collections.abc import Iterator
from typing import TYPE_CHECKING

from zygon.design.outlines import Disc, Ring
from zygon.design.parts.kinds import is_member, is_plate, is_rod, is_turned
from zygon.geometry.frame import AXES, frame_of
from zygon.making.datums.on_plane import OnPlane
from zygon.tolerance import EPS

if TYPE_CHECKING:
    from zygon.making.datums.values import Values

__all__ = ["round_in", "rounds_in"]


def round_in(values: Values, plane: OnPlane, key: str) -> tuple[float, float, float] | None:
    """Where the middle of a round rod, tube, turned part or disc lies in a plane, and its radius, in mm; None where its axis is not square to it.

    KeyError where that is not known yet.
    """
    record = values.boards.get(key)
    if record is None or not all(plane.ways) or key == plane.part:
        return None
    if is_turned(record):
        way, radius = _along(record.axis), values.thickness_of(key) / 2
    elif is_rod(record) or is_member(record):
        section = values.section_of(key)
        if section is None or section.shape != "round" or values.slopes(key):
            return None
        way, radius = _along(record.axis) if is_rod(record) else values.lying(key).way, section.height / 2
    elif is_plate(record) and isinstance(record.outline, Disc | Ring):
        axes = frame_of(record.plane)
        way, radius = _along(axes.normal), (values.datum(key, axes.u, "high") - values.datum(key, axes.u, "low")) / 2
    else:
        return None
    motion = plane.scope(values).motion(key)
    across = next(k for k, a in enumerate(AXES) if a not in plane.ways)
    if abs(motion.vector(way)[across]) < 1 - EPS:
        return None
    middle = motion.point([values.datum(key, a, "centre") for a in AXES])
    x, y = (middle[AXES.index(a)] - plane.low(values, k) for k, a in enumerate(plane.ways))
    return round(x, 7) + 0.0, round(y, 7) + 0.0, radius


def rounds_in(values: Values, plane: OnPlane) -> Iterator[tuple[str, tuple[float, float, float]]]:
    """All of them, by part key."""
    for key, record in values.boards.items():
        try:
            found = None if record.aside else round_in(values, plane, key)
        except KeyError:
            continue
        if found:
            yield key, found


def _along(axis: str) -> tuple[float, float, float]:
    x, y, z = (1.0 if a == axis else 0.0 for a in AXES)
    return x, y, z
