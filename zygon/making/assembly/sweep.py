"""Sliding: the room that a part sweeps on a straight way along an axis, and whom it would run into.

Parts are taken as stacks of layers; two that only touch do not block one another. A way is swept whole, from the place at rest until
the part is clear of everything.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from itertools import combinations

import numpy as np
import shapely

from zygon.making.assembly.rays import ray_runs_into
from zygon.making.result.built import CHORDS, Built, BuiltJoint, MadePart, Seated
from zygon.making.solids.places import PlacedLayer, along_axes, common, placed_layers, stretches
from zygon.making.turned.body import TurnedBody
from zygon.memo import Memo, digest
from zygon.tolerance import EPS, WITHIN

__all__ = ["TOUCH", "WAYS", "Way", "blockers", "opposite", "runs_into", "solid_parts", "tolerance_of"]

#: The straight ways that are tried, as axis and sign; up first, since that is how most things are put in.
Way = tuple[str, int]
WAYS: tuple[Way, ...] = (("z", 1), ("x", 1), ("x", -1), ("y", 1), ("y", -1), ("z", -1))
#: A way that leads into a surface by less than this (as a cosine) slides along it.
INTO = 1e-3
#: Overlaps under this (mm) are contact, not collision.
TOUCH = 0.05
#: The same for parts at an angle.
OBLIQUE = 0.1

_SEEN = Memo(6000)
_BLOCKS = Memo(20000)


def opposite(way: Way) -> Way:
    """The way back."""
    return way[0], -way[1]


def solid_parts(built: Built) -> list[MadePart]:
    """The parts that take up room."""
    return [p for p in built.made.values() if not p.body.empty and not p.record.aside]


def _drawn(layer: PlacedLayer, way: Way, reach: float) -> PlacedLayer:
    """A layer drawn out along a way by ``reach`` mm."""
    axis, sign = way
    if axis == layer.normal:
        return replace(layer, low=layer.low - reach if sign < 0 else layer.low, high=layer.high + reach if sign > 0 else layer.high)
    move = np.array((reach * sign, 0.0) if axis == layer.u else (0.0, reach * sign))
    whole = max(b - a for a, b in (layer.bounds[layer.u], layer.bounds[layer.v])) <= reach
    pieces = [layer.outline]
    for polygon in shapely.get_parts(layer.outline):
        # on a way longer than the part every hole is passed over
        for ring in (polygon.exterior, *(() if whole else polygon.interiors)):
            p = shapely.get_coordinates(ring)
            quads = np.stack((p[:-1], p[1:], p[1:] + move, p[:-1] + move, p[:-1]), axis=1)
            made = shapely.polygons(quads)
            pieces += made[shapely.area(made) > EPS].tolist()
    return replace(layer, outline=shapely.union_all(shapely.make_valid(pieces)))


def _layer_runs_into(a: PlacedLayer, b: PlacedLayer, way: Way, reach: float, tolerance: float) -> bool:
    """Whether layer a, drawn out along a way, has a volume in common with layer b.

    For boards square to each other no outline has to be drawn out: along the axis that both planes share it is the stretches that grow;
    across b's slab, what lies before the slab on the way will pass through it.
    """
    axis, sign = way
    if a.normal in (b.normal, axis):
        return common(_drawn(a, way, reach), b, tolerance) > 0
    shared = next(x for x in "xyz" if x not in (a.normal, b.normal))
    theirs = stretches(b, a, shared, tolerance)
    if not theirs:
        return False
    if axis == shared:
        own = stretches(a, b, shared, tolerance)
        own = [(low, high + reach) if sign > 0 else (low - reach, high) for low, high in own]
    else:
        before = replace(b, low=b.low - reach) if sign > 0 else replace(b, high=b.high + reach)
        own = stretches(a, before, shared, tolerance)
    return any(min(h, oh) - max(low, ol) > tolerance for low, h in own for ol, oh in theirs)


def _meets(a: tuple, b: tuple, way: Way, reach: float, tolerance: float) -> bool:
    """Whether a's box, drawn out along a way, reaches into b's."""
    (al, ah), (bl, bh) = a, b
    k = "xyz".index(way[0])
    for i in range(3):
        low = al[i] - (reach if i == k and way[1] < 0 else 0.0)
        high = ah[i] + (reach if i == k and way[1] > 0 else 0.0)
        if min(high, bh[i]) - max(low, bl[i]) <= tolerance:
            return False
    return True


def silhouette(part: MadePart, axis: str) -> shapely.Geometry:
    """A part seen along an axis, taken in by half of what counts as contact, with x and y along the two other axes in their order."""
    key = digest("silhouette", part.body.digest, part.matrix, axis)

    def make() -> shapely.Geometry:
        seen = []
        one, other = (x for x in "xyz" if x != axis)
        for layer in placed_layers(part):
            if layer.normal == axis:
                seen.append(layer.outline)
                continue
            k = 0 if layer.u != axis else 1  # which of the outline's coordinates is seen
            for piece in shapely.get_parts(layer.outline):
                spans = {(layer.u, layer.v)[k]: (piece.bounds[k], piece.bounds[k + 2]), layer.normal: (layer.low, layer.high)}
                seen.append(shapely.box(spans[one][0], spans[other][0], spans[one][1], spans[other][1]))
        shape = shapely.buffer(shapely.union_all(seen), -TOUCH / 2, join_style="mitre")
        shapely.prepare(shape)
        return shape

    return _SEEN.get(key, make)[0]


def _beyond(a: MadePart, b: MadePart, way: Way) -> bool:
    """Whether b lies wholly beyond a on a way, so that only what is seen along the way matters."""
    k = "xyz".index(way[0])
    return b.reaches[0][k] >= a.reaches[1][k] if way[1] > 0 else b.reaches[1][k] <= a.reaches[0][k]


def runs_into(a: MadePart, b: MadePart, way: Way, reach: float, tolerance: float) -> bool:
    """Whether part a, moved along a way over ``reach`` mm, would run into part b."""
    if not _meets(a.reaches, b.reaches, way, reach, tolerance):
        return False
    if not (along_axes(a) and along_axes(b)):
        return _rays(a, b, way, reach, tolerance)
    if tolerance == TOUCH and _beyond(a, b, way):
        return bool(shapely.intersects(silhouette(a, way[0]), silhouette(b, way[0])))
    key = digest("into", a.body.digest, a.matrix, b.body.digest, b.matrix, way, reach, round(tolerance, 6))

    def make() -> bool:
        others = placed_layers(b)
        return any(_layer_runs_into(x, y, way, reach, tolerance) for x in placed_layers(a) for y in others)

    return _BLOCKS.get(key, make)[0]


def _rays(a: MadePart, b: MadePart, way: Way, reach: float, tolerance: float) -> bool:
    key = digest("rays", a.body.digest, a.matrix, b.body.digest, b.matrix, way, reach, round(tolerance, 6))
    # a press fit's bite, and slots that enclose a slanting tab, leave room only by the rays' own measure
    return _BLOCKS.get(key, lambda: ray_runs_into(a, b, "xyz".index(way[0]), way[1], reach, max(tolerance, OBLIQUE)))[0]


def tolerance_of(built: Built) -> dict[frozenset[str], float]:
    """How far the parts of a joint, or a rod and what it is pressed in, may bite into one another: a press fit's own bite."""
    seats = {pair: TOUCH + max(CHORDS, -s.gap) for pair, s in built.seated.items()}
    # holes in edges are drawn by fewer chords than what lies in them
    pressed = {pair: TOUCH + max(CHORDS, -fit) for pair, fit in built.bored.items()}
    return {**seats, **pressed, **{frozenset(p): TOUCH + j.bite for j in built.joints.values() for p in j.pairs}}


