"""The back-gauge of a stroke: how far from the bend line its fingers stand, and what is pushed against them."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np

from zygon.brake.pose import Workpiece, into_brake
from zygon.tolerance import WITHIN

__all__ = ["Gauge", "gauge_of"]

#: The fingers touch what stands within this of the sheet's level (mm).
FINGER = 12.0


@dataclass(frozen=True)
class Gauge:
    """From the bend line to the fingers in mm, and what lies against them ('edge of front side'). ``distance`` is None where nothing can."""

    distance: float | None
    against: str


def gauge_of(work: Workpiece, bends: Sequence[int], shares: Sequence[float], nearest: float, name: Callable[[int], str]) -> Gauge:
    """What is gauged before a stroke: the far side of the leg that is bent up, or of what it is bent from where that is too near for the fingers."""
    bend = work.fold.bends[bends[0]]
    frame = into_brake(bend, work.thickness, work.motions(shares)[bend.parent])
    ends: dict[bool, tuple[float, int]] = {}
    slabs = work.slabs(shares).moved(frame)
    level = np.abs(slabs.points[:, 2] - work.thickness / 2) <= FINGER
    y = slabs.points[:, 1] - bend.width / 2
    furthest = np.maximum.reduceat(np.where(level, y, -np.inf), slabs.starts)
    nearest_to = np.maximum.reduceat(np.where(level, -y, -np.inf), slabs.starts)
    for i, zone in enumerate(slabs.zones.tolist()):
        if zone in {-1 - b for b in bends}:
            continue
        beyond = any(work.moves_with(zone, b) for b in bends)
        reach = float((furthest if beyond else nearest_to)[i])
        if reach > -np.inf and (beyond not in ends or reach > ends[beyond][0] + WITHIN):
            ends[beyond] = (reach, zone)
    for side in (True, False):
        if side in ends and ends[side][0] >= nearest:
            reach, zone = ends[side]
            upright = zone < 0 or shares_above(work, zone, bends, shares)
            return Gauge(reach, f"{'outer face' if upright else 'edge'} of {name(zone)}")
    return Gauge(None, "no edge that the fingers reach")


def shares_above(work: Workpiece, face: int, bends: Sequence[int], shares: Sequence[float]) -> bool:
    """Whether a face stands out of the sheet's level by bends that are done between it and the stroke."""
    stop = {work.fold.bends[bends[0]].parent, *(b + 1 for b in bends)}
    while face and face not in stop:
        if shares[face - 1] > 0:
            return True
        face = work.fold.bends[face - 1].parent
    return False
