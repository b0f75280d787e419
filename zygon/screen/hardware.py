"""Sets and what is bought, as plain data for screens; the solids of hardware as resources under their hash."""

from __future__ import annotations

from functools import lru_cache

import numpy as np

from zygon.exchange.to_buy import BuyRow
from zygon.making.hardware.pieces import mesh_of_hardware
from zygon.making.result.built import Built
from zygon.making.sets.rings import rings_of
from zygon.memo import digest
from zygon.screen.shown.hardware import ShownBuy, ShownFitted, ShownSet
from zygon.screen.shown.shapes import ShownSolid
from zygon.stock.hardware.piece import Hardware

__all__ = ["bought_data", "fitted_data", "hardware_solids", "set_data"]


#: Shorter edges (mm) are not inked: far under a pixel, they come out as specks, before all that hides them.
SPECK = 0.15


@lru_cache(maxsize=4096)
def _solid_of(hardware: Hardware) -> str:
    return f"solid-{digest('hardware', hardware.slices)}"


def set_data(built: Built, bore: str) -> ShownSet:
    """A bore's set, wherever it lies."""
    one = built.sets[bore]
    return {
        "bore": bore,
        "words": one.words,
        "needed": one.needed,
        "length": one.length,
        "engaged": one.engaged,
        "holes": one.holes,
        "pieces": [
            [{"name": p.hardware.name, "standard": p.hardware.standard, "solid": _solid_of(p.hardware)} for p in place.pieces]
            for place in one.places
        ],
        "places": [
            {
                "parts": list(place.parts),
                "at": list(place.at),
                "way": list(place.way),
                "matrices": [[round(x, 6) + 0.0 for row in p.motion.rows for x in row] for p in place.pieces],
            }
            for place in one.places
        ],
    }


def fitted_data(built: Built) -> list[ShownFitted]:
    """What of hardware is on parts alone."""
    return [
        {
            "part": part.key,
            "name": p.hardware.name,
            "standard": p.hardware.standard,
            "solid": _solid_of(p.hardware),
            "matrix": [round(x, 6) + 0.0 for row in p.motion.rows for x in row],
        }
        for part, p in rings_of(built)
    ]


def bought_data(row: BuyRow) -> ShownBuy:
    """A line of what is bought."""
    return {
        "name": row.name,
        "standard": row.standard,
        "designation": row.designation,
        "needed": row.needed,
        "spare": row.spare,
        "quantity": row.quantity,
        "price": row.price,
        "total": row.total,
        "mass": row.mass,
        "owners": list(row.owners),
    }


def hardware_solids(built: Built, known: set[str]) -> dict[str, ShownSolid]:
    """The solids of the hardware of a design by their hash, but for those that are known."""
    lying = [p.hardware for one in built.sets.values() for place in one.places for p in place.pieces] + [
        p.hardware for _, p in rings_of(built)
    ]
    every = dict.fromkeys(lying)
    return {_solid_of(h): _data(h) for h in every if _solid_of(h) not in known}


@lru_cache(maxsize=512)
def _data(hardware: Hardware) -> ShownSolid:
    mesh = mesh_of_hardware(hardware)
    seen = np.linalg.norm(mesh.edges[:, 0] - mesh.edges[:, 1], axis=1) > SPECK
    return {
        "skin": None,
        "positions": np.round(mesh.positions, 4).ravel().tolist(),
        "triangles": mesh.triangles.ravel().tolist(),
        "owners": ["hardware"],
        "counts": [len(mesh.triangles)],
        "edges": np.round(mesh.edges[seen].reshape(-1, 3), 4).ravel().tolist(),
    }
