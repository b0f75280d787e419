"""Parts that overlap in the room, from their flats and places."""

from __future__ import annotations

from itertools import combinations

import shapely
from shapely.geometry import box

from zygon.build.built import Built, BuiltPart, Fault
from zygon.build.memo import Memo, digest
from zygon.geometry.boolean import region_polygon
from zygon.geometry.tolerance import CHECK, SAGITTA
from zygon.measure.display import format_length

__all__ = ["common_length", "overlap_faults"]

_POLYGONS = Memo(2000)
_PAIRS = Memo(8000)


def overlap_faults(built: Built) -> list[Fault]:
    """Pairs of parts that take up the same room. A press fit may bite by its half a flank."""
    faults = []
    allowed = {frozenset((j.a, j.b)): max(0.0, -j.fit) for j in built.joints.values()}
    solid = [p for p in built.parts.values() if p.flat and p.box and p.record.quantity]
    for a, b in combinations(solid, 2):
        press = allowed.get(frozenset((a.key, b.key)), 0.0)
        found = common_length(a, b, press + CHECK)
        if found:
            shown = format_length(round(found, 3), built.document.display)
            faults.append(
                Fault("overlap", f"{a.path} and {b.path} overlap over {shown}", "two parts cannot take up the same room", shown, "geometry",
                      part=a.key, other=b.key)
            )  # fmt: skip
    return faults


def _reaches(part: BuiltPart) -> tuple[list[float], list[float]]:
    """Bounds in the room, tabs included."""
    x0, y0, x1, y1 = part.flat.bounds  # type: ignore[union-attr]
    m, t = part.matrix, part.flat.thickness  # type: ignore[union-attr]
    corners = [[sum(r[i] * c[i] for i in range(3)) + r[3] for r in m[:3]] for c in ((x0, y0, 0.0), (x1, y1, t))]
    return [min(c) for c in zip(*corners, strict=True)], [max(c) for c in zip(*corners, strict=True)]


def _boxes_meet(a: BuiltPart, b: BuiltPart) -> bool:
    if not a.flat.pieces or not b.flat.pieces:  # type: ignore[union-attr]
        return False
    (al, ah), (bl, bh) = _reaches(a), _reaches(b)
    return all(al[i] < bh[i] - CHECK and bl[i] < ah[i] - CHECK for i in range(3))


def common_length(a: BuiltPart, b: BuiltPart, tolerance: float) -> float:
    """How far two boards run through one another, in mm; 0 where less than ``tolerance``.

    Square to each other: along the axis they share, the stretches where both are inside the other's slab. Both are cut straight
    through, so that a stretch in common is a volume in common. Parallel: the width of what both cover.
    """
    if not _boxes_meet(a, b):
        return 0.0
    key = digest("pair", a.flat.digest, a.matrix, b.flat.digest, b.matrix, round(tolerance, 6))  # type: ignore[union-attr]
    return _PAIRS.get(key, lambda: _common(a, b, tolerance))[0]


def _common(a: BuiltPart, b: BuiltPart, tolerance: float) -> float:
    if a.frame.normal == b.frame.normal:  # type: ignore[union-attr]
        shared = shapely.intersection(_placed(a), _placed(b))
        inner = shapely.buffer(shared, -tolerance / 2)
        if inner.is_empty:
            return 0.0
        x0, y0, x1, y1 = shared.bounds
        return min(x1 - x0, y1 - y0)
    axis = next(x for x in "xyz" if x not in (a.frame.normal, b.frame.normal))  # type: ignore[union-attr]
    total = 0.0
    strips_b = _stretches(b, a, axis)
    for low, high in _stretches(a, b, axis):
        for other_low, other_high in strips_b:
            shared_length = min(high, other_high) - max(low, other_low)
            if shared_length > tolerance:
                total += shared_length
    return total


def _placed(part: BuiltPart) -> shapely.Geometry:
    """The flat's polygons at their place along u and v in the room."""
    flat = part.flat
    ou, ov = (part.matrix["xyz".index(x)][3] for x in (part.frame.u, part.frame.v))  # type: ignore[union-attr]

    def make() -> shapely.Geometry:
        local = shapely.union_all([region_polygon(p, SAGITTA * 5) for p in flat.pieces])  # type: ignore[union-attr]
        return shapely.transform(local, lambda xy: xy + (ou, ov))

    return _POLYGONS.get(digest("placed", flat.digest, ou, ov), make)[0]  # type: ignore[union-attr]


def _stretches(own: BuiltPart, other: BuiltPart, axis: str) -> list[tuple[float, float]]:
    """Where along ``axis`` the board is present within the other's slab."""
    i = "xyz".index(other.frame.normal)  # type: ignore[union-attr]
    column = other.matrix[i]
    t = other.flat.thickness  # type: ignore[union-attr]
    ends = sorted((column[3], column[3] + column[2] * t))
    low, high = ends[0] + CHECK, ends[1] - CHECK
    polygon = _placed(own)
    x0, y0, x1, y1 = polygon.bounds
    along_u = own.frame.u == axis  # type: ignore[union-attr]
    strip = box(x0 - 1, low, x1 + 1, high) if along_u else box(low, y0 - 1, high, y1 + 1)
    inside = shapely.get_parts(shapely.intersection(polygon, strip))
    k = 0 if along_u else 1
    spans = sorted((g.bounds[k], g.bounds[k + 2]) for g in inside if g.area > CHECK * CHECK)
    merged: list[tuple[float, float]] = []
    for s in spans:
        if merged and s[0] <= merged[-1][1]:
            merged[-1] = (merged[-1][0], max(merged[-1][1], s[1]))
        else:
            merged.append(s)
    return merged
