"""Folded parts for tests, and their solids as an independent mesh library reads them."""

import trimesh

from zygon.design.upgrade import load
from zygon.making.flats.flat import mesh_of
from zygon.making.pipeline import build

SIDES = ("left", "right", "front", "back")


def entry(text):
    return {"text": str(text), "unit": "mm"}


def flange(edge, length=30, kind="flange", **more):
    plain = ("on", "toward", "measured", "where", "extent", "style", "relief", "features", "order", "mirrored")
    return {"kind": kind, "edge": edge, "length": entry(length), **{k: v if k in plain else entry(v) for k, v in more.items()}}


def folded(flanges, width=200, depth=120, thickness=1.0, k=0.42, features=None, **folding):
    """A built design of one folded part, 'p'; the plate lies at z = 0, and 'a' is up."""
    folding = {n: v if n in ("corner", "corners", "corner_shape", "crossing", "split", "sizes") else entry(v) for n, v in folding.items()}
    return build(
        load(
            {
                "schema": 5,
                "name": "t",
                "stocks": {"s": {"name": "steel", "nominal": entry(thickness), "density": 7.85, "bending": {"rule": "k", "k": k}}},
                "parts": {
                    "p": {
                        "kind": "board",
                        "name": "tray",
                        "stock": "s",
                        "plane": "lying",
                        "position": {"face": "bottom", "at": entry(0)},
                        "spans": {"x": {"low": entry(0), "high": entry(width)}, "y": {"low": entry(0), "high": entry(depth)}},
                        "features": features or {},
                        "folding": {"flanges": flanges, **folding},
                    }
                },
            }
        )
    )


def part_of(built):
    assert built.faults == (), [f.message for f in built.faults]
    return built.parts["p"]


def solid(part):
    (mesh,) = mesh_of(part.flat)
    return trimesh.Trimesh(mesh.positions, mesh.triangles, process=False)
