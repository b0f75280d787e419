"""Rods: lengths of bar and tube, cut off square at both ends."""

from __future__ import annotations

import math
from dataclasses import replace
from typing import Any

from shapely.geometry import Polygon

from zygon.design.parts.kinds import PlacedKind, is_rod
from zygon.design.pointer import pointer
from zygon.geometry.boolean import Region, to_polygon
from zygon.geometry.frame import AXES
from zygon.geometry.mesh import Mesh, extrude
from zygon.geometry.motion import Motion
from zygon.making.datums.values import Values
from zygon.making.flats.layers import Layer
from zygon.making.kinds.base import MadeKind, Sizes
from zygon.making.kinds.member import MEMBER
from zygon.making.result.body import Prism, Straight
from zygon.making.result.box import Box
from zygon.making.tube.body import MemberBody
from zygon.making.tube.end_work import tips_of
from zygon.measure.display import format_length
from zygon.memo import digest
from zygon.stock.section import Section
from zygon.tolerance import SAGITTA

__all__ = ["ROD", "worked_rods"]


def worked_rods(values: Values) -> dict[str, tuple[MemberBody, Motion]]:
    """Rods with something done at their ends, each with the motion that takes it to its rest; what cannot be done is a fault."""
    found = {}
    for key, record in values.boards.items():
        section, box = values.section_of(key) if record.stock else None, values.box(key)
        if not is_rod(record) or not record.worked or section is None or box is None:
            continue
        plain, rest = _make(record, box, section)
        tips = tips_of(values, key, section, (plain.length, plain.length))
        if any(tips) and plain.length > sum(t.long + (t.groove[0] + t.groove[1] if t.groove else 0.0) for t in tips if t):
            found[key] = MemberBody(section, plain.length, tips=tips), rest
        elif any(tips):
            said = f"{record.name} is too short for what is done at both its ends"
            values.fault_entry(
                pointer("parts", key, "worked"),
                "bad_end",
                said,
                "threads and grooves of both ends beside one another",
                format_length(plain.length),
                key,
            )
    return found


def _make(record: PlacedKind, box: Box, section: Section | None) -> tuple[Prism, Motion]:
    """The length of a section that a box encloses, w along its axis, and how it lies."""
    assert section
    axis = next(a for a in AXES if a not in record.across)
    k = AXES.index(axis)
    u = (k + 1) % 3
    low, high = box.span(axis)
    region = section.region
    if AXES[u] != record.width_along:  # its width lies along v
        quarter = math.pi / 2 if AXES[u] != "z" else -math.pi / 2  # what looks up in it looks up in the room too
        region = Region(region.outer.moved(0.0, 0.0, quarter), tuple(c.moved(0.0, 0.0, quarter) for c in region.inner))
    place = [(box.low[i] + box.high[i]) / 2 for i in range(3)]
    place[k] = low
    turns = [(1.0, 0.0, 0.0), (0.0, 1.0, 0.0), (0.0, 0.0, 1.0)]
    # u, v and w run along the room's axes in their order, so that none is mirrored
    rows = tuple((*turns[(i - u) % 3], place[i]) for i in range(3))
    length = round(high - low, 7)
    # however it is turned, it is one piece; its mirror image is it, turned end for end
    return Prism(region, length, digest("rod", region, length), same=digest("rods", section, length)), Motion(rows)


def _meshes(rod: Prism | MemberBody) -> list[Mesh]:
    if isinstance(rod, MemberBody):
        return MEMBER.meshes(rod)
    return [extrude(rod.section, rod.length)]


def _layers(rod: Prism | MemberBody) -> tuple[Layer, ...]:
    if isinstance(rod, MemberBody):
        return MEMBER.layers(rod)
    outer, *inner = (to_polygon(c, SAGITTA * 5).exterior for c in (rod.section.outer, *rod.section.inner))
    return (Layer(0.0, rod.length, Polygon(outer, inner)),)


def _exact(rod: Prism | MemberBody) -> Any:
    if isinstance(rod, MemberBody):
        return MEMBER.exact(rod)
    from zygon.geometry.exact import prism

    return prism([rod.section.outer, *rod.section.inner], 0.0, rod.length)


def _mirrored(rod: Prism | MemberBody) -> tuple[Straight, Motion]:
    """Left for right across u; most sections are their own mirror image."""
    if isinstance(rod, MemberBody):
        assert MEMBER.mirrored
        return MEMBER.mirrored(rod)
    across = Motion(((-1.0, 0.0, 0.0, 0.0), (0.0, 1.0, 0.0, 0.0), (0.0, 0.0, 1.0, 0.0)))
    own = {(round(u, 6), round(v, 6)) for u, v in rod.section.outer.points}
    if own == {(round(-u, 6) + 0.0, round(v, 6)) for u, v in rod.section.outer.points}:
        return rod, across
    region = Region(rod.section.outer.moved(0.0, 0.0, mirrored=True), rod.section.inner)
    return replace(rod, section=region, digest=digest("rod", region, rod.length)), across


def _volume(rod: Prism | MemberBody) -> float:
    if isinstance(rod, MemberBody):
        return MEMBER.volume(rod)
    return rod.section.area * rod.length


def _sizes(rod: Prism | MemberBody) -> Sizes:
    if isinstance(rod, MemberBody):
        return MEMBER.sizes(rod)
    low_u, low_v, high_u, high_v = rod.section.outer.bounds
    across = sorted((high_u - low_u, high_v - low_v))
    wide = across[1] if across[1] - across[0] > SAGITTA else None
    return Sizes(rod.length, wide, thickness=across[0])


ROD = MadeKind(_meshes, _layers, _volume, _exact, _sizes, _make, _mirrored)
