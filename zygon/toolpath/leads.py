"""Leads: the way into a cut and out of it on the waste side, by what room there is. The beam goes along contours with material to its left, so that waste is to its right."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from types import MappingProxyType
from typing import Literal

import numpy as np
import shapely

from zygon.geometry.contour import Contour, Point
from zygon.toolpath.starts import Start, begun_at, start_near, starts_of

__all__ = ["Led", "led"]

#: How the shares of the wanted length are tried one after another; below the last there is no lead.
SHARES = (1.0, 0.5, 0.25)
#: A lead keeps half a kerf from what stays, less this (mm): its end lies on the path, which does just that. Of a kerf of nothing it ends on the part itself.
LESS = 0.02
QUARTER = -math.tan(math.pi / 8)
EIGHTH = -math.tan(math.pi / 16)


@dataclass(frozen=True)
class Led:
    """A contour with its leads as one open run; ``kind`` is that of its lead-in."""

    run: Contour
    kind: Literal["arc", "line", "none"]


@dataclass(frozen=True)
class _Way:
    """A lead-in: its start, the bulge with which it comes to the contour (0 for a line), and the start on the contour."""

    kind: Literal["arc", "line"]
    at: Point
    bulge: float
    start: Start
    length: float


def led(
    contours: Sequence[Contour],
    bodies: Sequence[shapely.Geometry],
    sheet: shapely.Geometry,
    kerf: float,
    kind: Literal["arc", "line", "none"],
    length: float,
    wanted: Literal["corner", "middle"],
    by_hand: Mapping[int, Point] = MappingProxyType({}),
) -> list[Led]:
    """Every contour with its leads: the longest that fits of the wanted kind, else a straight one, else none. ``by_hand`` are places of some by number, begun there and nowhere else.

    ``contours`` are compensated paths, wound so that material is on their left; ``bodies`` what stays, nominal, with its holes; ``sheet`` what is there to be cut.
    A lead fits where all that it burns away is waste and lies on the sheet.
    """
    starts = [[start_near(c, by_hand[k])] if k in by_hand else starts_of(c, wanted) for k, c in enumerate(contours)]
    found: list[Led | None] = [None] * len(contours)
    # by rings: a lead ends on its contour, outside all bodies, so that it gets into none without crossing a ring, and those of a plate full of holes are near few
    tree = shapely.STRtree(shapely.get_rings(shapely.get_parts(shapely.buffer(np.array(list(bodies)), -LESS, quad_segs=2))))
    shapely.prepare(sheet)
    kinds: tuple[Literal["arc", "line"], ...] = () if kind == "none" or length <= 0 else ("arc", "line") if kind == "arc" else ("line",)
    tries = [(k, share, n) for share in SHARES for n in range(max(map(len, starts), default=0)) for k in kinds]
    for k, share, n in tries:
        open_ = [i for i, f in enumerate(found) if f is None and n < len(starts[i])]
        if not open_:
            continue
        ways = [_way(k, starts[i][n], length * share) for i in open_]
        fits = _fit([_line(w) for w in ways], tree, sheet, kerf)
        for i, way, fit in zip(open_, ways, fits, strict=True):
            if fit:
                found[i] = Led(_joined(contours[i], way), way.kind)
    plain = [Led(begun_at(c, s[0]), "none") for c, s in zip(contours, starts, strict=True)]
    entered = [f or p for f, p in zip(found, plain, strict=True)]
    return _left(entered, tree, sheet, kerf, length)


def _way(kind: Literal["arc", "line"], start: Start, length: float) -> _Way:
    (x, y), (dx, dy) = start.at, start.leaves
    right = dy, -dx
    if kind == "line":
        # at half a right angle: it comes to the contour without a dwell mark on it
        c = length / math.sqrt(2)
        return _Way(kind, (x + c * (right[0] - dx), y + c * (right[1] - dy)), 0.0, start, length)
    r = 2 * length / math.pi
    return _Way(kind, (x + r * right[0] - r * dx, y + r * right[1] - r * dy), QUARTER, start, length)


def _line(way: _Way) -> np.ndarray:
    """Five places along a lead, (5, 2)."""
    (x, y), (dx, dy) = way.start.at, way.start.leaves
    if not way.bulge:
        share = np.linspace(0.0, 1.0, 5)[:, None]
        return np.array(way.at) * (1 - share) + np.array(way.start.at) * share
    r, turn = 2 * way.length / math.pi, np.linspace(math.pi / 2, 0.0, 5)[:, None]
    middle = np.array((x + r * dy, y - r * dx))
    return middle - r * (np.cos(turn) * np.array((dy, -dx)) + np.sin(turn) * np.array((dx, dy)))


def _fit(lines: Sequence[np.ndarray], tree: shapely.STRtree, sheet: shapely.Geometry, kerf: float) -> np.ndarray:
    """Whether each lead burns nothing that stays, and lies on the sheet."""
    strings = shapely.linestrings(np.array(lines))
    near, _ = tree.query(strings, predicate="dwithin", distance=kerf / 2)
    fits = shapely.covers(sheet, strings)
    fits[near] = False
    return fits


def _joined(contour: Contour, way: _Way) -> Contour:
    run = begun_at(contour, way.start)
    return Contour((way.at, *run.points), (way.bulge, *run.bulges), (run.owners[0], *run.owners), closed=False)


def _left(entered: Sequence[Led], tree: shapely.STRtree, sheet: shapely.Geometry, kerf: float, length: float) -> list[Led]:
    """With a short round way out of the cut, where there is room for it."""
    outs = []
    for e in entered:
        (x, y), (dx, dy) = e.run.points[-1], e.run.segments()[-1].tangents()[1]
        r = length / math.pi
        # an eighth of a circle to the right
        c, s = math.cos(math.pi / 4), math.sin(math.pi / 4)
        outs.append((x + r * (s * dx + (1 - c) * dy), y + r * (s * dy - (1 - c) * dx)))
    wanted = [i for i, e in enumerate(entered) if e.kind == "arc"]
    found = list(entered)
    if wanted:
        lines = [np.array([entered[i].run.points[-1], outs[i]]) for i in wanted]
        for i, fit in zip(wanted, _fit(lines, tree, sheet, kerf), strict=True):
            if fit:
                run = entered[i].run
                found[i] = Led(Contour((*run.points, outs[i]), (*run.bulges, EIGHTH), (*run.owners, run.owners[-1]), closed=False), "arc")
    return found
