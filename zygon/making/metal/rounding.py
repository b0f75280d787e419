"""Exposed sharp corners of a folded part: where they are on the flat, and the cuts that round or chamfer them."""

from __future__ import annotations

import math
from collections.abc import Iterator

from zygon.design.folding import CornerShape
from zygon.geometry.contour import Contour, Segment
from zygon.making.metal.faces import BEND
from zygon.making.metal.legs import record_of
from zygon.making.result.flat import Flat
from zygon.making.result.fold import Fold, FoldFace
from zygon.making.result.operations import Cut
from zygon.tolerance import CONTACT

__all__ = ["roundings", "sharp_corners"]

Point = tuple[float, float]
#: A turn of the outline under this is no corner (radians).
LEAST_TURN = math.radians(5)


def roundings(fold: Fold, radius: float, shape: CornerShape, own: dict[str, tuple[float, CornerShape]]) -> list[Cut]:
    """Every exposed corner rounded by ``radius`` mm (or chamfered by so much along both sides), as far as its sides allow.

    ``own`` has radius and shape of the flanges that have their own, by key.
    """
    cuts: list[Cut] = []
    for face in fold.faces:
        wanted, taken = own.get(record_of(face.key), (radius, shape))
        if wanted <= CONTACT:
            continue
        owner = face.owner or "folding"
        for a, b, turn in _corners(face):
            cut = _taken_off(a, b, turn, wanted, taken, owner)
            if cut:
                cuts.append(Cut(cut, owner))
    return cuts


def sharp_corners(flat: Flat) -> list[Point]:
    """The exposed corners of a folded part that are left sharp, on its flat (mm)."""
    if flat.fold is None:
        return []
    left = {_snapped(p) for piece in flat.pieces for p in piece.outer.points}
    return [a.q for face in flat.fold.faces for a, _, _ in _corners(face) if _snapped(a.q) in left]


def _snapped(point: Point) -> Point:
    return round(point[0], 4), round(point[1], 4)


def _corners(face: FoldFace) -> Iterator[tuple[Segment, Segment, float]]:
    """A face's convex corners between straight sides that are no bends, with how far the outline turns there (radians)."""
    for contour in face.outline:
        segments = contour.wound(ccw=True).segments()
        for a, b in zip(segments, segments[1:] + segments[:1], strict=True):
            if BEND in (a.owner, b.owner) or a.bulge or b.bulge:
                continue
            (ux, uy), (vx, vy) = a.tangents()[1], b.tangents()[0]
            turn = math.atan2(ux * vy - uy * vx, ux * vx + uy * vy)
            if turn >= LEAST_TURN:
                yield a, b, turn


def _taken_off(a: Segment, b: Segment, turn: float, radius: float, shape: CornerShape, owner: str) -> Contour | None:
    """What a round or a chamfer takes away; None where a side is too short for it."""
    back = radius * math.tan(turn / 2) if shape == "round" else radius
    if back > min(a.length, b.length) - CONTACT:
        return None
    (ux, uy), (vx, vy) = a.tangents()[1], b.tangents()[0]
    p, q = (a.q[0] - ux * back, a.q[1] - uy * back), (a.q[0] + vx * back, a.q[1] + vy * back)
    out = (a.q[0] + (ux - vx), a.q[1] + (uy - vy))  # past the corner, so that no edge of the cut lies on the part's
    shift = (out[0] - a.q[0], out[1] - a.q[1])
    over = [(x + shift[0], y + shift[1]) for x, y in (p, q)]
    bulge = -math.tan(turn / 4) if shape == "round" else 0.0
    return Contour((p, over[0], out, over[1], q), (0.0, 0.0, 0.0, 0.0, bulge), (owner,) * 5).wound(ccw=True)
