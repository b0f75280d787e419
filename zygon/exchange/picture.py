"""A small picture of a design for lists: seen from front, right and above, far boards first. SVG."""

from __future__ import annotations

import math

from zygon.build.built import Built, BuiltPart
from zygon.design.document import Board
from zygon.geometry.contour import Contour

__all__ = ["picture"]

COS, SIN = math.cos(math.pi / 6), math.sin(math.pi / 6)
INK = "#1F2B37"


def picture(built: Built, width: float = 320, height: float = 220) -> str:
    """The design as an SVG ``width`` by ``height`` pixels; an empty design is an empty sheet of paper."""
    parts = [p for p in built.parts.values() if p.flat and p.flat.pieces and p.box]
    shapes: list[tuple[list[list[tuple[float, float]]], str]] = []
    for part in sorted(parts, key=_nearness):
        shapes += _board(part, built)
    if not shapes:
        return f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {width:g} {height:g}"></svg>'
    xs = [x for rings, _ in shapes for r in rings for x, _ in r]
    ys = [y for rings, _ in shapes for r in rings for _, y in r]
    scale = min((width - 24) / (max(xs) - min(xs)), (height - 24) / (max(ys) - min(ys)))
    dx = width / 2 - scale * (max(xs) + min(xs)) / 2
    dy = height / 2 - scale * (max(ys) + min(ys)) / 2
    out = [
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {width:g} {height:g}"><g stroke="{INK}" stroke-width="0.7" stroke-linejoin="round" fill-rule="evenodd">'
    ]
    for rings, fill in shapes:
        d = "".join("M" + "L".join(f"{x * scale + dx:.1f} {y * scale + dy:.1f}" for x, y in ring) + "Z" for ring in rings)
        out.append(f'<path fill="{fill}" d="{d}"/>')
    return "".join([*out, "</g></svg>"])


def _nearness(part: BuiltPart) -> float:
    low, high = part.reaches
    # far is left, back and low
    return (low[0] + high[0]) - (low[1] + high[1]) + (low[2] + high[2])


def _project(m, u: float, v: float, w: float) -> tuple[float, float]:
    x, y, z = (r[0] * u + r[1] * v + r[2] * w + r[3] for r in m[:3])
    return (x + y) * COS, -(z + (y - x) * SIN)


def _board(part: BuiltPart, built: Built) -> list:
    flat, m = part.flat, part.matrix
    tint = built.document.stocks[part.record.stock].tint if isinstance(part.record, Board) else "#cccccc"
    # face a looks front, right or up, and those are the faces that are seen
    t, way = flat.thickness, [row[2] for row in m[:3]]  # type: ignore[union-attr]
    looks = way[0] - way[1] + way[2] > 0  # to the right, to the front, up
    near, far = (t, 0.0) if looks else (0.0, t)
    shade = 0.84 * way[0] ** 2 + 0.94 * way[1] ** 2 + way[2] ** 2
    shapes = []
    for piece in flat.pieces:  # type: ignore[union-attr]
        for contour in (piece.outer, *piece.inner):
            points = contour.flatten(0.5).tolist()
            for p, q in zip(points, [*points[1:], points[0]], strict=True):
                quad = [
                    _project(m, p[0], p[1], far),
                    _project(m, q[0], q[1], far),
                    _project(m, q[0], q[1], near),
                    _project(m, p[0], p[1], near),
                ]
                shapes.append(([quad], _tone(tint, 0.72)))
        shapes.append(([[_project(m, p[0], p[1], near) for p in _points(c)] for c in (piece.outer, *piece.inner)], _tone(tint, shade)))
    return shapes


def _points(contour: Contour) -> list:
    return contour.flatten(0.5).tolist()


def _tone(colour: str, factor: float) -> str:
    return "#" + "".join(f"{round(int(colour[i : i + 2], 16) * factor):02x}" for i in (1, 3, 5))