def pins_of(built: Built) -> dict[frozenset[str], str]:
    """The axis along which alone a pair comes apart, as its boards lie before they are turned."""
    return {frozenset(p): j.holds for j in built.joints.values() if j.holds for p in j.pairs}


def _laid(built: Built) -> dict[frozenset[str], BuiltJoint]:
    """The joint of each pair of members whose ends lie on one another."""
    return {frozenset(p): j for j in built.joints.values() for p in j.pairs if frozenset(p) in built.laid}


def _barred(built: Built, a: MadePart, b: MadePart, joint: BuiltJoint) -> list[Way]:
    """The ways on which a would run into b, by how b's surface looks where they lie on one another: told exactly, where chords would bite."""
    first = a if (a.key, b.key) in joint.pairs else b
    own = built.made[joint.a]
    turned = first.place @ own.place.inverse
    sign = 1.0 if first is a else -1.0
    looks = [turned.vector(n) for n in joint.normals]
    return [way for way in WAYS if any(sign * way[1] * n["xyz".index(way[0])] < -INTO for n in looks)]


def _beside_socket(built: Built, a: MadePart, seat: Seated) -> list[Way]:
    """The ways on which a would run into the other of a member and its socket: all but out of it. What slopes goes in along its socket, which is none of
    them and bars none."""
    member, connector = built.made[seat.member], built.made[seat.connector]
    sleeve = connector.body.of(seat.socket)  # type: ignore[attr-defined]
    m = np.array(connector.matrix)[:3, :3]
    out = m @ np.array(sleeve.place.vector((0.0, 0.0, 1.0))) * (1.0 if a is member else -1.0)
    k = int(np.abs(out).argmax())
    if abs(out[k]) < 1 - WITHIN:
        return []
    free = [("xyz"[k], 1 if out[k] > 0 else -1)]
    if seat.at == "through":
        free.append(opposite(free[0]))
    return [way for way in WAYS if way not in free]


