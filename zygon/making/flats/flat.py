"""Flats and solids of boards from blank and operations; kept by the hash of both, so that only what changed is made again."""

from __future__ import annotations

from dataclasses import replace
from typing import TypeVar

import numpy as np
import shapely

from zygon.design.parts.bought import Solid
from zygon.geometry.along_edge import along_edge
from zygon.geometry.boolean import Region, region_polygon, subtract, to_polygon
from zygon.geometry.contour import Contour
from zygon.geometry.mesh import Mesh, creases, extrude
from zygon.geometry.solid import Tool, carved, cone, cylinder, frustum, prism
from zygon.making.blanks.blank import Blank, blank_contours
from zygon.making.flats.along_edges import without_bands, worked_along
from zygon.making.flats.relief import Relief, relief_circles, within
from zygon.making.metal.folded_mesh import Net, folded_mesh, net_of
from zygon.making.result.built import FlatPart
from zygon.making.result.flat import Asked, Flat
from zygon.making.result.fold import Fold, mirrored, standing
from zygon.making.result.operations import Band, Bevel, Cut, EdgeBore, EdgeWork, Mark, Operation, Pocket, Side, Sink, SkewBore
from zygon.memo import Memo, digest
from zygon.tolerance import SAGITTA

__all__ = ["flat_of", "fold_net", "lying", "mesh_of", "turned_over"]

_FLATS = Memo(4000)
_MESHES = Memo(4000)
_NETS = Memo(500)
#: Corners of a pocket nearer to the board's edge than this (mm) lie in the open and need no relief.
OPEN = 0.05
#: A bit of a smaller radius (mm) leaves no corner that matters.
SMALLEST = 0.05
#: A pocket that takes less than this of a board (mm²) takes nothing.
SPECK = 1e-3

T = TypeVar("T")


def flat_of(blank: Blank, operations: list[Operation], relief: Relief | None = None) -> tuple[Flat, bool]:
    """The flat in the board's (u, v) as seen from face A, and whether it was made now rather than remembered."""
    outline = blank_contours(blank)
    thickness = round(blank.thickness, 7)
    solid = blank.record.solid
    alone = blank.record.loose == "removed"
    key = digest("flat", outline, operations, thickness, relief, blank.fold, *([solid] if solid else []), *(["alone"] if alone else []))

    def make() -> Flat:
        flat, fold = _flat(outline, operations, thickness, relief, key), blank.fold
        if alone and len(flat.pieces) > 1:  # what was cut loose is thrown away
            flat = replace(flat, pieces=(_kept(flat, fold),))
            fold = fold and standing(fold, [to_polygon(flat.pieces[0].outer)])
        return replace(flat, fold=fold, solid=solid)

    return _FLATS.get(key, make)


def _kept(flat: Flat, fold: Fold | None) -> Region:
    """The piece that is the part: the largest, of a folded part the one that the plate is in."""
    if fold is None:
        return flat.pieces[0]
    plate = shapely.union_all([to_polygon(c) for c in fold.faces[0].outline])
    return max(flat.pieces, key=lambda p: shapely.area(shapely.intersection(to_polygon(p.outer), plate)))


def _flat(outline: list[Contour], operations: list[Operation], thickness: float, relief: Relief | None, key: str) -> Flat:
    bevels = _of(operations, Bevel)
    # a bevel is cut straight through at its narrower face; the rest of its flanks is worked by hand
    cuts = [o.contour for o in _of(operations, Cut)] + [min((b.on_a, b.on_b), key=lambda c: abs(c.area)) for b in bevels]
    pieces = subtract(outline, cuts)
    pockets = _on_board(_of(operations, Pocket), outline)
    if relief and relief.radius > SMALLEST:
        circles = relief_circles([c for p in pieces for c in (p.outer, *p.inner)], relief)
        if circles:
            pieces = subtract(outline, [*cuts, *circles])
    merged: list[Pocket] = []
    for face, depth in sorted({(p.face, p.depth) for p in pockets}):
        merged += _merged([p for p in pockets if (p.face, p.depth) == (face, depth)], outline, relief)
    return Flat(
        tuple(pieces),
        _of(operations, Mark),
        thickness,
        key,
        tuple(merged),
        bevels,
        _of(operations, Sink),
        _of(operations, EdgeBore),
        _skew_on_board(_of(operations, SkewBore), pieces),
        worked_along(_of(operations, EdgeWork), pieces),
        worked_along(_of(operations, Band), pieces),
        asked=Asked(tuple(outline), tuple(operations)),
    )


