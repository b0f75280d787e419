"""Members of frames: lengths of tube and bar with their ends cut."""

from __future__ import annotations

from typing import Any

from shapely.geometry import Polygon

from zygon.geometry.boolean import to_polygon
from zygon.geometry.mesh import Mesh
from zygon.geometry.motion import Motion
from zygon.making.flats.layers import Layer
from zygon.making.kinds.base import MadeKind, Sizes
from zygon.making.tube.bent import BentBody
from zygon.making.tube.body import MemberBody, drawn_area
from zygon.making.tube.cuts import MIRROR
from zygon.making.tube.mesh import bent_mesh, member_mesh
from zygon.memo import Memo
from zygon.tolerance import SAGITTA

__all__ = ["MEMBER"]

#: The chords of a small picture are within this (mm).
COARSE = 0.3
_MESHES = Memo(2000)


Body = MemberBody | BentBody


def _mesh(body: Body) -> Mesh:
    return _MESHES.get(body.digest, lambda: bent_mesh(body) if isinstance(body, BentBody) else member_mesh(body))[0]


def _meshes(body: Body) -> list[Mesh]:
    return [] if body.empty else [_mesh(body)]


def _layers(body: Body) -> tuple[Layer, ...]:
    """For small pictures: straight, between the middles of its ends; none of a bent one."""
    if isinstance(body, BentBody):
        return ()
    rings = [to_polygon(c, COARSE).exterior for c in (body.region.outer, *body.region.inner)]
    spare = (body.long - body.short) / 4
    low, high = body.span
    return (Layer(low + spare, high - spare, Polygon(rings[0], rings[1:])),)


def _volume(body: Body) -> float:
    """Of the mesh, whose chords are made up for by the section's true area; of a bent one its area along the line of its centre (Pappus)."""
    if isinstance(body, BentBody):
        whole = body.region.area * body.centroid_length - sum(tip.taken(body.section.height / 2) for tip, _ in body.tipped())
        # what is cut and drilled in a run it loses as a straight one does
        cut = (run for run in body.runs if run.at_a or run.at_b or run.holes)
        return whole - sum(body.region.area * run.length - _volume(run) for run in cut)
    if body.empty:
        return 0.0
    mesh = _mesh(body)
    return mesh.moments()[0] * body.region.area / drawn_area(body.section)


def _exact(body: Body) -> Any:
    from zygon.making.tube.exact import bent_exact, member_exact

    return bent_exact(body) if isinstance(body, BentBody) else member_exact(body)


def _sizes(body: Body) -> Sizes:
    across = sorted(body.section.extents)
    wide = across[1] if across[1] - across[0] > SAGITTA else None
    long = body.length if isinstance(body, BentBody) else None if body.empty else body.long
    return Sizes(long, wide, thickness=across[0])


def _mirrored(body: Body) -> tuple[Body, Motion]:
    """Left for right across u."""
    return body.mirrored, MIRROR


MEMBER = MadeKind(_meshes, _layers, _volume, _exact, _sizes, mirrored=_mirrored)
