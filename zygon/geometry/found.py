"""What is found in a shape that was read: round holes and pins with their axes, and flat faces, each with a name.

All is found in the mesh: corners of a cylinder's chords lie on it, so that axis and diameter are as exact as the file. Cones, rounds that
are no full turn, and threads are left.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any

import numpy as np

from zygon.tolerance import CONTACT, SEEN, SLACK, TINY

__all__ = ["find", "names_kept"]

#: Neighbouring chords of one cylinder turn by less than this (radians); a cap or a countersink turns by more.
SMOOTH = 0.75
#: How far corners may lie off a cylinder (mm, and as a share of its radius).
OFF, SHARE = 0.01, 0.002
#: A full turn, but for rounding of chords (radians).
TURN = math.radians(300)
#: Faces under this share of the largest one are too small to lie on anything.
SMALL = 0.02
#: A triangle that is no more square to an axis than this is passed by it; how near to its rim a hit still counts.
PARALLEL = 1e-9
#: At most so many of each are named, the largest first.
MOST = 60
#: What lies within this of where it lay (share of the shape's size) keeps its name in a newer file.
MOVED = 0.15


@dataclass(frozen=True)
class _Round:
    low: np.ndarray
    high: np.ndarray
    across: float
    inner: bool


def find(positions: np.ndarray, triangles: np.ndarray) -> dict[str, list[dict[str, Any]]]:
    """Holes, pins ('outer') and flat faces of a closed mesh, (n, 3) mm and (m, 3), as plain records of ``FoundHole`` and ``FoundFace``."""
    corners = positions[triangles]
    cross = np.cross(corners[:, 1] - corners[:, 0], corners[:, 2] - corners[:, 0])
    double = np.linalg.norm(cross, axis=1)
    fine = double > TINY
    normals = np.zeros_like(cross)
    normals[fine] = cross[fine] / double[fine, None]
    smooth, flat = _groups(triangles, normals)
    rounds = [r for group in smooth if (r := _round(positions, triangles[group], normals[group], double[group] / 2)) is not None]
    rounds.sort(key=lambda r: (not r.inner, round(-r.across, 3), tuple(np.round(r.low, 3))))
    holes = []
    for kind in (True, False):
        for n, r in enumerate([r for r in rounds if r.inner == kind][:MOST], 1):
            low, high = (_closed(corners, r, way) for way in (-1, 1)) if r.inner else (False, False)
            ends, opens = (r.high, r.low) if high and not low else (r.low, r.high)
            name = f"hole_{n}" if r.inner else f"round_{n}"
            said = {"name": name, "opens": _three(opens), "ends": _three(ends), "across": round(r.across, 3), "through": not (low or high)}
            holes.append({**said, **({} if r.inner else {"outer": True})})
    return {"holes": holes, "faces": _flats(corners, normals, double / 2, flat)}


def _three(p: np.ndarray) -> list[float]:
    return [round(float(x), 4) + 0.0 for x in p]


def _groups(triangles: np.ndarray, normals: np.ndarray) -> tuple[list[np.ndarray], list[np.ndarray]]:
    """Triangles that go over into one another smoothly, and those that lie in one plane, as arrays of their numbers."""
    from scipy.sparse import coo_matrix
    from scipy.sparse.csgraph import connected_components

    n = len(triangles)
    sides = np.sort(np.concatenate((triangles[:, [0, 1]], triangles[:, [1, 2]], triangles[:, [2, 0]])), axis=1)
    of = np.tile(np.arange(n), 3)
    order = np.lexsort((sides[:, 1], sides[:, 0]))
    same = (sides[order][1:] == sides[order][:-1]).all(axis=1)
    a, b = of[order][:-1][same], of[order][1:][same]
    turned = np.arccos(np.clip(np.einsum("ij,ij->i", normals[a], normals[b]), -1.0, 1.0))

    def joined(most: float) -> list[np.ndarray]:
        kept = turned < most
        graph = coo_matrix((np.ones(kept.sum()), (a[kept], b[kept])), shape=(n, n))
        number, labels = connected_components(graph, directed=False)
        by = np.argsort(labels, kind="stable")
        return np.split(by, np.searchsorted(labels[by], np.arange(1, number)))

    return joined(SMOOTH), joined(SLACK)


def _round(positions: np.ndarray, triangles: np.ndarray, normals: np.ndarray, areas: np.ndarray) -> _Round | None:
    """The cylinder that a group of triangles is; None where it is none, or no full turn."""
    if len(triangles) < 6:
        return None
    _, spread, ways = np.linalg.svd(normals * np.sqrt(areas / areas.sum())[:, None], full_matrices=False)
    if spread[2] > SEEN or spread[1] < 0.3:
        return None
    axis = ways[2] * (1.0 if ways[2][np.abs(ways[2]).argmax()] > 0 else -1.0)
    u = ways[0] - axis * (ways[0] @ axis)
    u /= np.linalg.norm(u)
    v = np.cross(axis, u)
    points = positions[np.unique(triangles)]
    x, y, along = points @ u, points @ v, points @ axis
    fit, *_ = np.linalg.lstsq(np.column_stack((2 * x, 2 * y, np.ones(len(x)))), x * x + y * y, rcond=None)
    radius = math.sqrt(max(fit[2] + fit[0] ** 2 + fit[1] ** 2, 0.0))
    if radius < CONTACT or np.abs(np.hypot(x - fit[0], y - fit[1]) - radius).max() > max(OFF, SHARE * radius):
        return None
    angles = np.sort(np.arctan2(normals @ v, normals @ u))
    if 2 * math.pi - max(np.diff(angles).max(initial=0.0), angles[0] + 2 * math.pi - angles[-1]) < TURN:
        return None
    middle = positions[triangles].mean(axis=1)
    out = (middle @ u - fit[0]) * (normals @ u) + (middle @ v - fit[1]) * (normals @ v)
    at = u * fit[0] + v * fit[1]
    return _Round(at + axis * along.min(), at + axis * along.max(), 2 * radius, bool(out.mean() < 0))


def _closed(corners: np.ndarray, r: _Round, way: int) -> bool:
    """Whether a hole is closed at its low (-1) or high (1) end: something crosses its axis not far behind it."""
    axis = r.high - r.low
    long = float(np.linalg.norm(axis))
    axis = axis / long * way
    start = (r.low + r.high) / 2
    e1, e2 = corners[:, 1] - corners[:, 0], corners[:, 2] - corners[:, 0]
    p = np.cross(axis, e2)
    det = np.einsum("ij,ij->i", e1, p)
    seen = np.abs(det) > PARALLEL
    t, det = start - corners[seen, 0], det[seen]
    u = np.einsum("ij,ij->i", t, p[seen]) / det
    q = np.cross(t, e1[seen])
    v = (q @ axis) / det
    far = np.einsum("ij,ij->i", e2[seen], q) / det
    hit = (u >= -PARALLEL) & (v >= -PARALLEL) & (u + v <= 1 + PARALLEL) & (far > CONTACT)
    return bool(hit.any() and far[hit].min() < long / 2 + r.across)


def _flats(corners: np.ndarray, normals: np.ndarray, areas: np.ndarray, groups: list[np.ndarray]) -> list[dict[str, Any]]:
    whole = [(float(areas[g].sum()), g) for g in groups]
    largest = max((a for a, _ in whole), default=0.0)
    chosen = [(a, g) for a, g in whole if a >= SMALL * largest and a > 0]
    found = []
    for area, g in chosen:
        middle = (corners[g].mean(axis=1) * areas[g][:, None]).sum(axis=0) / area
        found.append((area, _three(middle), _three(normals[g[0]])))
    found.sort(key=lambda f: (-round(f[0], 3), f[1]))
    return [{"name": f"face_{n}", "at": at, "looks": looks} for n, (_, at, looks) in enumerate(found[:MOST], 1)]


def names_kept(old: dict[str, Any], new: dict[str, Any]) -> dict[str, Any]:
    """A newer shape whose holes, pins and faces have the names of those of the older one that they lie nearest to; what is new has names of its own."""
    far = MOVED * max(*old["size"], *new["size"])
    made = dict(new)
    for field, alike in (("holes", _hole_alike), ("faces", _face_alike)):
        before, after = list(old.get(field, [])), [dict(x) for x in new.get(field, [])]
        pairs = sorted(
            (d, i, j) for i, a in enumerate(before) for j, b in enumerate(after) if (d := alike(a, b, old, new)) is not None and d <= far
        )
        named: dict[int, str] = {}
        used: set[int] = set()
        for _, i, j in pairs:
            if j not in named and i not in used:
                named[j] = before[i]["name"]
                used.add(i)
        taken = {x["name"] for x in before}
        for j, record in enumerate(after):
            if j in named:
                record["name"] = named[j]
                continue
            stem = record["name"].rpartition("_")[0]
            record["name"] = next(n for k in range(1, 10_000) if (n := f"{stem}_{k}") not in taken)
            taken.add(record["name"])
        made[field] = after
    return made


def _hole_alike(a: dict[str, Any], b: dict[str, Any], old: dict[str, Any], new: dict[str, Any]) -> float | None:
    """How far apart two holes lie, as shares of the shapes' sizes where those differ; None where they do not run along one way or one of them is a pin."""
    if a.get("outer", False) != b.get("outer", False):
        return None
    ways = [np.subtract(x["ends"], x["opens"]) for x in (a, b)]
    if abs(abs(float(ways[0] @ ways[1])) / (np.linalg.norm(ways[0]) * np.linalg.norm(ways[1])) - 1) > SEEN:
        return None
    return _apart(np.add(a["ends"], a["opens"]) / 2, np.add(b["ends"], b["opens"]) / 2, old, new) + abs(a["across"] - b["across"])


def _face_alike(a: dict[str, Any], b: dict[str, Any], old: dict[str, Any], new: dict[str, Any]) -> float | None:
    if np.dot(a["looks"], b["looks"]) < 1 - SEEN:
        return None
    return _apart(np.array(a["at"]), np.array(b["at"]), old, new)


def _apart(a: np.ndarray, b: np.ndarray, old: dict[str, Any], new: dict[str, Any]) -> float:
    """In mm of the older shape: the nearer of as they lie, and as they lie within their shapes' sizes."""
    scaled = b * np.array(old["size"]) / np.array(new["size"])
    return float(min(np.linalg.norm(a - b), np.linalg.norm(a - scaled)))
