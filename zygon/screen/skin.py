"""What the screen needs to show a folded part on its way between flat and bent: the net on the flat, and the bends that lay its corners."""

from __future__ import annotations

import numpy as np

from zygon.making.flats.flat import fold_net
from zygon.making.metal.folded_mesh import inked
from zygon.making.result.flat import Flat
from zygon.making.result.fold import gusset_points
from zygon.screen.shown.shapes import ShownSkin

__all__ = ["skin_data"]


def skin_data(flat: Flat) -> ShownSkin | None:
    """Flat corners (u, v runs) with the zone that lays each (face i, or bend -1 - i), inked edges as corners, and the bends; None where it has none.

    Corners are counted once for face B and once more for face A, as in the solid's positions.
    """
    fold = flat.fold
    if fold is None:
        return None
    net = fold_net(flat, fold)
    return {
        "flat": np.round(net.flat, 4).ravel().tolist(),
        "zone": net.zone.tolist(),
        "edges": inked(net).ravel().tolist(),
        "lines": net.lines.ravel().tolist(),
        "thickness": flat.thickness,
        "faces": [{"key": f.key, "owner": f.owner} for f in fold.faces],
        "bends": [
            {
                "owner": b.owner,
                "parent": b.parent,
                "start": b.start,
                "end": b.end,
                "angle": b.angle,
                "radius": b.radius,
                "k": b.k,
                "gussets": [[c for point in g for c in point] for g in gusset_points(b)],
            }
            for b in fold.bends
        ],
    }
