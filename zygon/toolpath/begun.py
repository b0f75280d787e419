"""Cuts that are begun where a maker said: the places on sheets, and the edit that says one."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Any

import shapely

from zygon.design.document import Document
from zygon.design.pointer import pointer
from zygon.errors import NestError
from zygon.geometry.contour import Contour, Point
from zygon.nest.design import StockNest
from zygon.nest.task import Placement
from zygon.tolerance import SAGITTA
from zygon.toolpath.chosen import chosen_for, words
from zygon.toolpath.pieces import Piece, pieces_of
from zygon.toolpath.starts import start_near

__all__ = ["begin_here", "begun_by_hand", "begun_on", "nearest_cut"]

#: A place that is no longer so near to a cut (mm) does not count: the part has changed.
REACH = 3.0
#: Whoever points at a cut is so near to it (mm).
POINTED = 12.0


def begun_by_hand(document: Document, pieces: Sequence[Piece], of: Sequence[int], contours: Sequence[Contour]) -> dict[int, Point]:
    """Where contours, each of a piece by number, are begun by hand, by their own number."""
    if not document.nest.begun:
        return {}
    found: dict[int, Point] = {}
    for n, piece in enumerate(pieces):
        own = [k for k, o in enumerate(of) if o == n]
        for place in begun_on(document, piece):
            k = nearest_cut([contours[i] for i in own], place)
            if k is not None:
                found[own[k]] = place
    return found


def begun_on(document: Document, piece: Piece) -> list[Point]:
    """The places by hand of a piece, where it lies on its sheet, mm."""
    p = piece.placement
    return [
        Contour(((b.x, b.y),), (), ("",), closed=False).moved(p.x, p.y, p.angle, p.mirrored).points[0]
        for b in document.nest.begun.values()
        if b.part == piece.key
    ]


def nearest_cut(contours: Sequence[Contour], place: Point, within: float = REACH) -> int | None:
    """Which of some closed contours a place is on, or nearest to; None where all are farther than ``within`` mm."""
    far = [(_far(c, place), k) for k, c in enumerate(contours) if c.closed]
    best = min(far, default=(math.inf, -1))
    return best[1] if best[0] <= within else None


def _far(contour: Contour, place: Point) -> float:
    ring = contour.flatten(SAGITTA)
    return float(shapely.distance(shapely.Point(place), shapely.LinearRing(ring)))


def begin_here(document: Document, nest: StockNest, number: int, place: Point) -> tuple[str, list[dict[str, Any]]]:
    """What the edit is called, and its patch, that begins the cut nearest to a place (mm) on sheet ``number`` (from 1) there, in all copies of its part.

    Raises NestError where there is none near, and as ``chosen_for`` and ``pieces_of``.
    """
    chosen_for(document, nest.plan.stock)
    found = []
    for piece in pieces_of(document, nest, number):
        cuts = [*piece.contours.inside, *piece.contours.outside]
        if (k := nearest_cut(cuts, place, POINTED)) is not None:
            found.append((_far(cuts[k], place), piece.key, piece.copy, piece, cuts, k))
    if not found:
        said = f"No cut is nearer than {POINTED:g} mm to that place"
        raise NestError(said, entry="place", value=list(place), rule="on a cut, or near one", code="no_cut")
    _, key, _, piece, cuts, k = min(found, key=lambda one: one[:3])
    on = start_near(cuts[k], place).at
    x, y = _on_flat(on, piece.placement)
    placed = dict(zip(_names(document, key), begun_on(document, piece), strict=True))
    old = [name for name, at in placed.items() if nearest_cut(cuts, at) == k]
    patch: list[dict[str, Any]] = [{"op": "remove", "path": pointer("nest", "begun", name)} for name in old]
    free = next(f"b{n}" for n in range(1, len(document.nest.begun) + 2) if f"b{n}" not in document.nest.begun)
    patch.append({"op": "add", "path": pointer("nest", "begun", free), "value": {"part": key, "x": round(x, 3), "y": round(y, 3)}})
    return f"Where a cut of {words(key)} is begun", patch


def _names(document: Document, part: str) -> list[str]:
    return [name for name, b in document.nest.begun.items() if b.part == part]


def _on_flat(place: Point, p: Placement) -> Point:
    """A place on the sheet as it is on the flat of what lies there."""
    c, s = math.cos(p.angle), math.sin(p.angle)
    dx, dy = place[0] - p.x, place[1] - p.y
    return (-1.0 if p.mirrored else 1.0) * (c * dx + s * dy), c * dy - s * dx
