"""Layers at their place in the room, and what two of them have in common.

A layer is a prism: an outline in its board's plane, drawn along the board's normal. Two layers of boards that stand square to each
other have a volume in common just where, at one place along the axis that both planes share, each is present within the other's slab;
two parallel ones where their slabs and their outlines overlap.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np
import shapely
from shapely.geometry import box

from zygon.geometry.frame import AXES
from zygon.making.kinds.registry import layers_of_part
from zygon.making.result.built import MadePart
from zygon.memo import Memo, digest
from zygon.tolerance import EPS

__all__ = ["PlacedLayer", "along_axes", "common", "in_own_frame", "placed_layers", "stretches"]

_PLACED = Memo(6000)


@dataclass(frozen=True)
class PlacedLayer:
    """An outline with x, y along the room's axes ``u`` and ``v`` (in their order), between ``low`` and ``high`` along ``normal``; mm."""

    u: str
    v: str
    normal: str
    low: float
    high: float
    outline: shapely.Geometry

    @property
    def bounds(self) -> dict[str, tuple[float, float]]:
        """Low and high by axis."""
        x0, y0, x1, y1 = self.outline.bounds
        return {self.u: (x0, x1), self.v: (y0, y1), self.normal: (self.low, self.high)}


def placed_layers(part: MadePart) -> list[PlacedLayer]:
    """A part's layers in the room."""
    key = digest("placed", part.body.digest, part.matrix)
    return _PLACED.get(key, lambda: _placed(part))[0]


def _placed(part: MadePart) -> list[PlacedLayer]:
    """The layers of a part whose axes lie along the room's, either way round."""
    m = part.matrix
    axes = [max(range(3), key=lambda i, k=k: abs(m[i][k])) for k in range(3)]  # type: ignore[misc]
    signs = [m[axes[k]][k] for k in range(3)]
    shift = [m[axes[k]][3] for k in range(3)]
    scale, move = np.array(signs[:2]), np.array(shift[:2])
    found = []
    # u before v, so that outlines of one plane can be laid on one another whichever way their parts are turned
    swapped = axes[0] > axes[1]
    one, other = sorted(axes[:2])
    for layer in layers_of_part(part):
        ends = sorted((shift[2] + signs[2] * layer.low, shift[2] + signs[2] * layer.high))
        outline = shapely.transform(layer.outline, lambda xy: (xy * scale + move)[:, ::-1] if swapped else xy * scale + move)
        found.append(PlacedLayer(AXES[one], AXES[other], AXES[axes[2]], ends[0], ends[1], outline))
    return found


def along_axes(part: MadePart) -> bool:
    """Whether a part is flat and its axes lie along the room's."""
    return part.body.layered and all(abs(x) < EPS or abs(x) > 1 - EPS for row in part.matrix[:3] for x in row[:3])


def in_own_frame(part: MadePart, other: MadePart) -> MadePart:
    """A part as seen from where ``other`` lies flat: for pairs that are turned alike."""
    m = np.array(other.matrix)
    back = np.linalg.inv(m) @ np.array(part.matrix)
    back[:3, :3] = np.round(back[:3, :3])
    back[:3, 3] = np.round(back[:3, 3], 7)
    return replace(part, matrix=tuple(tuple(r) for r in back.tolist()))


def common(a: PlacedLayer, b: PlacedLayer, tolerance: float) -> float:
    """How much two layers have in common, in mm: the length along the axis they share, or the lesser width of what both cover.

    0 where they overlap by no more than ``tolerance`` along one of the axes.
    """
    one, other = a.bounds, b.bounds
    if any(min(one[x][1], other[x][1]) - max(one[x][0], other[x][0]) <= tolerance for x in "xyz"):
        return 0.0
    if a.normal == b.normal:
        shared = shapely.intersection(a.outline, b.outline)
        if shapely.buffer(shared, -tolerance / 2).is_empty:
            return 0.0
        x0, y0, x1, y1 = shared.bounds
        return min(x1 - x0, y1 - y0)
    axis = next(x for x in "xyz" if x not in (a.normal, b.normal))
    strips = stretches(b, a, axis, tolerance)
    if not strips:
        return 0.0
    total = 0.0
    for low, high in stretches(a, b, axis, tolerance):
        for other_low, other_high in strips:
            length = min(high, other_high) - max(low, other_low)
            if length > tolerance:
                total += length
    return total


def stretches(own: PlacedLayer, other: PlacedLayer, axis: str, tolerance: float) -> list[tuple[float, float]]:
    """Where along ``axis`` the layer is present well within the other's slab, low to high and apart from one another."""
    low, high = other.low + tolerance / 2, other.high - tolerance / 2
    if high <= low:
        return []
    x0, y0, x1, y1 = own.outline.bounds
    along_u = own.u == axis
    strip = box(x0 - 1, low, x1 + 1, high) if along_u else box(low, y0 - 1, high, y1 + 1)
    inside = shapely.get_parts(shapely.intersection(own.outline, strip))
    k = 0 if along_u else 1
    spans = sorted((g.bounds[k], g.bounds[k + 2]) for g in inside if g.area > tolerance * tolerance / 4)
    merged: list[tuple[float, float]] = []
    for s in spans:
        if merged and s[0] <= merged[-1][1]:
            merged[-1] = (merged[-1][0], max(merged[-1][1], s[1]))
        else:
            merged.append(s)
    return merged