def _of(operations: list[Operation], kind: type[T]) -> tuple[T, ...]:
    return tuple(o for o in operations if isinstance(o, kind))


def _on_board(pockets: tuple[Pocket, ...], outline: list[Contour]) -> list[Pocket]:
    """The pockets that take something of the board."""
    if not pockets:
        return []
    board = shapely.union_all([to_polygon(c) for c in outline])
    return [p for p in pockets if shapely.area(shapely.intersection(board, to_polygon(p.contour))) > SPECK]


def _skew_on_board(drills: tuple[SkewBore, ...], pieces: list[Region]) -> tuple[SkewBore, ...]:
    """What is drilled somewhere into the board: what a copy of a bore carries beside it drills nothing."""
    if not drills:
        return ()
    board = shapely.union_all([region_polygon(p, SAGITTA) for p in pieces])
    return tuple(d for d in drills if shapely.intersects(board, shapely.LineString((d.start[:2], d.end[:2]))))


def _merged(pockets: list[Pocket], outline: list[Contour], relief: Relief | None) -> list[Pocket]:
    """Pockets of one face and depth as the regions of their union, relieved, as far as there is board under them."""
    pockets, nested = _nested(pockets)
    contours, islands = [p.contour for p in pockets], _standing(pockets)
    union = subtract(contours, islands)
    if relief and relief.radius > SMALLEST:
        board = shapely.union_all([to_polygon(c) for c in outline])
        circles = relief_circles([c.reversed() for r in union for c in (r.outer, *r.inner)], relief, within(board, OPEN))
        if circles:
            union = subtract([*contours, *circles], islands)
    whats = {p.owner: p.what for p in pockets}
    first = pockets[0]
    found = []
    for r in union:
        owner = next((o for o in r.outer.owners if o in whats), first.owner)
        found.append(Pocket(r.outer, owner, first.face, first.depth, whats.get(owner, first.what), r.inner))
    return found + (_merged(nested, outline, relief) if nested else [])


def _nested(pockets: list[Pocket]) -> tuple[list[Pocket], list[Pocket]]:
    """Pockets that lie in no island of another, and those that do."""
    islands = [to_polygon(i) for p in pockets for i in p.islands]
    within = [bool(islands) and any(g.contains(to_polygon(p.contour)) for g in islands) for p in pockets]
    return [p for p, w in zip(pockets, within, strict=True) if not w], [p for p, w in zip(pockets, within, strict=True) if w]


def _standing(pockets: list[Pocket]) -> list[Contour]:
    """What is left standing of the islands in pockets, where others run over them."""
    found = []
    for p in pockets:
        others = [q.contour for q in pockets if q is not p] if p.islands else []
        for island in p.islands:
            over = [c for c in others if shapely.intersects(to_polygon(c), to_polygon(island))]
            found += [r.outer for r in subtract([island.wound(ccw=True)], over)] if over else [island.wound(ccw=True)]
    return found


def mesh_of(flat: Flat) -> list[Mesh]:
    """The solids of a flat's pieces in (u, v, w), w from face B to face A."""
    if flat.fold:
        fold = flat.fold
        return _MESHES.get(flat.digest, lambda: [folded_mesh(fold_net(flat, fold), flat.thickness, fold)] if flat.pieces else [])[0]
    if flat.solid:
        own = flat.solid
        return _MESHES.get(flat.digest, lambda: [_read_solid(own, flat)])[0]
    return _MESHES.get(flat.digest, lambda: [_solid(p, flat) for p in flat.pieces])[0]


