"""What parts take up of the room, as boxes along its axes: exactly where they lie along them, as a staircase round what slopes or is curved."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import combinations

import numpy as np
import shapely

from zygon.geometry.boolean import region_polygon
from zygon.geometry.motion import Motion
from zygon.making.result.body import Corners
from zygon.making.result.built import Built, FlatPart, MadePart
from zygon.making.result.fold import bend_points, face_motions
from zygon.tolerance import CONTACT, DISPLAY_SAGITTA

__all__ = ["Taken", "taken"]

#: So many steps round what slopes or is curved.
STEPS = 24


@dataclass(frozen=True)
class Taken:
    """``low`` and ``high`` (n, 3) in mm of each box, ``parts`` whose it is (the instance key), and ``exact`` where its sides are faces of the part."""

    low: np.ndarray
    high: np.ndarray
    parts: tuple[str, ...]
    exact: np.ndarray

    def of(self, part: str) -> np.ndarray:
        """Which boxes are a part's."""
        return np.array([p == part for p in self.parts], bool)


def taken(built: Built) -> Taken:
    """What all parts of a design take up, but for those that lie aside."""
    boxes = [(*box, key) for key, part in built.made.items() if not part.record.aside and not part.body.empty for box in _boxes(part)]
    low, high = (np.array([b[i] for b in boxes], float).reshape(-1, 3) for i in (0, 1))
    return Taken(low, high, tuple(b[3] for b in boxes), np.array([b[2] for b in boxes], bool))


def _boxes(part: MadePart) -> list[tuple[np.ndarray, np.ndarray, bool]]:
    if not isinstance(part, FlatPart):
        low, high = part.reaches
        return [(np.array(low), np.array(high), True)]
    if part.flat.fold:
        return _folded(part)
    if part.record.outline:
        return _outlined(part)
    return _standing((part.span_box.low, part.span_box.high), part.place)


def _folded(part: FlatPart) -> list[tuple[np.ndarray, np.ndarray, bool]]:
    fold, t = part.fold, part.flat.thickness
    room = _motion(part)
    motions = [room @ m for m in face_motions(fold)]
    found = []
    for face, motion in zip(fold.faces, motions, strict=True):
        for x0, y0, x1, y1 in (c.bounds for c in face.outline):
            found += _standing(((x0, y0, 0.0), (x1, y1, t)), motion)
    for bend in fold.bends:
        n, across = np.array(bend.outward), np.linspace(0.0, bend.width, 5)
        strip = np.vstack([np.array(p) + np.outer(across, n) for p in (bend.start, bend.end)])
        points = np.vstack([bend_points(bend, motions[bend.parent], strip, w) for w in (0.0, t)])
        found.append((points.min(0), points.max(0), False))
    return found


def _outlined(part: FlatPart) -> list[tuple[np.ndarray, np.ndarray, bool]]:
    """An outline of its own in strips between its corners, or in equal ones where it has many."""
    room, t = _motion(part), part.flat.thickness
    found = []
    for region in part.flat.pieces:
        shape = region_polygon(region, DISPLAY_SAGITTA)
        x0, _, x1, _ = shape.bounds
        cuts = np.unique(np.round(shapely.get_coordinates(shape)[:, 0], 5))
        if len(cuts) > STEPS:
            cuts = np.linspace(x0, x1, STEPS + 1)
        for a, b in zip(cuts[:-1], cuts[1:], strict=True):
            strip = shapely.intersection(shape, shapely.box(a, -1e6, b, 1e6))
            for bounds in (p.bounds for p in shapely.get_parts(strip) if p.area > 0):
                found += _standing(((bounds[0], bounds[1], 0.0), (bounds[2], bounds[3], t)), room)
    return found


def _motion(part: FlatPart) -> Motion:
    a, b, c, _ = part.matrix
    return Motion((_row(a), _row(b), _row(c)))


def _row(row: Sequence[float]) -> tuple[float, float, float, float]:
    x, y, z, shift = row
    return x, y, z, shift


def _standing(box: Corners, motion: Motion) -> list[tuple[np.ndarray, np.ndarray, bool]]:
    """A box where a motion takes it: one where its sides lie along the axes still, else a row of them round it."""
    ends = np.array(box)
    corners = motion.points(np.array([[ends[i >> k & 1][k] for k in range(3)] for i in range(8)]))
    low, high = corners.min(0), corners.max(0)
    if motion.square:
        return [(low, high, True)]
    rows = [_sliced(corners, k) for k in range(3) if high[k] - low[k] > CONTACT]
    return [(a, b, False) for a, b in min(rows, key=lambda row: sum(float(np.prod(b - a)) for a, b in row))]


def _sliced(corners: np.ndarray, k: int) -> list[tuple[np.ndarray, np.ndarray]]:
    """The boxes round equal slices across an axis of a body with these corners, which has no dents."""
    edges = np.array([(a, b) for a, b in combinations(corners, 2) if abs(a[k] - b[k]) > CONTACT])
    cuts = np.linspace(corners[:, k].min(), corners[:, k].max(), STEPS + 1)
    found = []
    for first, last in zip(cuts[:-1], cuts[1:], strict=True):
        within = [corners[(corners[:, k] >= first - CONTACT) & (corners[:, k] <= last + CONTACT)]]
        for cut in (first, last):
            share = (cut - edges[:, 0, k]) / (edges[:, 1, k] - edges[:, 0, k])
            on = (share >= 0) & (share <= 1)
            within.append(edges[on, 0] + share[on, None] * (edges[on, 1] - edges[on, 0]))
        points = np.vstack(within)
        found.append((points.min(0), points.max(0)))
    return found
