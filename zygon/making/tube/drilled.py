"""Holes, slots and marks in the walls of members: those of their own, and those of bores that pass through them."""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping
from typing import Literal

import numpy as np
from shapely import LineString

from zygon.design.parts.kinds import is_member
from zygon.design.pointer import pointer
from zygon.geometry.boolean import region_polygon
from zygon.geometry.motion import Motion
from zygon.making.blanks.instances import Instance
from zygon.making.datums.scope import EntryScope
from zygon.making.datums.values import Values
from zygon.making.features.bore_lines import BoreLine
from zygon.making.features.bores import Axes, Holes
from zygon.making.result.fault import Fault
from zygon.making.tube.body import MemberBody
from zygon.making.tube.cuts import SideCut
from zygon.making.tube.meeting import reach_of
from zygon.making.tube.pieces import Pieces
from zygon.measure.display import format_angle, format_length
from zygon.measure.quantity import Kind
from zygon.owner import bore_id, hole_id
from zygon.stock.section import Section
from zygon.tolerance import CONTACT, EPS, WITHIN

__all__ = ["Made", "bored_through", "drilled_in", "meets"]

Made = Literal["cut", "mark"]
#: A bore meets a member at no less than this off its axis (radians): it would run along in its wall.
FLATTEST = math.radians(15)
_STILL = Motion(((1.0, 0.0, 0.0, 0.0), (0.0, 1.0, 0.0, 0.0), (0.0, 0.0, 1.0, 0.0)))


def drilled_in(values: Values, key: str, body: MemberBody) -> Iterator[tuple[Made, SideCut]]:
    """What is drilled in a straight member by itself, hole by hole; what cannot be is a fault."""
    member = values.boards[key]
    assert is_member(member)
    for name, hole in sorted(member.holes.items(), key=lambda kh: (kh[1].order, kh[0])):
        where = pointer("parts", key, "holes", name)
        scope = EntryScope(values, stock=member.stock)

        def read(field: str, kind: Kind = "length", where: str = where, scope: EntryScope = scope, hole=hole) -> float:
            return values.read(getattr(hole, field), f"{where}/{field}", kind, scope, part=key)

        off, around, wide, pitch = read("off"), read("around", "angle"), read("wide"), read("pitch")
        long = read("long") if hole.long is not None else wide
        across = _room_for(body.section, -math.sin(around), math.cos(around))
        if any(values.values[f"{where}/{f}"].stale for f in ("off", "wide")) and wide <= CONTACT:
            continue  # said already, and no good value stands in its place
        if not CONTACT < wide < across - CONTACT:
            shown, most = format_length(wide), format_length(round(across, 3))
            values.fault_entry(
                f"{where}/wide",
                "bad_hole",
                f"{member.name}: a hole {shown} wide",
                f"greater than 0, and less than {most} across",
                shown,
                key,
            )
            continue
        if long < wide - WITHIN:
            shown = format_length(long)
            values.fault_entry(
                f"{where}/long",
                "bad_hole",
                f"{member.name}: a slot {shown} long",
                f"at least as long as it is wide, {format_length(wide)}",
                shown,
                key,
            )
            continue
        section = Section("round", wide) if long - wide <= CONTACT else Section("rectangle", wide, long, corner=wide / 2)
        begins = _begins(body.section) if hole.walls == "one" else None
        beyond = off + (hole.count - 1) * pitch
        if not (min(off, beyond) >= -WITHIN and max(off, beyond) <= body.length + WITHIN):
            shown, most = (
                format_length(round(beyond if beyond > body.length else min(off, beyond), 3)),
                format_length(round(body.length, 3)),
            )
            values.fault_entry(
                f"{where}/off",
                "bad_hole",
                f"{member.name}: a hole at {shown} from end {hole.end.upper()}",
                f"from 0 to its length, {most}",
                shown,
                key,
            )
            continue
        angles = [around + 2 * math.pi * k / hole.ring for k in range(hole.ring)]
        bare = next((a for a in angles if body.section.open and not _leg_at(body.section, a, begins)), None)
        if bare is not None:
            shown = format_angle(bare % (2 * math.pi))
            values.fault_entry(
                f"{where}/around",
                "bad_hole",
                f"{member.name}: a hole at {shown} round it meets none of its legs",
                "a hole is drilled where a leg is",
                shown,
                key,
            )
            continue
        for n in range(hole.count):
            w = off + n * pitch if hole.end == "a" else body.length - off - n * pitch
            for angle in angles:
                yield hole.made, _from_middle(section, w, angle, begins, hole_id(key, name))


def _room_for(section: Section, x: float, y: float) -> float:
    """How wide a section is as it is seen along a direction across it, mm."""
    long = math.hypot(x, y)
    if long <= EPS:
        return min(section.extents)
    return 2 * reach_of(section, _STILL, np.array((y / long, -x / long, 0.0)))