def _in_its_hole(a: MadePart, b: MadePart) -> list[Way]:
    """The ways on which a would run into the other of a rod, or what is turned, and what is bored for it: all across the rod, and toward the ground of a blind hole."""
    rod, other = (a, b) if a.record.kind in ("rod", "turned") else (b, a)
    k = next((i for i in range(3) if abs(rod.matrix[i][2]) > 1 - WITHIN), None)
    if k is None:  # it lies askew, and slides along none of the axes
        return list(WAYS)
    ends = [rod.reaches[0][k] > other.reaches[0][k] + TOUCH, rod.reaches[1][k] < other.reaches[1][k] - TOUCH]
    ends = [own or wider for own, wider in zip(ends, _wider(rod, other, k), strict=True)]
    sign = 1 if rod is a else -1
    blind = [("xyz"[k], sign * (1 if high else -1)) for high, ends_in in enumerate(ends) if ends_in]
    return [way for way in WAYS if way[0] != "xyz"[k] or way in blind]


def _wider(turned: MadePart, board: MadePart, k: int) -> tuple[bool, bool]:
    """Whether what is turned is wider beyond a board's low and high end than within it, as a collar is, so that it does not go down, or up, through it."""
    body = turned.body
    if not isinstance(body, TurnedBody):
        return False, False
    sign, start = turned.matrix[k][2], turned.matrix[k][3]
    low, high = sorted((x - start) * sign for x in (board.reaches[0][k], board.reaches[1][k]))
    within = body.widest(low + TOUCH, high - TOUCH)
    below, above = body.widest(0.0, low) > within + TOUCH, body.widest(high, body.length) > within + TOUCH
    # what is wider above does not go down, and the other way round
    return (above, below) if sign > 0 else (below, above)


def along(part: MadePart, axis: str) -> str:
    """The room's axis along which a part's own lies; 'none' where it slants."""
    k = "xyz".index(axis)
    return next((w for w, row in zip("xyz", part.place.rows, strict=True) if abs(row[k]) > 1 - WITHIN), "none")


@dataclass(frozen=True)
class Blocks:
    """For every part and way, the keys of the parts that it would run into."""

    by: dict[tuple[str, Way], frozenset[str]]

    def of(self, key: str, way: Way, among: frozenset[str]) -> frozenset[str]:
        """The parts among some that stand in the way of one."""
        return self.by.get((key, way), frozenset()) & among


def blockers(built: Built, parts: list[MadePart]) -> Blocks:
    """Who stands in whose way. What dowels hold comes apart along them only."""
    lows = [min(p.reaches[0][i] for p in parts) for i in range(3)] if parts else [0.0] * 3
    highs = [max(p.reaches[1][i] for p in parts) for i in range(3)] if parts else [0.0] * 3
    reach = round(max(h - low for h, low in zip(highs, lows, strict=True)) + 10.0, 3)
    bites, pinned, laid = tolerance_of(built), pins_of(built), _laid(built)
    found: dict[tuple[str, Way], set[str]] = {}
    for a, b in combinations(parts, 2):
        pair = frozenset((a.key, b.key))
        if pair in laid:
            for way in _barred(built, a, b, laid[pair]):
                found.setdefault((a.key, way), set()).add(b.key)
                found.setdefault((b.key, opposite(way)), set()).add(a.key)
            continue
        if pair in built.seated:
            for way in _beside_socket(built, a, built.seated[pair]):
                found.setdefault((a.key, way), set()).add(b.key)
                found.setdefault((b.key, opposite(way)), set()).add(a.key)
            continue
        if pair in built.bored and {"rod", "turned"} & {a.record.kind, b.record.kind}:
            for way in _in_its_hole(a, b):
                found.setdefault((a.key, way), set()).add(b.key)
                found.setdefault((b.key, opposite(way)), set()).add(a.key)
            continue
        tolerance, held = bites.get(pair, TOUCH), pinned.get(pair)
        held = held and along(a, held)
        for way in WAYS:
            # a runs into b on its way just where b runs into a on the way back
            if (held and held != way[0]) or runs_into(a, b, way, reach, tolerance):
                found.setdefault((a.key, way), set()).add(b.key)
                found.setdefault((b.key, opposite(way)), set()).add(a.key)
    return Blocks({k: frozenset(v) for k, v in found.items()})
