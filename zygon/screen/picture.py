"""A small picture of a design for lists: seen from front, right and above, far boards first. SVG."""

from __future__ import annotations

import itertools
import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np
import shapely
from shapely.geometry import Polygon

from zygon.design.document import Document
from zygon.geometry.boolean import Region
from zygon.geometry.motion import Motion
from zygon.making.kinds.registry import layers_of_part, meshes_of
from zygon.making.pipeline import build
from zygon.making.result.built import Built, FlatPart, MadePart
from zygon.making.result.fold import FoldBend, bend_points, face_motions

__all__ = ["picture", "starter_shown"]

COS, SIN = math.cos(math.pi / 6), math.sin(math.pi / 6)
INK = "#1F2B37"
#: Towards the eye: to the right, the front and up.
EYE = np.array([1.0, -1.0, 1.0])
#: Boxes that reach into each other by less than this (mm) only touch.
TOUCH = 0.5
#: Flat strips that a bend is drawn in.
STRIPS = 3
#: Rings on the paper, fill and stroke.
Shape = tuple[list[list[tuple[float, float]]], str, str]


def picture(built: Built, width: float = 320, height: float = 220) -> str:
    """The design as an SVG ``width`` by ``height`` pixels; an empty design is an empty sheet of paper."""
    parts = [p for p in built.made.values() if not p.body.empty]
    shapes = [shape for item in _far_first([i for part in parts for i in _items(part, built)]) for shape in item.shapes]
    if not shapes:
        return f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {width:g} {height:g}"></svg>'
    xs = [x for rings, _, _ in shapes for r in rings for x, _ in r]
    ys = [y for rings, _, _ in shapes for r in rings for _, y in r]
    scale = min((width - 24) / (max(xs) - min(xs)), (height - 24) / (max(ys) - min(ys)))
    dx = width / 2 - scale * (max(xs) + min(xs)) / 2
    dy = height / 2 - scale * (max(ys) + min(ys)) / 2
    out = [
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {width:g} {height:g}"><g stroke="{INK}" stroke-width="0.7" stroke-linejoin="round" fill-rule="evenodd">'
    ]
    for rings, fill, stroke in shapes:
        d = "".join("M" + "L".join(f"{x * scale + dx:.1f} {y * scale + dy:.1f}" for x, y in ring) + "Z" for ring in rings)
        own = "" if stroke == INK else f' stroke="{stroke}"'
        out.append(f'<path fill="{fill}"{own} d="{d}"/>')
    return "".join([*out, "</g></svg>"])


def starter_shown(document: Document) -> dict[str, Any]:
    """A document that is about to begin: its ``picture``, how many ``parts`` it has, its ``size`` over all in mm."""
    built = build(document)
    reaches = [p.reaches for p in built.made.values() if not p.body.empty]
    size = [max(r[1][i] for r in reaches) - min(r[0][i] for r in reaches) for i in range(3)] if reaches else []
    return {"picture": picture(built), "parts": len(built.made), "size": size}


@dataclass(frozen=True)
class _Item:
    """What is drawn as one, with the room that it takes: low and high corner (3,)."""

    low: np.ndarray
    high: np.ndarray
    shapes: list[Shape]


def _far_first(items: list[_Item]) -> list[_Item]:
    """In the order of drawing: what lies wholly left of, behind or under another goes before it, and otherwise what is farther by its middle."""
    if not items:
        return []
    low, high = np.array([i.low for i in items]), np.array([i.high for i in items])
    # towards the eye along each axis, so that less is farther
    near, far = np.where(EYE > 0, high, -low), np.where(EYE > 0, low, -high)
    before = (near[:, None, :] <= far[None, :, :] + TOUCH).any(axis=2)
    before &= ~before.T
    corners = np.array([[_on_paper(p) for p in itertools.product(*zip(i.low, i.high, strict=True))] for i in items])
    p0, p1 = corners.min(axis=1), corners.max(axis=1)
    before &= ((p0[:, None, :] < p1[None, :, :]) & (p0[None, :, :] < p1[:, None, :])).all(axis=2)
    np.fill_diagonal(before, False)
    middle = ((low + high) @ EYE).tolist()
    waits, order, left = before.sum(axis=0), [], set(range(len(items)))
    while left:
        # where boxes go round in a ring, the farthest goes first
        k = min(left, key=lambda i: (waits[i] > 0, middle[i], i))
        left.discard(k)
        order.append(items[k])
        waits = waits - before[k]
    return order


def _project(m, u: float, v: float, w: float) -> tuple[float, float]:
    return _on_paper([r[0] * u + r[1] * v + r[2] * w + r[3] for r in m[:3]])


def _on_paper(point) -> tuple[float, float]:
    x, y, z = point
    return float((x + y) * COS), float(-(z + (y - x) * SIN))


def _items(part: MadePart, built: Built) -> list[_Item]:
    """A part, or the faces and bends of a folded one."""
    if part.key in built.flats:
        return _of_flat(built.flats[part.key], built)
    tint, matrix = built.document.stock_of(part.record).tint, np.array(part.matrix, dtype=float)
    low, high = part.reaches
    shapes = []
    for layer in layers_of_part(part):
        rings = [[np.array(r.coords)[:-1] for r in (p.exterior, *p.interiors)] for p in shapely.get_parts(layer.outline)]
        lifted = matrix.copy()
        lifted[:3, 3] += matrix[:3, 2] * layer.low
        shapes += _slab(rings, lifted, layer.high - layer.low, tint)
    if not shapes:  # what is bent in space is seen as its facets are
        shapes = _facets(part, matrix, tint)
    return [_Item(np.array(low), np.array(high), _round(shapes))]