def _begins(section: Section) -> float | None:
    """From where on along its own way a hole through one wall is drilled: from the middle, or from behind a leg that stands there; a solid bar has one wall."""
    if section.open:
        return -section.wall
    return 0.0 if section.wall else None


def _leg_at(section: Section, around: float, begins: float | None) -> bool:
    """Whether a leg of what is open lies on the line through its middle at an angle round it, or on the half of it that begins there."""
    far = math.hypot(*section.extents)
    out = (-math.sin(around) * far, math.cos(around) * far)
    back = 1.0 if begins is None else -begins / far
    start = (-out[0] * back, -out[1] * back)
    return bool(region_polygon(section.region).intersects(LineString([start, out])))


def _from_middle(section: Section, w: float, around: float, begins: float | None, owner: str) -> SideCut:
    """A hole whose axis looks out of a member's middle at an angle round it, its width along the member."""
    s, c = round(math.sin(around), 12) + 0.0, round(math.cos(around), 12) + 0.0
    # its u along the member, its w outward: at 0 degrees along v, at 90 against u
    return SideCut(Motion(((0.0, c, -s, 0.0), (0.0, s, c, 0.0), (1.0, 0.0, 0.0, w))), section, 0.0, owner, begins=begins)


def bored_through(
    values: Values,
    pieces: Pieces,
    instances: Mapping[str, Instance],
    axes: Axes,
    holes: Holes,
) -> Iterator[tuple[str, Made, SideCut]]:
    """What the bores of a design do to the pieces of members, ``holes`` what their sets ask for: the piece's key and the hole; what misses or lies too flat is a fault."""
    for key, at in axes.items():
        bore, owner, diameter = values.document.bores[key], bore_id(key), at.diameter
        through = [p for p in bore.parts if p in pieces.of and bore.parts[p].action != "leave"]
        for part in through:
            where = pointer("bores", key, "parts", part)
            fit = values.read(
                bore.parts[part].fit,
                f"{where}/fit",
                "length",
                EntryScope(values, stock=values.boards[part].stock, shaft=""),
                part=part,
                owner=owner,
            )
            name = values.boards[part].name
            owns = {p: (instances[part].motion @ pieces.bodies[p][1]).inverse for p in pieces.of[part]}
            for line in at.lines[: at.own]:
                piece = next((p for p, own in owns.items() if meets(pieces.bodies[p][0], own, line) is not None), None)
                if piece is None:
                    values.faults.append(
                        Fault(
                            "bore_misses",
                            f"{bore.name} misses {name}",
                            "a bore's axis passes through every part it cuts or marks",
                            part=part,
                            owner=owner,
                            entry=where,
                        )
                    )
                    continue
                (body, _), own = pieces.bodies[piece], owns[piece]
                asked = holes.get((key, part, 0))
                wide = (asked.wide if asked else diameter) + fit
                x, y, _ = own.vector(line.way)
                across = _room_for(body.section, x, y)
                if not CONTACT < wide < across - CONTACT:
                    shown, most = format_length(wide), format_length(round(across, 3))
                    values.fault_entry(
                        f"{where}/fit",
                        "bad_hole",
                        f"{bore.name}: a hole {shown} wide in {name}",
                        f"less than {most} across",
                        shown,
                        part,
                        owner,
                    )
                    continue
                made: Made = "mark" if bore.parts[part].action == "mark" else "cut"
                yield piece, made, SideCut(_along(own, line), Section("round", round(wide, 9)), 0.0, owner)


def meets(body: MemberBody, own: Motion, line: BoreLine) -> float | None:
    """How far along a bore's axis (mm) it goes through a member, ``own`` from the room to its own coordinates; None where it does not."""
    point, way = np.array(own.point(line.point)), np.array(own.vector(line.way))
    flat = math.hypot(way[0], way[1])
    if flat < math.sin(FLATTEST):
        return None
    t = -float(point[:2] @ way[:2]) / (flat * flat)
    at = point + way * t
    off = float(np.linalg.norm(at[:2]))
    reach = reach_of(body.section, _STILL, np.array((*(at[:2] / off), 0.0))) if off > EPS else 1.0
    low, high = body.span
    return t if off < reach and low <= at[2] <= high and line.low - reach <= t <= line.high + reach else None


def _along(own: Motion, line: BoreLine) -> Motion:
    """A bore's own coordinates as a member has them, w along it."""
    point, w = np.array(own.point(line.point)), np.array(own.vector(line.way))
    u = np.cross(np.eye(3)[int(np.abs(w).argmin())], w)
    u = u / np.linalg.norm(u)
    v = np.cross(w, u)
    rows = tuple((float(u[i]), float(v[i]), float(w[i]), float(point[i])) for i in range(3))
    return Motion(rows).rounded()
