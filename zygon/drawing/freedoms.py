"""How a solved drawing can still move, and what of it is said twice: from the Jacobian of its equations, part by part.

The rank is that of a QR factorisation of the Jacobian's rows with pivots; what is left of the space are the movements. A relation whose rows depend on
those said before it follows from them.
"""

from __future__ import annotations

from collections.abc import Collection
from dataclasses import dataclass

import numpy as np
from scipy.linalg import qr
from scipy.sparse import csr_matrix, vstack

from zygon.drawing.solver import Solved, parts_of
from zygon.tolerance import SLACK, WITHIN

__all__ = ["Follows", "Freedoms", "Loose", "freedoms_of"]

#: Less of a row's length, once what it shares with the others is taken away, is nothing.
DEPENDS = 1e-7
#: The owner of rows that let a drawing stand that may lie anywhere.
ADRIFT = ""


@dataclass(frozen=True)
class Loose:
    """How a point can move: along one ``way`` (a unit vector), or every way where that is None."""

    way: tuple[float, float] | None = None


@dataclass(frozen=True)
class Follows:
    """A relation that holds already by others, by their keys in order."""

    relation: str
    by: tuple[str, ...]


@dataclass(frozen=True)
class Freedoms:
    """How many figures can still be said, the points that can move, the circles and arcs whose radius can change, and what is said twice."""

    count: int
    points: dict[str, Loose]
    radii: tuple[str, ...]
    twice: tuple[Follows, ...]


def freedoms_of(solved: Solved, adrift: Collection[str] = ()) -> Freedoms:
    """The freedoms of a drawing where it is. Along the ways in ``adrift`` ('x', 'y') where it lies as a whole counts for nothing: its first point stands."""
    u, rows = solved.unknowns, list(solved.equations.rows)
    slopes = solved.equations.slopes(solved.row)
    stands = [u.points[next(iter(u.points))]["xy".index(way)] for way in adrift] if u.points else []
    if stands:
        ones = csr_matrix((np.ones(len(stands)), (range(len(stands)), stands)), shape=(len(stands), u.free))
        slopes = csr_matrix(vstack((slopes, ones)))
        rows += [ADRIFT] * len(stands)
    of_rows, of_columns = parts_of(slopes)
    row_sets, column_sets = (_sets(labels) for labels in (of_rows, of_columns))
    count, points, radii, twice = 0, dict[str, Loose](), list[str](), list[Follows]()
    empty = np.zeros(0, int)
    for part, columns in column_sets.items():
        mine = row_sets.get(part, empty)
        dense = slopes[mine][:, columns].toarray()
        if len(mine):
            q, r, _ = qr(dense.T, pivoting=True)
            diagonal = np.abs(np.diag(r))
            rank = int((diagonal > DEPENDS * max(1.0, float(diagonal.max(initial=0.0)))).sum())
            free = q[:, rank:]
            if rank < len(mine):
                twice += _twice(dense, [rows[i] for i in mine], list(solved.equations.asked))
        else:
            free = np.eye(len(columns))
        count += free.shape[1]
        moved = np.zeros((u.free, free.shape[1]))
        moved[columns] = free
        for key, (i, j) in u.points.items():
            if of_columns[i] == part or of_columns[j] == part:
                loose = _loose(moved[[i, j]])
                if loose is not None:
                    points[key] = loose if key not in points else Loose()
        radii += [k for k, i in u.radii.items() if of_columns[i] == part and np.abs(moved[i]).max(initial=0.0) > SLACK]
    return Freedoms(count, {k: points[k] for k in u.points if k in points}, tuple(radii), tuple(twice))


def _sets(labels: np.ndarray) -> dict[int, np.ndarray]:
    found: dict[int, list[int]] = {}
    for i, label in enumerate(labels.tolist()):
        found.setdefault(label, []).append(i)
    return {k: np.array(v, int) for k, v in found.items()}


def _loose(moved: np.ndarray) -> Loose | None:
    """How a point moves whose x and y are moved by these, (2, k)."""
    if not moved.size:
        return None
    ways, sizes, _ = np.linalg.svd(moved, full_matrices=False)
    if sizes[0] <= SLACK:
        return None
    if len(sizes) > 1 and sizes[1] > SLACK:
        return Loose()
    x, y = (round(float(w), 9) + 0.0 for w in ways[:, 0])
    sign = -1.0 if x < -WITHIN or (abs(x) <= WITHIN and y < 0) else 1.0
    return Loose((sign * x, sign * y))


def _twice(dense: np.ndarray, owners: list[str], order: list[str]) -> list[Follows]:
    """What depends with all its rows on what was said before it, of the rows of one part."""
    rank = {k: n for n, k in enumerate(order)}
    turn = sorted(range(len(owners)), key=lambda i: len(rank) if owners[i] == ADRIFT else rank.get(owners[i], -1))
    basis = np.zeros((0, dense.shape[1]))
    kept: list[int] = []
    found: dict[str, set[str]] = {}
    adds = set[str]()
    for i in turn:
        row = dense[i]
        rest = row
        for _ in range(2):  # twice is enough (Parlett)
            rest = rest - basis.T @ (basis @ rest)
        long = float(np.linalg.norm(rest))
        if long > DEPENDS * max(1.0, float(np.linalg.norm(row))):
            basis = np.vstack((basis, rest / long))
            kept.append(i)
            adds.add(owners[i])
            continue
        shares = np.linalg.lstsq(dense[kept].T, row, rcond=None)[0] if kept else np.zeros(0)
        by = {owners[k] for k, share in zip(kept, shares, strict=True) if abs(share) > DEPENDS * 10}
        found.setdefault(owners[i], set()).update(o for o in by if o in rank and o != owners[i])
    return [Follows(k, tuple(sorted(by, key=rank.__getitem__))) for k, by in found.items() if k in rank and k not in adds]
