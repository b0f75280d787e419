"""Screw theory: which small motions what touches and what carries allow, and what kind of motion each is.

A twist is six numbers, a turning ``w`` (radians) and the speed ``v`` (mm) of what lies at the room's origin: a point p moves by v + w x p (Hunt,
"Kinematic Geometry of Mechanisms", 1978; loops after Davies; both from memory).
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np
from scipy.optimize import linprog

__all__ = ["Screw", "allows", "axis_rows", "cone", "contact_row", "null_space", "read_off", "sliding_twist", "turning_twist"]

#: Less than this of a unit twist is none: what the linear programme leaves of a nought, ten times.
NOUGHT = 1e-6
#: A turn that goes on by no more than this a radian, in sizes of the design, is a plain turn.
PITCH = 1e-4


@dataclass(frozen=True)
class Screw:
    """A motion with one freedom: a turn about the line through ``at`` along ``way``, or a slide along it; ``ways`` are the signs in which it may go.

    ``pitch`` is how far (mm) it goes on for each radian of a turn.
    """

    kind: Literal["turns", "slides"]
    way: tuple[float, float, float]
    at: tuple[float, float, float]
    ways: tuple[int, ...] = (-1, 1)
    pitch: float = 0.0


def turning_twist(way: np.ndarray, at: np.ndarray) -> np.ndarray:
    """The twist (6,) of a turn about a line."""
    return np.concatenate((way, np.cross(at, way)))


def sliding_twist(way: np.ndarray) -> np.ndarray:
    """The twist (6,) of a slide."""
    return np.concatenate((np.zeros(3), way))


def contact_row(normal: np.ndarray, at: np.ndarray) -> np.ndarray:
    """The row (6,) that gives how fast what moves comes away, along a normal, from what it touches at a place."""
    return np.concatenate((np.cross(at, normal), normal))


def axis_rows(allowed: np.ndarray) -> np.ndarray:
    """Rows (m, 6) that are nought just for the twists which the columns of ``allowed`` (6, k) span."""
    return null_space(allowed.T).T


def null_space(rows: np.ndarray, size: float = 1.0) -> np.ndarray:
    """Columns (n, k), of length 1 and square to one another, for which all rows (m, n) are nought; ``size`` is what a row measures."""
    if not len(rows):
        return np.eye(rows.shape[1])
    _, values, ways = np.linalg.svd(rows, full_matrices=True)
    rank = int((values > NOUGHT * max(size, float(values[0]) if len(values) else 0.0)).sum())
    return np.asarray(ways[rank:].T)


def cone(never: np.ndarray, away: np.ndarray) -> np.ndarray:
    """The span (n, k) of all motions for which the rows ``never`` (m, n) stay nought and the rows ``away`` (k, n) do not fall under it.

    Of the rows of ``away`` those that no such motion lifts stay nought too; all others can be lifted together, since motions add up. One linear
    programme finds them: as many as can be are lifted by 1.
    """
    n = never.shape[1]
    if not len(away):
        return null_space(never)
    k = len(away)
    found = linprog(
        np.concatenate((np.zeros(n), -np.ones(k))),
        A_ub=np.hstack((-away, np.eye(k))),
        b_ub=np.zeros(k),
        A_eq=np.hstack((never, np.zeros((len(never), k)))) if len(never) else None,
        b_eq=np.zeros(len(never)) if len(never) else None,
        bounds=[(None, None)] * n + [(0.0, 1.0)] * k,
        method="highs",
    )
    lifted = found.x[n:] > 0.5 if found.status == 0 else np.zeros(k, dtype=bool)
    return null_space(np.vstack((never, away[~lifted])))


def allows(twist: np.ndarray, span: np.ndarray, away: np.ndarray) -> tuple[int, ...]:
    """The signs with which a twist may go: it lies in the span, and takes nothing into what it touches."""
    length = float(np.linalg.norm(twist))
    beyond = twist - span @ (span.T @ twist)
    if float(np.linalg.norm(beyond)) > NOUGHT * 10 * length:
        return ()
    speeds = away @ twist / length if len(away) else np.zeros(0)
    return tuple(s for s in (-1, 1) if bool((s * speeds > -NOUGHT * 10).all()))


def read_off(twist: np.ndarray) -> Screw:
    """What a twist is: a turn, with how far it goes on for a radian, or a slide. Lengths of the twist are in sizes of the design."""
    w, v = twist[:3], twist[3:]
    turning = float(np.linalg.norm(w))
    if turning < NOUGHT * 10 * max(float(np.linalg.norm(v)), 1.0):
        way = v / np.linalg.norm(v)
        return Screw("slides", _three(way), (0.0, 0.0, 0.0))
    way, at = w / turning, np.cross(w, v) / turning**2
    pitch = float(w @ v) / turning**2
    return Screw("turns", _three(way), _three(at), pitch=pitch if abs(pitch) > PITCH else 0.0)


def _three(a: np.ndarray) -> tuple[float, float, float]:
    x, y, z = (round(float(c), 9) + 0.0 for c in a)
    return x, y, z