def _facets(part: MadePart, matrix: np.ndarray, tint: str) -> list[Shape]:
    """The triangles of a part's meshes that look at the eye."""
    found: list[Shape] = []
    for mesh in meshes_of(part):
        corners = _in_room(matrix, mesh.positions)[mesh.triangles]
        for triangle in corners:
            way = np.cross(triangle[1] - triangle[0], triangle[2] - triangle[0])
            long = float(np.linalg.norm(way))
            if long and _depth(way) > 0:
                fill = _tone(tint, _shade(way / long))
                found.append(([[_on_paper(p) for p in triangle]], fill, fill))
    return found


def _round(shapes: list[Shape]) -> list[Shape]:
    """What is made of many thin layers is drawn as one body: ink goes round it and not round each layer."""
    seen = shapely.union_all([shapely.make_valid(Polygon(r[0], r[1:])) for r, _, _ in shapes])
    rounds = [list(p.exterior.coords)[:-1] for p in shapely.get_parts(seen) if p.geom_type == "Polygon"]
    return [*((rings, fill, fill) for rings, fill, _ in shapes), (rounds, "none", INK)]


def _of_flat(part: FlatPart, built: Built) -> list[_Item]:
    tint = built.document.stock_of(part.record).tint
    flat, matrix = part.flat, np.array(part.matrix, dtype=float)
    if flat.fold is None:
        low, high = part.reaches
        return [_Item(np.array(low), np.array(high), _slab(_rings(flat.pieces), matrix, flat.thickness, tint))]
    fold, found = flat.fold, []
    motions = face_motions(fold)
    sheet = shapely.union_all([Polygon(r[0], r[1:]) for r in _rings(flat.pieces)])
    shapely.prepare(sheet)
    for face, motion in zip(fold.faces, motions, strict=True):
        outline = shapely.union_all([Polygon(c.flatten(0.5)) for c in face.outline])
        pieces = [p for p in shapely.get_parts(shapely.intersection(sheet, outline)) if p.geom_type == "Polygon"]
        if not pieces:
            continue
        rings = [[np.array(r.coords)[:-1] for r in (p.exterior, *p.interiors)] for p in pieces]
        placed = matrix @ np.vstack((np.array(motion.rows), (0, 0, 0, 1)))
        points = np.vstack([np.column_stack((r, np.full(len(r), w))) for p in rings for r in p for w in (0.0, flat.thickness)])
        points = _in_room(placed, points)
        found.append(_Item(points.min(axis=0), points.max(axis=0), _slab(rings, placed, flat.thickness, tint)))
    for bend in fold.bends:
        found += _strips(bend, motions[bend.parent], matrix, flat.thickness, tint)
    return found


def _rings(pieces: Sequence[Region]) -> list[list[np.ndarray]]:
    """The rings of pieces, outer ones first, as points (n, 2)."""
    return [[c.flatten(0.5) for c in (piece.outer, *piece.inner)] for piece in pieces]


def _depth(point) -> float:
    """How near a point of the room is to the eye."""
    return float(np.dot(point, EYE))


def _strips(bend: FoldBend, parent: Motion, matrix: np.ndarray, thickness: float, tint: str) -> list[_Item]:
    """A bend as a few flat strips, the side of each that is seen."""
    found = []
    ends = np.array([bend.start, bend.end])
    lines = [
        [_in_room(matrix, bend_points(bend, parent, ends + np.array(bend.outward) * bend.width * i / STRIPS, w)) for w in (0.0, thickness)]
        for i in range(STRIPS + 1)
    ]
    for one, other in zip(lines, lines[1:], strict=False):
        way = np.cross(other[1][0] - one[1][0], one[1][1] - one[1][0])
        way = way / (np.linalg.norm(way) or 1.0) * (-1.0 if np.dot(way, one[1][0] - one[0][0]) < 0 else 1.0)
        side = 1 if _depth(way) > 0 else 0
        quad = [one[side][0], one[side][1], other[side][1], other[side][0]]
        fill = _tone(tint, _shade(way))
        found.append(_Item(np.min(quad, axis=0), np.max(quad, axis=0), [([[_on_paper(p) for p in quad]], fill, fill)]))
    return found


def _in_room(matrix: np.ndarray, points: np.ndarray) -> np.ndarray:
    return points @ matrix[:3, :3].T + matrix[:3, 3]


def _shade(way) -> float:
    return float(0.84 * way[0] ** 2 + 0.94 * way[1] ** 2 + way[2] ** 2)


def _slab(pieces: list[list[np.ndarray]], m: np.ndarray, thickness: float, tint: str) -> list[Shape]:
    """Flat pieces with their thickness; face a looks front, right or up, and those are the faces that are seen."""
    way = m[:3, 2]
    near, far = (thickness, 0.0) if _depth(way) > 0 else (0.0, thickness)
    shapes: list[Shape] = []
    for piece in pieces:
        for ring in piece:
            for p, q in zip(ring, np.roll(ring, -1, axis=0), strict=True):
                quad = [
                    _project(m, p[0], p[1], far),
                    _project(m, q[0], q[1], far),
                    _project(m, q[0], q[1], near),
                    _project(m, p[0], p[1], near),
                ]
                shapes.append(([quad], _tone(tint, 0.72), INK))
        rings = [[_project(m, p[0], p[1], near) for p in ring] for ring in piece]
        shapes.append((rings, _tone(tint, _shade(way)), INK))
    return shapes


def _tone(colour: str, factor: float) -> str:
    return "#" + "".join(f"{round(int(colour[i : i + 2], 16) * factor):02x}" for i in (1, 3, 5))
