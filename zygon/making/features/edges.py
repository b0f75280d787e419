"""Features of a board's outline: corners, tapers, curved edges, notches, and trims by a plane; all cut straight through or as a bevel."""

from __future__ import annotations

import math

from zygon.geometry.contour import Contour
from zygon.geometry.frame import AXES, FACES
from zygon.making.blanks.blank import Blank
from zygon.making.datums.placing import frame_of_group
from zygon.making.datums.scope import EntryScope
from zygon.making.datums.values import Values
from zygon.making.features.reader import Reader
from zygon.making.features.sunk import edge_of, extents_of
from zygon.making.joints.angle import cut_off, edge_of_plane
from zygon.making.result.operations import Bevel, Cut, Operation
from zygon.measure.display import format_length
from zygon.tolerance import CONTACT, EPS

__all__ = ["edge_cuts", "edge_feature"]

#: Cuts that leave a board at its edge reach this far past it (mm).
PAST = 0.5
#: Those that shape the outline that a neighbour may be traced from.
SHAPING = ("corner", "taper", "edge_curve")
Point = tuple[float, float]


def edge_cuts(values: Values, blank: Blank) -> list[Contour]:
    """What corners, tapers and curved edges take off a board."""
    found = []
    for key, feature in sorted(blank.record.features.items(), key=lambda kf: (kf[1].order, kf[0])):
        if feature.kind in SHAPING and not feature.out:
            found += [o.contour for o in edge_feature(Reader(values, blank, key, feature), 0.0, 0.0) if isinstance(o, Cut)]
    return found


def edge_feature(r: Reader, u: float, v: float) -> list[Operation]:
    """The operations of one feature of the outline; (u, v) is its place, for those that have one along an edge."""
    match r.feature.kind:
        case "corner":
            return _corners(r)
        case "taper":
            return _taper(r)
        case "edge_curve":
            return _curve(r)
        case "edge_notch":
            return _notch(r, u, v)
        case _:
            return _trim(r)


def _ends(r: Reader) -> tuple[tuple[float, float], tuple[float, float]]:
    return extents_of(r, "u"), extents_of(r, "v")


def _corners(r: Reader) -> list[Operation]:
    f, frame = r.feature, r.blank.frame
    us, vs = _ends(r)
    words = {"u": FACES[frame.u], "v": FACES[frame.v]}
    corners = []
    for i in (0, 1):
        for j in (0, 1):
            name = {words["u"][i], words["v"][j]}
            if f.corner == "all" or set(f.corner.split("-")) == name:
                corners.append((i, j))
    if not corners:
        allowed = ", ".join(f"{a}-{b}" for a in words["u"] for b in words["v"])
        r.fault("corner", f"it has no corner {f.corner}", f"all, or one of {allowed}", f.corner)
        return []
    size = r.positive("size")
    other = r.positive("size_2") if f.size_2 is not None and f.style in ("cut", "step") else size
    first = f.corner.split("-")[0]
    along_u, along_v = (size, other) if f.corner == "all" or first in words["v"] else (other, size)
    most_u, most_v = us[1] - us[0], vs[1] - vs[0]
    share = 2 if f.corner == "all" else 1
    if min(size, other) <= CONTACT:
        return []
    for along, most, own in ((along_u, most_u / share, along_u is size), (along_v, most_v / share, along_v is size)):
        if along > most + CONTACT:
            field = "size" if own or f.size_2 is None else "size_2"
            r.fault(field, f"a corner of {_shown(r, along)}", f"at most {_shown(r, most)} here", _shown(r, along))
            return []
    return [Cut(_corner(us[i], vs[j], -1 if i else 1, -1 if j else 1, along_u, along_v, f.style, r.owner), r.owner) for i, j in corners]


def _corner(x: float, y: float, du: int, dv: int, su: float, sv: float, style: str, owner: str) -> Contour:
    """What is taken off the corner at (x, y), whose edges run inward along du and dv."""
    a, b = (x + du * su, y), (x, y + dv * sv)
    # past the board's edges the cut goes straight on
    out_a, out, out_b = (a[0], y - dv * PAST), (x - du * PAST, y - dv * PAST), (x - du * PAST, b[1])
    points: list[Point] = [a, b, out_b, out, out_a]
    bulges = [0.0] * 5
    turn = math.tan(math.pi / 8) * du * dv
    if style == "round":
        bulges[0] = -turn
    elif style == "hollow":
        bulges[0] = turn
    elif style == "step":
        points, bulges = [a, (a[0], b[1]), b, out_b, out, out_a], [0.0] * 6
    return Contour(tuple(points), tuple(bulges), (owner,) * len(points)).wound(ccw=True)


def _frame_of_edge(r: Reader) -> tuple[str, float, int, float, float] | None:
    """(across, at, inward, start, end) of an edge: the axis it lies across, its place there, the way inward, and its own ends."""
    found = edge_of(r)
    if found is None:
        return None
    across, side = found
    low, high = extents_of(r, across)
    start, end = extents_of(r, "v" if across == "u" else "u")
    return across, low if side == "low" else high, 1 if side == "low" else -1, start, end


def _drawn(across: str, points: list[Point], bulges: list[float], owner: str) -> Contour:
    """A contour from (along the edge, across it) places."""
    if across == "v":
        return Contour(tuple(points), tuple(bulges), (owner,) * len(points)).wound(ccw=True)
    return Contour(tuple((y, x) for x, y in points), tuple(-b for b in bulges), (owner,) * len(points)).wound(ccw=True)


