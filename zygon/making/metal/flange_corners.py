"""Corners: how far two legs that meet may reach, as half planes in each one's own plane.

Both legs are cut square to the sheet. Closed, the inner edges of their ends face each other over the gap; where one covers, it ends flush
with the outer face of the other, which stops short of it by the gap. Legs that lie in one plane meet in a mitre, and so do lips on walls that lean unlike.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from zygon.geometry.motion import Vector
from zygon.tolerance import EPS, SEEN, SLACK, WITHIN

__all__ = ["Half", "Meeting", "clipped", "coplanar_halves", "halves_of", "skew_halves"]

Side = tuple[tuple[float, float], str]
#: Directions whose cosine is nearer to 1 than this count as parallel.
PARALLEL = 1e-6


@dataclass(frozen=True)
class Half:
    """The places where ``a`` x + ``b`` y is at most ``c``; x along the edge, y outward from the end of the bend, mm."""

    a: float
    b: float
    c: float


@dataclass(frozen=True)
class Meeting:
    """A leg in the plate's room: the place x = 0, y = 0 on face B, its directions x, y and w, thickness and length of its flat, mm."""

    origin: Vector
    x: Vector
    y: Vector
    w: Vector
    thickness: float
    straight: float


def halves_of(first: Meeting, second: Meeting, style: str, gap: float) -> tuple[list[Half], list[Half]] | None:
    """What holds the high end of the first leg and the low end of the second; None for an open corner, or legs that never meet."""
    if style == "open":
        return None
    one, other = _outer(first, np.array(second.x) * -1.0), _outer(second, np.array(first.x))
    if one is None or other is None:
        return None
    cosine = float(np.clip(-one.normal @ other.normal, -1, 1))  # of the angle between the inner faces
    angle = math.acos(cosine)
    if angle < SEEN or angle > math.pi - SEEN:
        return None
    back = gap / (2 * math.sin(angle / 2)) * math.sin(angle)
    if style == "closed":
        return [_half(first, other.normal, other.inner - back, one.inner_w)], [_half(second, one.normal, one.inner - back, other.inner_w)]
    levels = [0.0, first.thickness]
    over = style == "a_covers"
    limits = (other.outer if over else other.inner - gap, one.inner - gap if over else one.outer)
    return [_half(first, other.normal, limits[0], w) for w in levels], [_half(second, one.normal, limits[1], w) for w in levels]


def coplanar_halves(first: Meeting, second: Meeting, style: str, gap: float) -> tuple[list[Half], list[Half]] | None:
    """The mitre of two legs in one plane; None where they do not lie in one."""
    w, v = np.array(first.w), np.array(second.w)
    step = np.array(second.origin) - np.array(first.origin)
    if abs(abs(float(w @ v)) - 1) > PARALLEL or abs(float(step @ w)) > SLACK + first.thickness * (1 - abs(float(w @ v))):
        return None
    x, e = np.array(first.x), np.array(second.x)
    across = x + e
    if np.linalg.norm(across) < WITHIN or np.linalg.norm(np.cross(x, e)) < WITHIN:
        return None
    if style == "open":  # each ends where the other's free edge is
        pair = []
        for own, o in ((first, second), (second, first)):
            y = np.array(o.y)
            limit = float(y @ np.array(o.origin)) + o.straight + gap
            sign = -1.0 if float(y @ np.array(own.x)) * (1.0 if own is first else -1.0) < 0 else 1.0
            if sign > 0:  # they lean away from each other
                return None
            pair.append([_half(own, -y, -limit, 0.0)])
        return pair[0], pair[1]
    normal = across / np.linalg.norm(across)
    # where the lines on which both flats begin cross
    a = np.column_stack((x, -e))
    (t, _), *_ = np.linalg.lstsq(a, step, rcond=None)
    middle = float(normal @ (np.array(first.origin) + x * t))
    return [_half(first, normal, middle - gap / 2, 0.0)], [_half(second, -normal, -middle - gap / 2, 0.0)]


def skew_halves(first: Meeting, second: Meeting, corner: np.ndarray, style: str, gap: float) -> tuple[list[Half], list[Half]] | None:
    """The mitre of two lips whose walls lean unlike, so that the lines on which they begin pass each other; None where these cross.

    It lies in the plane half way between both, along ``corner``, the direction in which the walls meet: each lip stays on its own side of it.
    """
    x, e = np.array(first.x), np.array(second.x)
    step = np.array(second.origin) - np.array(first.origin)
    across = x + e
    across = across - corner * float(corner @ across)
    if style == "open" or np.linalg.norm(np.cross(x, e)) < WITHIN or np.linalg.norm(across) < WITHIN:
        return None
    (t, s), *_ = np.linalg.lstsq(np.column_stack((x, -e)), step, rcond=None)
    near, far = np.array(first.origin) + x * t, np.array(second.origin) + e * s
    if np.linalg.norm(far - near) < SEEN:
        return None
    normal = across / np.linalg.norm(across)
    middle = float(normal @ (near + far)) / 2
    return (
        [_half(first, normal, middle - gap / 2, w) for w in (0.0, first.thickness)],
        [_half(second, -normal, -middle - gap / 2, w) for w in (0.0, second.thickness)],
    )


@dataclass(frozen=True)
class _Faces:
    """A leg's planes: the direction that looks out of the corner, its inner and outer face along it, and which w is the inner face."""

    normal: np.ndarray
    inner: float
    outer: float
    inner_w: float


def _outer(leg: Meeting, out: np.ndarray) -> _Faces | None:
    """The faces of a leg as met by another that comes along ``out``."""
    w, t = np.array(leg.w), leg.thickness
    lean = float(w @ out)
    if abs(lean) < WITHIN:
        return None
    normal = w if lean > 0 else -w
    inner_w = 0.0 if lean > 0 else t
    inner = float(normal @ (np.array(leg.origin) + w * inner_w))
    return _Faces(normal, inner, inner + t, inner_w)


def _half(leg: Meeting, normal: np.ndarray, limit: float, w: float) -> Half:
    """The half plane of a leg's places at height ``w`` that lie no farther along ``normal`` than ``limit``."""
    base = np.array(leg.origin) + np.array(leg.w) * w
    return Half(float(normal @ np.array(leg.x)), float(normal @ np.array(leg.y)), limit - float(normal @ base))


def clipped(sides: list[Side], half: Half, name: str) -> list[Side]:
    """A convex outline, (corner, name of the side that starts there), cut to a half plane; the new side gets ``name``."""
    if abs(half.a) + abs(half.b) < EPS:
        return sides
    found: list[Side] = []
    n = len(sides)
    for i in range(n):
        (p, own), (q, _) = sides[i], sides[(i + 1) % n]
        fp, fq = (half.a * r[0] + half.b * r[1] - half.c for r in (p, q))
        if fp <= EPS:
            found.append((p, own))
        if (fp < -EPS and fq > EPS) or (fp > EPS and fq < -EPS):
            share = fp / (fp - fq)
            cross = (p[0] + (q[0] - p[0]) * share, p[1] + (q[1] - p[1]) * share)
            found.append((cross, name if fp < 0 else own))
        elif fp <= EPS < fq and found:  # a corner on the line: what follows is the cut
            found[-1] = (p, name)
    return found
