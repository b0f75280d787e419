"""A flat as a stack of layers: between two depths that something reaches to, the solid is one outline drawn straight through.

Checks of what overlaps, slides and holds rest on them. Sloping cuts are taken a little too wide, in steps; what is drilled,
countersinks and profiles of edges are left out: nothing can catch in them.
"""

from __future__ import annotations

from dataclasses import dataclass

import shapely

from zygon.geometry.boolean import region_polygon, to_polygon
from zygon.making.flats.flat import mesh_of
from zygon.making.result.flat import Flat
from zygon.memo import Memo
from zygon.tolerance import CONTACT, SAGITTA

__all__ = ["Layer", "layers_of", "volume_of"]

_LAYERS = Memo(4000)
#: Into how many steps a sloping cut is divided.
STEPS = 4


@dataclass(frozen=True)
class Layer:
    """The outline between w ``low`` and ``high`` (mm above face B) in (u, v)."""

    low: float
    high: float
    outline: shapely.Geometry


def layers_of(flat: Flat) -> tuple[Layer, ...]:
    """The layers of a flat (seen from face A), from face B up."""
    return _LAYERS.get(flat.digest, lambda: _layers(flat))[0]


def _layers(flat: Flat) -> tuple[Layer, ...]:
    t = flat.thickness
    # snapped chords of very small arcs may cross
    body = shapely.union_all(shapely.make_valid([region_polygon(p, SAGITTA * 5) for p in flat.pieces]))
    if not flat.pockets and not flat.bevels:
        return (Layer(0.0, t, body),)
    planes = {0.0, t, *(t - p.depth if p.face == "a" else p.depth for p in flat.pockets)}
    if flat.bevels:
        planes |= {t * k / STEPS for k in range(1, STEPS)}
    heights = sorted(h for h in planes if -CONTACT < h < t + CONTACT)
    heights = [h for i, h in enumerate(heights) if not i or h - heights[i - 1] > CONTACT]
    pockets = [(p, region_polygon(p.region, SAGITTA * 5)) for p in flat.pockets]
    found = []
    for low, high in zip(heights, heights[1:], strict=False):
        gone = [g for p, g in pockets if (low > t - p.depth - CONTACT if p.face == "a" else high < p.depth + CONTACT)]
        gone = list(shapely.make_valid(gone))
        gone += [to_polygon(b.at(share)) for b in flat.bevels for share in (low / t, high / t)]
        outline = shapely.difference(body, shapely.union_all(gone)) if gone else body
        if not outline.is_empty:
            found.append(Layer(low, high, outline))
    return tuple(found)


def volume_of(flat: Flat) -> float:
    """Volume in mm³, pockets and sloping cuts taken off."""
    if flat.solid or flat.fold:  # bent, the neutral line keeps its length and the middle of the sheet does not
        return sum(mesh.moments()[0] for mesh in mesh_of(flat))
    if flat.plain:
        return flat.area * flat.thickness
    if (
        flat.bevels or flat.skew_bores or flat.edges
    ):  # sloping cuts are too wide in layers, and what is drilled askew or worked along edges is not in them
        return sum(mesh.moments()[0] for mesh in mesh_of(flat))
    volume = sum(layer.outline.area * (layer.high - layer.low) for layer in layers_of(flat))
    return volume - sum(b.depth * 0.7853981633974483 * b.diameter**2 for b in flat.bores)