def _depth_left(r: Reader, across: str) -> float:
    low, high = extents_of(r, across)
    return high - low


def _taper(r: Reader) -> list[Operation]:
    found = _frame_of_edge(r)
    low, high = r.read("low"), r.read("high")
    if found is None or (max(low, high) <= CONTACT and min(low, high) >= -CONTACT):
        return []
    across, at, inward, start, end = found
    room = _depth_left(r, across)
    for field, drop in (("low", low), ("high", high)):
        if not -CONTACT <= drop < room:
            r.fault(field, f"{_shown(r, drop)} off the edge at its {field} end", f"from 0 to less than {_shown(r, room)}", _shown(r, drop))
            return []
    slope = (high - low) / (end - start)
    a, b = (start - PAST, at + inward * (low - slope * PAST)), (end + PAST, at + inward * (high + slope * PAST))
    out = at - inward * (PAST + abs(slope) * PAST)
    points = [a, b, (b[0], out), (a[0], out)]
    clean = [p for i, p in enumerate(points) if math.dist(p, points[i - 1]) > EPS]
    return [Cut(_drawn(across, clean, [0.0] * len(clean), r.owner), r.owner)]


def _curve(r: Reader) -> list[Operation]:
    found, rise = _frame_of_edge(r), r.positive("rise")
    if found is None or rise <= CONTACT:
        return []
    across, at, inward, start, end = found
    room, chord = _depth_left(r, across), end - start
    if rise >= min(room, chord):
        r.fault("rise", f"a rise of {_shown(r, rise)}", f"less than {_shown(r, min(room, chord))}", _shown(r, rise))
        return []
    bulge = 2 * rise / chord * inward
    out = at - inward * PAST
    if r.feature.bulge == "in":
        points, bulges = [(start, at), (end, at), (end, out), (start, out)], [-bulge, 0.0, 0.0, 0.0]
        return [Cut(_drawn(across, points, bulges, r.owner), r.owner)]
    ends = at + inward * rise
    points = [(start, ends), (end, ends), (end + PAST, ends), (end + PAST, out), (start - PAST, out), (start - PAST, ends)]
    return [Cut(_drawn(across, points, [bulge, 0.0, 0.0, 0.0, 0.0, 0.0], r.owner), r.owner)]


def _notch(r: Reader, u: float, v: float) -> list[Operation]:
    found, width, depth = _frame_of_edge(r), r.positive("width"), r.positive("depth")
    if found is None or min(width, depth) <= CONTACT:
        return []
    across, at, inward, _, _ = found
    middle, room = (u if across == "v" else v), _depth_left(r, across)
    if depth >= room:
        r.fault("depth", f"a notch {_shown(r, depth)} deep cuts the board in two", f"less than {_shown(r, room)}", _shown(r, depth))
        return []
    a, b, out, deep = middle - width / 2, middle + width / 2, at - inward * PAST, at + inward * depth
    match r.feature.shape:
        case "vee":
            points, bulges = [(a, out), (a, at), (middle, deep), (b, at), (b, out)], [0.0] * 5
        case "round":
            if width >= 2 * depth - CONTACT:  # an arc through both ends and the bottom
                points, bulges = [(a, out), (a, at), (b, at), (b, out)], [0.0, 2 * depth / width * inward, 0.0, 0.0]
            else:
                straight = at + inward * (depth - width / 2)
                points, bulges = [(a, out), (a, straight), (b, straight), (b, out)], [0.0, inward * 1.0, 0.0, 0.0]
        case _:
            radius = r.read("radius")
            if not -CONTACT <= radius <= min(width / 2, depth) + CONTACT:
                r.fault(
                    "radius", f"a corner radius of {_shown(r, radius)}", f"from 0 to {_shown(r, min(width / 2, depth))}", _shown(r, radius)
                )
                radius = 0.0
            quarter = math.tan(math.pi / 8) * inward
            points = [(a, out), (a, deep - inward * radius), (a + radius, deep), (b - radius, deep), (b, deep - inward * radius), (b, out)]
            bulges = [0.0, quarter, 0.0, quarter, 0.0, 0.0]
            keep = [i for i in range(6) if math.dist(points[i], points[(i + 1) % 6]) > EPS]
            points, bulges = [points[i] for i in keep], [bulges[i] if radius > CONTACT else 0.0 for i in keep]
    # arcs that are drawn along the edge turn inward
    return [Cut(_drawn(across, points, [-b for b in bulges] if r.feature.shape != "vee" else bulges, r.owner), r.owner)]


def _trim(r: Reader) -> list[Operation]:
    """The side of a plane in the room is cut off; the plane is read as the board's group sees it."""
    f, values, blank = r.feature, r.values, r.blank
    group = blank.record.group
    scope = EntryScope(values, f.axis, blank.record.stock, group)
    at = values.read(f.at, r.where("at"), "length", scope, part=blank.key, owner=r.owner)
    seen = frame_of_group(values, group).inverse @ blank.in_room  # from (u, v, w) to how the group sees it
    row = seen.rows[AXES.index(f.axis)]
    sign = 1.0 if f.side == "high" else -1.0
    edge = edge_of_plane((sign * row[0], sign * row[1], sign * row[2]), sign * (at - row[3]), blank.thickness)
    if edge is None:
        r.fault("axis", "the plane is parallel to the board", "a plane that cuts the board", f.axis)
        return []
    cuts: list[Cut | Bevel] = cut_off(blank, edge, r.owner)
    return list(cuts)


def _shown(r: Reader, value: float) -> str:
    return format_length(value, r.values.document.display)