def _read_solid(solid: Solid, flat: Flat) -> Mesh:
    """A shape that was read from a file, less the holes that go through it."""
    positions = np.array(solid.positions, dtype=float).reshape(-1, 3)
    triangles = np.array(solid.triangles, dtype=np.int64).reshape(-1, 3)
    body = Mesh(positions, triangles, ("face_a",) * len(triangles), np.empty((0, 2, 3)))
    holes = [prism((c,), -1.0, flat.thickness + 1.0, c.owners[0]) for c in flat.inside] + _askew(flat)
    body = carved(body, holes) if holes else body
    return replace(body, edges=creases(body))


def fold_net(flat: Flat, fold: Fold) -> Net:
    """The net of a folded part's flat, remembered with it."""
    return _NETS.get(flat.digest, lambda: net_of(flat.pieces, fold))[0]


def _solid(piece: Region, flat: Flat) -> Mesh:
    body = extrude(piece, flat.thickness)
    return body if flat.plain else carved(body, tools_of(flat))


def tools_of(flat: Flat) -> list[Tool]:
    """Everything short of a straight through cut as solids to take away, in (u, v, w)."""
    t = flat.thickness
    tools = []
    for p in flat.pockets:
        low, high = (t - p.depth, t + 1.0) if p.face == "a" else (-1.0, p.depth)
        tools.append(prism(p.contours, low, high, p.owner))
    tools += [frustum(b.on_b, b.on_a, t, b.owner) for b in flat.bevels]
    tools += [cone((s.u, s.v), s.diameter / 2, s.hole / 2, s.depth, t, s.face, s.owner) for s in flat.sinks]
    tools += [cylinder(*edge_bore_axis(b), b.diameter / 2, b.owner) for b in flat.bores]
    for e in flat.edges:
        tools += [tool for run in e.runs for tool in along_edge(run, e.shape, e.width, e.height, t, e.face, e.owner)]
    return tools + _askew(flat)


def _askew(flat: Flat) -> list[Tool]:
    return [cylinder(*d.axis, d.diameter / 2, d.owner) for d in flat.skew_bores]


def edge_bore_axis(bore: EdgeBore) -> tuple[tuple[float, float, float], tuple[float, float, float]]:
    """The axis of an edge bore in (u, v, w): where it enters, and its bottom."""
    into = bore.depth if bore.side == "low" else -bore.depth
    if bore.across == "u":
        return (bore.at, bore.along, bore.w), (bore.at + into, bore.along, bore.w)
    return (bore.along, bore.at, bore.w), (bore.along, bore.at + into, bore.w)


def lying(part: FlatPart) -> Flat:
    """The flat as it lies on the cutter: without the bands that are glued on, turned over where face b lies up."""
    bare = without_bands(part.flat)
    return bare if part.record.up == "a" else turned_over(bare)


def turned_over(flat: Flat) -> Flat:
    """The flat as seen from its other face, mirrored left to right about its own middle."""
    seen: Side = "b" if flat.seen == "a" else "a"
    if not flat.pieces:
        return replace(flat, seen=seen)
    x0, _, x1, _ = flat.bounds
    middle = x0 + x1

    def turn(c: Contour) -> Contour:
        return c.moved(middle, 0.0, mirrored=True)

    pieces = tuple(Region(turn(p.outer), tuple(turn(i) for i in p.inner)) for p in flat.pieces)
    return Flat(
        pieces,
        tuple(replace(m, contour=turn(m.contour)) for m in flat.engraved),
        flat.thickness,
        digest("over", flat.digest),
        tuple(p.mapped(turn) for p in flat.pockets),
        tuple(replace(b, on_a=turn(b.on_a), on_b=turn(b.on_b)) for b in flat.bevels),
        tuple(replace(s, u=middle - s.u) for s in flat.sinks),
        flat.bores,
        tuple(b.mirrored(middle) for b in flat.skew_bores),
        tuple(e.mapped(turn) for e in flat.edges),
        tuple(b.mapped(turn) for b in flat.bands),
        seen,
        mirrored(flat.fold, middle, turn, over=True) if flat.fold else None,
    )
