"""Compiled inner loops of nesting: overlap of placed outlines, and the search that separates them.

All kernels stand in this one module, with explicit signatures, since a compiled caller does not notice when a kernel elsewhere changes; their cache
lies under a hash of this file. Nothing outside ``nest/`` imports this.

The method is guided local search over overlapping layouts (Egeblad, Nielsen and Odgaard, "Fast neighborhood search for two- and
three-dimensional nesting problems", 2007), with overlap measured between inscribed circles and positions sampled, as by Gardeyn, Vanden Berghe
and Wauters ("An open-source heuristic to reboot 2D nesting research", 2025). From memory of the papers.

Glossary. *Poles*: circles inscribed in an outline, largest first. *Loss*: how much two outlines overlap, by their poles. *Weight*: what a pair's loss
counts for; it grows as long as the pair overlaps.

Arrays. An outline is its rings' corners ``points`` (n, 2), each with the index ``after`` of the next corner on its ring; outlines lie one after the
other, ``first[i]`` to ``first[i + 1]``; the material is to the left of every edge, and to the right where an outline is mirrored. ``poles``
(m, 3, POLES) hold x, y, radius; a radius of 0 is none. ``box`` (m, 4) is low x, low y, high x, high y.
A pose is x, y, angle in radians, and 1 for mirrored.
"""

from __future__ import annotations

import hashlib
import os
from pathlib import Path
from typing import Any

from zygon.tolerance import EPS, WITHIN

_KEY = hashlib.sha256(Path(__file__).read_bytes()).hexdigest()[:16]
os.environ.setdefault("NUMBA_CACHE_DIR", str(Path(__file__).parent / "__pycache__" / f"kernels-{_KEY}"))

import numpy as np  # noqa: E402
from numba import njit  # noqa: E402

__all__ = ["OFF", "PAIRS", "POLES", "fill", "lay", "losses", "separate"]

#: Most inscribed circles an outline has.
POLES = 16
PAIRS = POLES * POLES
#: Poles of two outlines that reach into each other by more than this (mm) are an overlap without looking at edges.
BITE = 1e-7
#: Twice the area (mm²) between an edge and a point that counts as lying in line with it; more than what does not count as crossing.
TOUCHING = 1e-6
#: Up to this far (mm), by lot, items stay off the bounds that they are pushed to. Edges in line with one another do not cross, so that outlines
#: which lay on one another along their edges would seem to be apart; a tenth of what shapes are taken in by.
OFF = 2e-5
#: Edges laid along one another keep up to this far apart (mm), by lot, and at least half of it: both shapes are taken in by the half of it.
APART = 4e-4
#: Sine of the angle between edges that lie along one another, at most.
ALONG = 1e-6
#: Edges shorter than this share of an outline's reach are not laid along others.
SHORT = 0.02
#: The bounds of the sheet are faced as often as so many items.
WALLS = 2
#: How far the smoothed overlap of circles reaches, as a share of the larger diameter.
SMOOTH = 0.01
#: A pair's weight grows by the first to the second a pass, by its share of the largest loss, and falls back by the third.
GROW_LEAST, GROW_MOST, FADE = 1.2, 2.0, 0.95


def _kernel(signature: str) -> Any:
    """Compiles with an explicit signature, kept in the cache."""
    return njit(signature, cache=True, nogil=True, error_model="numpy")


@_kernel("f8(u8[::1])")
def _random(state):
    """A number from 0 to 1 of a xorshift generator; changes its state (1,)."""
    x = state[0]
    x ^= x >> np.uint64(12)
    x ^= x << np.uint64(25)
    x ^= x >> np.uint64(27)
    state[0] = x
    return float((x * np.uint64(0x2545F4914F6CDD1D)) >> np.uint64(11)) / 9007199254740992.0


@_kernel("void(f8[:,::1], f8[:,::1], i8, i8, f8[::1], f8[:,::1], i8, f8[:,::1], f8[::1])")
def _turn(points, poles, a, b, pose, out, at, pole_out, box):
    """Corners a to b and the poles of an outline at a pose: into ``out`` from ``at`` on, ``pole_out`` and ``box``."""
    x, y, c, s = pose[0], pose[1], np.cos(pose[2]), np.sin(pose[2])
    sign = -1.0 if pose[3] > 0.5 else 1.0
    lx, ly, hx, hy = np.inf, np.inf, -np.inf, -np.inf
    for k in range(a, b):
        u, v = sign * points[k, 0], points[k, 1]
        px, py = c * u - s * v + x, s * u + c * v + y
        out[at + k - a, 0] = px
        out[at + k - a, 1] = py
        lx, ly, hx, hy = min(lx, px), min(ly, py), max(hx, px), max(hy, py)
    for k in range(POLES):
        pole_out[2, k] = poles[2, k]
        u, v = sign * poles[0, k], poles[1, k]
        pole_out[0, k] = c * u - s * v + x
        pole_out[1, k] = s * u + c * v + y
    box[0], box[1], box[2], box[3] = lx, ly, hx, hy


@_kernel("b1(f8[:,::1], i8[::1], i8, i8, f8, f8)")
def _holds(points, after, a, b, x, y):
    """Whether a point lies in the material of an outline, holes left out (even-odd rule)."""
    inside = False
    for k in range(a, b):
        n = after[k]
        y0, y1 = points[k, 1], points[n, 1]
        if (y0 > y) != (y1 > y) and x < points[k, 0] + (y - y0) * (points[n, 0] - points[k, 0]) / (y1 - y0):
            inside = not inside
    return inside


@_kernel("b1(f8[:,::1], i8[::1], i8, i8, f8, f8)")
def _far(points, after, a, b, x, y):
    """Whether a point is farther than BITE from every edge of an outline."""
    for k in range(a, b):
        n = after[k]
        dx, dy = points[n, 0] - points[k, 0], points[n, 1] - points[k, 1]
        u, v = x - points[k, 0], y - points[k, 1]
        square = dx * dx + dy * dy
        share = min(max((u * dx + v * dy) / square, 0.0), 1.0) if square > 0.0 else 0.0
        u, v = u - share * dx, v - share * dy
        if u * u + v * v <= BITE * BITE:
            return False
    return True


@_kernel("i8(f8[:,::1], i8[::1], i8, i8, f8, f8, f8[:,::1], i8[::1], i8, i8, f8, f8, f8, f8)")
def _cross(p, p_after, a, b, x, y, q, q_after, c, d, lx, ly, hx, hy):
    """How edges of two outlines, the first moved by x, y, meet within a box: 2 where some properly cross, 1 where some only touch, 0 where none do."""
    there, count = np.empty(d - c, np.int64), 0
    for j in range(c, d):  # of the other only what reaches into the box
        m = q_after[j]
        if (
            (q[j, 0] < lx and q[m, 0] < lx)
            or (q[j, 0] > hx and q[m, 0] > hx)
            or (q[j, 1] < ly and q[m, 1] < ly)
            or (q[j, 1] > hy and q[m, 1] > hy)
        ):
            continue
        there[count] = j
        count += 1
    if count == 0:
        return 0
    met = 0
    for k in range(a, b):
        n = p_after[k]
        x0, y0, x1, y1 = p[k, 0] + x, p[k, 1] + y, p[n, 0] + x, p[n, 1] + y
        ex0, ex1 = (x0, x1) if x0 < x1 else (x1, x0)
        ey0, ey1 = (y0, y1) if y0 < y1 else (y1, y0)
        if ex1 < lx or ex0 > hx or ey1 < ly or ey0 > hy:
            continue
        dx, dy = x1 - x0, y1 - y0
        for e in range(count):
            j = there[e]
            m = q_after[j]
            u0, v0, u1, v1 = q[j, 0], q[j, 1], q[m, 0], q[m, 1]
            if (u0 < ex0 and u1 < ex0) or (u0 > ex1 and u1 > ex1) or (v0 < ey0 and v1 < ey0) or (v0 > ey1 and v1 > ey1):
                continue
            s0 = dx * (v0 - y0) - dy * (u0 - x0)
            s1 = dx * (v1 - y0) - dy * (u1 - x0)
            if (s0 >= -EPS and s1 >= -EPS) or (s0 <= EPS and s1 <= EPS):
                if min(abs(s0), abs(s1)) <= TOUCHING:
                    met = 1
                continue
            gx, gy = u1 - u0, v1 - v0
            t0 = gx * (y0 - v0) - gy * (x0 - u0)
            t1 = gx * (y1 - v0) - gy * (x1 - u0)
            if (t0 >= -EPS and t1 >= -EPS) or (t0 <= EPS and t1 <= EPS):
                if min(abs(t0), abs(t1)) <= TOUCHING:
                    met = 1
                continue
            return 2
    return met


@_kernel("b1(f8[:,::1], i8[::1], i8, i8, f8, f8, f8[:,::1], i8[::1], i8, i8, f8, f8, f8, f8)")
def _reaches_in(p, p_after, a, b, x, y, q, q_after, c, d, lx, ly, hx, hy):
    """Whether the middle of an edge of an outline, moved by x, y, lies in another within a box: so two overlap whose edges meet at their ends only."""
    for k in range(a, b):
        n = p_after[k]
        u, v = (p[k, 0] + p[n, 0]) / 2 + x, (p[k, 1] + p[n, 1]) / 2 + y
        if lx - BITE < u < hx + BITE and ly - BITE < v < hy + BITE and _holds(q, q_after, c, d, u, v) and _far(q, q_after, c, d, u, v):
            return True
    return False


@njit(
    "f8(f4[:,:,::1], i8, f4, f4, f4[:,:,::1], i8, f4)",
    cache=True,
    nogil=True,
    error_model="numpy",
    fastmath={"reassoc", "nsz", "nnan", "ninf"},
)
def _deep(rows, i, x, y, tiles, j, reach):
    """How deep circles reach into each other, the first moved by x, y, smoothed over ``reach``; unused ones count for nothing.

    Every pair of circles stands side by side in ``rows`` and ``tiles``, in single precision and summed in any order, so that many are worked at once.
    """
    total = np.float32(0.0)
    own, other = rows[i], tiles[j]
    square = reach * reach
    for k in range(own.shape[1]):
        r, o = own[2, k], other[2, k]
        dx, dy = own[0, k] + x - other[0, k], own[1, k] + y - other[1, k]
        deep = r + o - np.sqrt(dx * dx + dy * dy)
        far = reach + reach - deep
        far = far if far > reach else reach
        soft = square / far
        total += (deep if deep > soft else soft) * (r if r < o else o)
    return total


@_kernel("void(f8[:,::1], f4[:,::1], b1)")
def _spread(poles, out, each):
    """Writes circles (3, POLES) into ``out`` (3, PAIRS): each one POLES times, or all of them POLES times over."""
    for c in range(3):
        for k in range(POLES):
            for m in range(POLES):
                out[c, k * POLES + m] = poles[c, k if each else m]


@_kernel("b1(f8[:,::1], i8[::1], i8, i8, f8[:,:,::1], i8, f8, f8, f8, f8, f8, f8, f8[:,::1], i8[::1], i8, i8, f8[:,:,::1], i8, f8[:,::1])")
def _overlap(p, p_after, a, b, pp, i, x, y, lx, ly, hx, hy, q, q_after, c, d, qp, j, box):
    """Whether two outlines whose boxes meet overlap: the first moved by x, y, with its box there; False where they only touch or stand apart."""
    # circles that reach into each other are an overlap without looking at edges
    for k in range(POLES):
        r = pp[i, 2, k] - BITE
        if r <= 0.0:
            break
        u, v = pp[i, 0, k] + x, pp[i, 1, k] + y
        for m in range(POLES):
            o = qp[j, 2, m]
            if o <= 0.0:
                break
            dx, dy = u - qp[j, 0, m], v - qp[j, 1, m]
            if dx * dx + dy * dy < (r + o) * (r + o):
                return True
    lx, ly, hx, hy = max(lx, box[j, 0]), max(ly, box[j, 1]), min(hx, box[j, 2]), min(hy, box[j, 3])
    met = _cross(p, p_after, a, b, x, y, q, q_after, c, d, lx, ly, hx, hy)
    if met == 2:
        return True
    if met == 1 and (
        _reaches_in(p, p_after, a, b, x, y, q, q_after, c, d, lx, ly, hx, hy)
        or _reaches_in(q, q_after, c, d, -x, -y, p, p_after, a, b, lx - x, ly - y, hx - x, hy - y)
    ):
        return True
    # one may lie whole in the other's material: then so does the middle of its largest pole
    return _holds(q, q_after, c, d, pp[i, 0, 0] + x, pp[i, 1, 0] + y) or _holds(p, p_after, a, b, qp[j, 0, 0] - x, qp[j, 1, 0] - y)


@_kernel(
    "f8(i8, f8[:,::1], i8[::1], i8, i8, f8[:,:,::1], f4[:,:,::1], i8, f8, f8, f8[::1], f8[:,::1], i8[::1], i8[::1], f8[:,::1], f8[:,:,::1],"
    " f4[:,:,::1], f8[:,::1], f8[:,::1], i8, f8)"
)
def _cost(i, p, p_after, a, b, pp, rows, pi, x, y, extent, points, after, first, box, poles, tiles, size, weight, n, limit):
    """The weighted loss of item i, with the outline ``p`` moved by x, y, against all others; at least ``limit`` where it would be more than that."""
    lx, ly, hx, hy = extent[0] + x, extent[1] + y, extent[2] + x, extent[3] + y
    total = 0.0
    for j in range(n):
        if hx <= box[j, 0] or box[j, 2] <= lx or hy <= box[j, 1] or box[j, 3] <= ly or j == i:
            continue
        if not _overlap(p, p_after, a, b, pp, pi, x, y, lx, ly, hx, hy, points, after, first[j], first[j + 1], poles, j, box):
            continue
        reach = SMOOTH * max(size[i, 1], size[j, 1])
        counts = weight[i, j] * np.sqrt(size[i, 0] * size[j, 0])
        if total + counts * reach >= limit:
            return limit
        total += counts * np.sqrt(_deep(rows, pi, x, y, tiles, j, reach) + reach * reach)
        if total >= limit:
            return limit
    return total


@_kernel("void(i8, f8[:,::1], i8[::1], i8[::1], f8[:,::1], f8[:,:,::1], f4[:,:,::1], f8[:,::1], f8[:,::1], i8)")
def losses(i, points, after, first, box, poles, tiles, size, loss, n):
    """Writes item i's row and column of the losses (n, n): how much two outlines overlap, 0 where they only touch or stand apart."""
    rows = np.empty((1, 3, PAIRS), np.float32)
    _spread(poles[i], rows[0], True)
    for j in range(n):
        if j == i:
            continue
        lost = 0.0
        apart = box[i, 2] <= box[j, 0] or box[j, 2] <= box[i, 0] or box[i, 3] <= box[j, 1] or box[j, 3] <= box[i, 1]
        if not apart and _overlap(
            points,
            after,
            first[i],
            first[i + 1],
            poles,
            i,
            0.0,
            0.0,
            box[i, 0],
            box[i, 1],
            box[i, 2],
            box[i, 3],
            points,
            after,
            first[j],
            first[j + 1],
            poles,
            j,
            box,
        ):
            reach = SMOOTH * max(size[i, 1], size[j, 1])
            lost = np.sqrt(_deep(rows, 0, 0.0, 0.0, tiles, j, reach) + reach * reach) * np.sqrt(size[i, 0] * size[j, 0])
        loss[i, j] = loss[j, i] = lost


@_kernel("f8(f8[:,::1], i8)")
def _total(loss, n):
    """The losses of all pairs."""
    total = 0.0
    for i in range(n):
        for j in range(i):
            total += loss[i, j]
    return total


@_kernel("void(i8, f8[::1], f8[:,::1], i8[::1], f8[:,:,::1], i8, f8[:,::1], i8[::1], f8[:,::1], f8[:,:,::1], f4[:,:,::1], b1)")
def lay(i, pose, base, base_first, base_poles, shape, points, first, box, poles, spread, each):
    """Puts item i, of an outline of the base, at a pose, with its circles ``spread`` (n, 3, PAIRS) as ``_spread`` does."""
    _turn(base, base_poles[shape], base_first[shape], base_first[shape + 1], pose, points, first[i], poles[i], box[i])
    _spread(poles[i], spread[i], each)


@_kernel("b1(f8[:,::1], i8[::1], i8[::1], i8, f8, u8[::1], f8[::1])")
def _facing(points, after, first, j, flip, state, edge):
    """Draws an edge of item j, as one sees it from outside: writes where it begins, its direction, and its length to ``edge`` (5,); whether it has one."""
    m = min(first[j] + int(_random(state) * (first[j + 1] - first[j])), first[j + 1] - 1)
    n = after[m]
    if flip > 0.5:  # turned over, outlines run the other way round
        m, n = n, m
    x, y = points[m, 0] - points[n, 0], points[m, 1] - points[n, 1]
    long = np.sqrt(x * x + y * y)
    if long <= EPS:
        return False
    edge[0], edge[1], edge[2], edge[3], edge[4] = points[n, 0], points[n, 1], x / long, y / long, long
    return True


@_kernel("void(f8[::1], u8[::1], f8[::1])")
def _wall(bounds, state, edge):
    """Draws one of the bounds as an edge that is faced, as ``_facing`` has it."""
    side = int(_random(state) * 4.0)
    edge[0], edge[1] = bounds[2] if side in (1, 2) else bounds[0], bounds[3] if side in (2, 3) else bounds[1]
    edge[2], edge[3] = (1.0, 0.0, -1.0, 0.0)[side], (0.0, 1.0, 0.0, -1.0)[side]
    edge[4] = bounds[2] - bounds[0] if side % 2 == 0 else bounds[3] - bounds[1]


@_kernel("i8(f8[:,::1], i8[::1], i8, i8, f8, f8[::1], f8, b1, u8[::1])")
def _parallel(lain, lain_after, low, count, sign, edge, least, equal, state):
    """An edge of an outline, ``count`` corners from ``low`` on, that runs as what is faced, drawn by lot; -1 where there is none. ``equal`` wants it as long."""
    begin = int(_random(state) * count)
    for k in range(count):
        e = low + (begin + k) % count
        n = lain_after[e]
        x, y = sign * (lain[n, 0] - lain[e, 0]), sign * (lain[n, 1] - lain[e, 1])
        long = np.sqrt(x * x + y * y)
        if equal and abs(long - edge[4]) > 4.0 * APART:
            continue
        if long >= least and edge[2] * x + edge[3] * y > 0.0 and abs(edge[2] * y - edge[3] * x) <= ALONG * long:
            return e
    return -1


@_kernel("i8(i8, i8, f8[:,::1], f8[:,::1], i8[::1], i8[::1], f8[::1], f8[::1], f8, u8[::1], f8[::1])")
def _along(t0, t1, turns, lain, lain_first, lain_after, edge, other, least, state, at):
    """The turn of an item, of those from t0 to t1, at which an edge of it can lie along an ``edge`` from ``_facing``, drawn by lot; -1 where none can.

    Writes x and y to ``at``: another edge lies along the ``other`` edge that is faced, where that has a length and can be; else an end is at an end.
    Ends are not quite in line, as nothing is that is laid down here (see OFF).
    """
    start, head, equal = int(_random(state) * (t1 - t0)), _random(state) < 0.5, _random(state) < 0.5
    gap, slip = APART * (0.5 + 0.5 * _random(state)), OFF * (_random(state) - 0.5)
    for step in range(t1 - t0):
        t = t0 + (start + step) % (t1 - t0)
        low, count, sign = lain_first[t], lain_first[t + 1] - lain_first[t], -1.0 if turns[t, 1] > 0.5 else 1.0
        e = _parallel(lain, lain_after, low, count, sign, edge, least, equal and other[4] == 0.0, state)
        if e < 0:
            continue
        # the item's material lies to the left of its edges, the other's to the right of what is faced
        shift = gap - edge[3] * (edge[0] - lain[e, 0]) + edge[2] * (edge[1] - lain[e, 1])
        across = edge[2] * other[3] - edge[3] * other[2]
        if other[4] > 0.0 and abs(across) > 0.05:
            m = _parallel(lain, lain_after, low, count, sign, other, least, False, state)
            if m >= 0:
                to = gap - other[3] * (other[0] - lain[m, 0]) + other[2] * (other[1] - lain[m, 1])
                at[0] = (other[2] * shift - edge[2] * to) / across
                at[1] = (other[3] * shift - edge[3] * to) / across
                return t
        n = lain_after[e]
        if sign < 0.0:
            e, n = n, e
        if head:
            at[0], at[1] = edge[0] - lain[e, 0], edge[1] - lain[e, 1]
        else:
            at[0], at[1] = edge[0] + edge[4] * edge[2] - lain[n, 0], edge[1] + edge[4] * edge[3] - lain[n, 1]
        at[0] += slip * edge[2] - gap * edge[3]
        at[1] += slip * edge[3] + gap * edge[2]
        return t
    return -1


@_kernel("void(f8[:,::1], i8[::1], i8, i8, f8, f8[::1], u8[::1], f8[::1])")
def _turned_along(base, base_after, a, b, mirrored, edge, state, at):
    """Writes the pose (4,) at which an edge of an outline, corners a to b of the base, drawn by lot, lies along an ``edge`` from ``_facing``, an end at an end."""
    e = min(a + int(_random(state) * (b - a)), b - 1)
    n = base_after[e]
    gap, slip, sign = APART * (0.5 + 0.5 * _random(state)), OFF * (_random(state) - 0.5), 1.0
    if mirrored > 0.5:
        e, n, sign = n, e, -1.0
    angle = np.arctan2(edge[3], edge[2]) - np.arctan2(base[n, 1] - base[e, 1], sign * (base[n, 0] - base[e, 0]))
    c, s = np.cos(angle), np.sin(angle)
    k, way = (e, slip) if _random(state) < 0.5 else (n, edge[4] + slip)
    u, v = sign * base[k, 0], base[k, 1]
    at[0] = edge[0] + way * edge[2] - (c * u - s * v) - gap * edge[3]
    at[1] = edge[1] + way * edge[3] - (s * u + c * v) + gap * edge[2]
    at[2], at[3] = angle, mirrored


@_kernel(
    "f8(i8, i8, f8[::1], f8[:,::1], f8[:,::1], i8[::1], i8[::1], f8[:,:,::1], f8[:,::1], i8[::1], i8[::1], f8[:,:,::1], f4[:,:,::1], i8[::1], f8[:,::1], f8[:,::1],"
    " i8[::1], f8[:,::1], i8[::1], i8[::1], f8[:,::1], f8[:,:,::1], f4[:,:,::1], f8[:,::1], f8[:,::1], f8[::1], i8, f8[::1], f8[::1], u8[::1], i8, i8, i8)"
)
def _improve(  # noqa: PLR0915 - compiled: both stages share what is turned
    i,
    shape,
    pose,
    poses,
    base,
    base_first,
    base_after,
    base_poles,
    lain,
    lain_first,
    lain_after,
    lain_poles,
    lain_rows,
    turn_first,
    turns,
    extents,
    free,
    points,
    first,
    after,
    box,
    poles,
    tiles,
    size,
    weight,
    bounds,
    n,
    found,
    tally,
    state,
    wide,
    near,
    mates,
):
    """Seeks a pose of little cost for item i; its cost, with the pose in ``found``; ``tally[3]`` counts the places tried.

    Outlines at their turns lie ready in ``lain``; those that take any angle are turned as they are tried.
    """
    t0, t1 = turn_first[shape], turn_first[shape + 1]
    width, height = bounds[2] - bounds[0], bounds[3] - bounds[1]
    span = min(extents[t0, 2] - extents[t0, 0], extents[t0, 3] - extents[t0, 1])
    keep = 3
    off_x, off_y = OFF * _random(state), OFF * _random(state)
    best, best_cost = np.empty((keep, 4)), np.full(keep, np.inf)
    own, own_after, own_poles, extent, at = np.empty((0, 2)), np.empty(0, np.int64), np.empty((1, 3, POLES)), np.empty(4), np.zeros(4)
    own_rows = np.empty((1, 3, PAIRS), np.float32)
    mate_x = mate_y = 0.0
    any_angle = free[shape] == 1
    if any_angle:
        count = base_first[shape + 1] - base_first[shape]
        own, own_after = np.empty((count, 2)), np.empty(count, np.int64)
        for k in range(count):
            own_after[k] = base_after[base_first[shape] + k] - base_first[shape]
    p, p_after, pp, rows, a, b, pi = lain, lain_after, lain_poles, lain_rows, 0, 0, 0
    if any_angle:
        p, p_after, pp, rows, b = own, own_after, own_poles, own_rows, len(own)
    edge, other = np.empty(5), np.empty(5)
    for trial in range(wide + near + mates + 1):
        t = t0
        if t1 - t0 > 1:
            t = min(t0 + int(_random(state) * (t1 - t0)), t1 - 1)
        present = trial == 0 or (trial > wide and _random(state) < 0.7)
        angle, mirrored = turns[t, 0], turns[t, 1]
        if present:
            angle, mirrored = pose[2], pose[3]
        mate = trial > wide + near
        if mate:
            j = int(_random(state) * (n + WALLS))
            if trial % 4 < 2:
                for _ in range(8):
                    if (
                        j < n
                        and j != i
                        and box[j, 0] < box[i, 2] + span
                        and box[j, 2] > box[i, 0] - span
                        and box[j, 1] < box[i, 3] + span
                        and box[j, 3] > box[i, 1] - span
                    ):
                        break
                    j = int(_random(state) * (n + WALLS))
            other[4] = 0.0
            if j >= n:
                _wall(bounds, state, edge)
            elif j == i or not _facing(points, after, first, j, poses[j, 3], state, edge):
                continue
            if not any_angle and trial % 2 == 0:
                if _random(state) < 0.25:
                    _wall(bounds, state, other)
                else:
                    for _ in range(8):
                        m = min(int(_random(state) * n), n - 1)
                        if (
                            m not in (i, j)
                            and box[m, 0] - span < edge[0] < box[m, 2] + span
                            and box[m, 1] - span < edge[1] < box[m, 3] + span
                        ):
                            if not _facing(points, after, first, m, poses[m, 3], state, other):
                                other[4] = 0.0
                            break
            present = False
            if any_angle:
                _turned_along(base, base_after, base_first[shape], base_first[shape + 1], mirrored, edge, state, at)
                angle = at[2]
            else:
                t = _along(t0, t1, turns, lain, lain_first, lain_after, edge, other, SHORT * size[i, 1], state, at)
                if t < 0:
                    continue
                angle, mirrored = turns[t, 0], turns[t, 1]
            mate_x, mate_y = at[0], at[1]
        if any_angle:
            if mate:
                pass
            elif not present and _random(state) < 0.5:
                angle += (_random(state) - 0.5) * 2.0 * np.pi
            elif trial > wide:
                angle += (_random(state) - 0.5) * 0.2
            at[0], at[1], at[2], at[3] = 0.0, 0.0, angle, mirrored
            _turn(base, base_poles[shape], base_first[shape], base_first[shape + 1], at, own, 0, own_poles[0], extent)
            _spread(own_poles[0], own_rows[0], True)
        else:
            if present:
                for k in range(t0, t1):
                    if turns[k, 0] == angle and turns[k, 1] == mirrored:
                        t = k
                angle, mirrored = turns[t, 0], turns[t, 1]
            a, b, pi = lain_first[t], lain_first[t + 1], t
            for k in range(4):
                extent[k] = extents[t, k]
        lx, ly, hx, hy = bounds[0] - extent[0], bounds[1] - extent[1], bounds[2] - extent[2], bounds[3] - extent[3]
        if hx < lx - EPS or hy < ly - EPS:
            continue
        if trial == 0:
            x, y = pose[0], pose[1]
        elif mate:
            x, y = mate_x, mate_y
        elif trial <= wide:
            x, y = lx + _random(state) * (hx - lx), ly + _random(state) * (hy - ly)
        else:
            x = pose[0] + (_random(state) + _random(state) - 1.0) * 0.5 * min(span, width)
            y = pose[1] + (_random(state) + _random(state) - 1.0) * 0.5 * min(span, height)
        if hx - lx > 2.0 * OFF:
            lx, hx = lx + off_x, hx - off_x
        if hy - ly > 2.0 * OFF:
            ly, hy = ly + off_y, hy - off_y
        x, y = min(max(x, lx), max(hx, lx)), min(max(y, ly), max(hy, ly))
        tally[3] += 1.0
        cost = _cost(
            i, p, p_after, a, b, pp, rows, pi, x, y, extent, points, after, first, box, poles, tiles, size, weight, n, best_cost[keep - 1]
        )
        if cost < best_cost[keep - 1]:
            k = keep - 1
            while k > 0 and best_cost[k - 1] > cost:
                best_cost[k] = best_cost[k - 1]
                best[k] = best[k - 1]
                k -= 1
            best_cost[k] = cost
            best[k, 0], best[k, 1], best[k, 2], best[k, 3] = x, y, angle, mirrored
    found_cost = np.inf
    for k in range(keep):
        if best_cost[k] == np.inf:
            break
        for stage in range(2):
            if stage == 1 and k > 0 and best_cost[k] >= found_cost:
                break  # only what may be the best is refined
            t = t0
            for m in range(t0, t1):
                if turns[m, 0] == best[k, 2] and turns[m, 1] == best[k, 3]:
                    t = m
            sx = sy = span * (0.25 if stage == 0 else 0.02)
            least = span * (0.02 if stage == 0 else 0.0005)
            turn = (0.3 if stage == 0 else 0.02) if any_angle else 0.0
            if any_angle:
                at[0], at[1], at[2], at[3] = 0.0, 0.0, best[k, 2], best[k, 3]
                _turn(base, base_poles[shape], base_first[shape], base_first[shape + 1], at, own, 0, own_poles[0], extent)
                _spread(own_poles[0], own_rows[0], True)
            else:
                a, b, pi = lain_first[t], lain_first[t + 1], t
                for m in range(4):
                    extent[m] = extents[t, m]
            while (sx > least or sy > least) and best_cost[k] > 0.0:
                axis = int(_random(state) * (5.0 if any_angle else 4.0))
                dx = sx if axis != 1 else 0.0
                dy = 0.0 if axis == 0 else (sy if axis != 3 else -sy)
                better = False
                for way in range(2):
                    sign = 1.0 if way == 0 else -1.0
                    angle = best[k, 2]
                    if axis == 4:
                        dx, dy, angle = 0.0, 0.0, angle + sign * turn
                        at[0], at[1], at[2], at[3] = 0.0, 0.0, angle, best[k, 3]
                        _turn(base, base_poles[shape], base_first[shape], base_first[shape + 1], at, own, 0, own_poles[0], extent)
                        _spread(own_poles[0], own_rows[0], True)
                    lx, ly = bounds[0] - extent[0], bounds[1] - extent[1]
                    hx, hy = max(bounds[2] - extent[2], lx), max(bounds[3] - extent[3], ly)
                    if hx - lx > 2.0 * OFF:
                        lx, hx = lx + off_x, hx - off_x
                    if hy - ly > 2.0 * OFF:
                        ly, hy = ly + off_y, hy - off_y
                    fits = bounds[2] - bounds[0] >= extent[2] - extent[0] - EPS and bounds[3] - bounds[1] >= extent[3] - extent[1] - EPS
                    x, y = min(max(best[k, 0] + sign * dx, lx), hx), min(max(best[k, 1] + sign * dy, ly), hy)
                    if (axis != 4 and x == best[k, 0] and y == best[k, 1]) or not fits:
                        continue
                    tally[3] += 1.0
                    cost = _cost(
                        i,
                        p,
                        p_after,
                        a,
                        b,
                        pp,
                        rows,
                        pi,
                        x,
                        y,
                        extent,
                        points,
                        after,
                        first,
                        box,
                        poles,
                        tiles,
                        size,
                        weight,
                        n,
                        best_cost[k],
                    )
                    if cost < best_cost[k]:
                        best_cost[k] = cost
                        best[k, 0], best[k, 1], best[k, 2] = x, y, angle
                        better = True
                        break
                if axis == 4:
                    turn *= 1.1 if better else 0.5
                    if not better:
                        at[0], at[1], at[2], at[3] = 0.0, 0.0, best[k, 2], best[k, 3]
                        _turn(base, base_poles[shape], base_first[shape], base_first[shape + 1], at, own, 0, own_poles[0], extent)
                        _spread(own_poles[0], own_rows[0], True)
                    continue
                factor = 1.1 if better else 0.5
                if axis != 1:
                    sx *= factor
                if axis != 0:
                    sy *= factor
            if best_cost[k] < found_cost:
                found_cost = best_cost[k]
                found[:] = best[k]
    return found_cost


@_kernel(
    "i8(f8[:,::1], i8[::1], i8[::1], f8[:,:,::1], f8[:,::1], i8[::1], i8[::1], f8[:,:,::1], f4[:,:,::1], i8[::1], f8[:,::1], f8[:,::1], i8[::1], i8[::1],"
    " i8[::1], f8[:,::1], i8[::1], f8[:,::1], f8[:,:,::1], f4[:,:,::1], i8[::1], f8[:,::1], f8[:,::1], f8[:,::1], i8[::1], f8[::1], u8[::1], i8,"
    " f8[:,::1], f8[::1], i8, i8, i8)"
)
def separate(
    base,
    base_first,
    base_after,
    base_poles,
    lain,
    lain_first,
    lain_after,
    lain_poles,
    lain_rows,
    turn_first,
    turns,
    extents,
    free,
    shape_of,
    fixed,
    points,
    first,
    box,
    poles,
    tiles,
    after,
    pose,
    size,
    weight,
    order,
    bounds,
    state,
    passes,
    best_pose,
    tally,
    wide,
    near,
    mates,
):
    """Moves overlapping items until none overlaps, or for so many passes; whether none does (1) or some do (0).

    ``best_pose`` keeps the layout of least loss, ``tally`` (4,) its loss, the passes since it was found, the passes in all, and the places tried. ``weight`` (n, n) is
    changed; a call goes on where the last one ended.
    """
    n = len(shape_of)
    loss = np.zeros((n, n))
    for i in range(n):
        losses(i, points, after, first, box, poles, tiles, size, loss, n)
    found = np.empty(4)
    for _ in range(passes):
        tally[3] += 1.0  # a pass is never free, so that whoever counts comes to an end
        total = _total(loss, n)
        if total < tally[0]:
            tally[0], tally[1] = total, 0.0
            best_pose[:] = pose
        if total == 0.0:
            return 1
        tally[1] += 1.0
        tally[2] += 1.0
        for k in range(n - 1, 0, -1):
            j = int(_random(state) * (k + 1))
            order[k], order[j] = order[j], order[k]
        for k in range(n):
            i = order[k]
            if fixed[i] == 1:
                continue
            present = 0.0
            for j in range(n):
                present += weight[i, j] * loss[i, j]
            if present == 0.0:
                continue
            cost = _improve(
                i,
                shape_of[i],
                pose[i],
                pose,
                base,
                base_first,
                base_after,
                base_poles,
                lain,
                lain_first,
                lain_after,
                lain_poles,
                lain_rows,
                turn_first,
                turns,
                extents,
                free,
                points,
                first,
                after,
                box,
                poles,
                tiles,
                size,
                weight,
                bounds,
                n,
                found,
                tally,
                state,
                wide,
                near,
                mates,
            )
            if cost < present:
                pose[i] = found
                lay(i, pose[i], base, base_first, base_poles, shape_of[i], points, first, box, poles, tiles, False)
                losses(i, points, after, first, box, poles, tiles, size, loss, n)
        most = 0.0
        for i in range(n):
            for j in range(i):
                most = max(most, loss[i, j])
        for i in range(n):
            for j in range(i):
                if loss[i, j] > 0.0:
                    weight[i, j] *= GROW_LEAST + (GROW_MOST - GROW_LEAST) * loss[i, j] / most
                else:
                    weight[i, j] = max(1.0, weight[i, j] * FADE)
                weight[j, i] = weight[i, j]
    total = _total(loss, n)
    if total < tally[0]:
        tally[0], tally[1] = total, 0.0
        best_pose[:] = pose
    return 1 if total == 0.0 else 0


@_kernel("i8(f8[::1], f8[::1], i8[::1], i8[::1], i8[::1], f8, f8, f8, i8, f8[:,::1], i8[::1])")
def fill(along, across, shape, twin, left, length, width, spare, steps, spots, chosen):  # noqa: PLR0915 - compiled: one loop over one stack
    """Fills a strip with rectangles, the leftmost, lowest gap of the skyline first, depth first; how many were placed, 0 where it found no way.

    Option o is rectangle ``shape[o]`` lying ``along`` by ``across``; ``twin[o]`` is an earlier option of the same size, or -1. ``left`` counts the
    rectangles of a shape; ``spare`` is the area that may stay empty. ``spots`` (n, 2) and ``chosen`` (n,) get the places and options.
    """
    same = WITHIN
    wanted = 0
    for k in range(len(left)):
        wanted += left[k]
    deep = 4 * wanted + 8
    lows, highs, ats = np.zeros((deep + 1, deep + 2)), np.zeros((deep + 1, deep + 2)), np.zeros((deep + 1, deep + 2))
    count, gap, option, taken = np.zeros(deep + 1, np.int64), np.zeros(deep + 1, np.int64), np.full(deep + 1, -1), np.full(deep + 1, -1)
    room = np.zeros(deep + 1)
    highs[0, 0], count[0], room[0] = width, 1, spare
    d, rest = 0, wanted
    for _ in range(steps):
        if rest == 0:
            n = 0
            for e in range(d):
                if taken[e] >= 0:
                    spots[n, 0], spots[n, 1], chosen[n] = ats[e, gap[e]], lows[e, gap[e]], taken[e]
                    n += 1
            return n
        if option[d] < 0:  # a new state: its leftmost gap, the lowest of those
            g = 0
            for k in range(1, count[d]):
                if ats[d, k] < ats[d, g] - same:
                    g = k
            gap[d], option[d] = g, 0
        g = gap[d]
        low, high, at = lows[d, g], highs[d, g], ats[d, g]
        o = option[d]
        while o < len(along):
            if (
                left[shape[o]] > 0
                and across[o] <= high - low + same
                and at + along[o] <= length + same
                and (twin[o] < 0 or left[shape[twin[o]]] == 0)
            ):
                break
            o += 1
        to, cut, less = 0.0, high, 0.0
        if o < len(along) and d < deep:
            option[d], taken[d] = o + 1, o
            to, cut = at + along[o], low + across[o]
            left[shape[o]] -= 1
            rest -= 1
        else:
            to = length
            if g > 0 and ats[d, g - 1] > at + same:
                to = min(to, ats[d, g - 1])
            if g + 1 < count[d] and ats[d, g + 1] > at + same:
                to = min(to, ats[d, g + 1])
            less = (high - low) * (to - at)
            if o > len(along) or option[d] > len(along) or less > room[d] + same or to >= length - same or d >= deep:
                option[d] = -1  # nothing goes here: back to the state before
                d -= 1
                if d < 0:
                    return 0
                if taken[d] >= 0:
                    left[shape[taken[d]]] += 1
                    rest += 1
                continue
            option[d], taken[d] = len(along) + 1, -1
        # the next state: the gap replaced, neighbours of one place merged
        n = 0
        for k in range(count[d]):
            for part in range(2):
                if k != g:
                    if part == 1:
                        continue
                    u, v, w = lows[d, k], highs[d, k], ats[d, k]
                elif part == 0:
                    u, v, w = low, cut, to
                else:
                    u, v, w = cut, high, at
                if v - u <= same:
                    continue
                if n > 0 and abs(ats[d + 1, n - 1] - w) < same:
                    highs[d + 1, n - 1] = v
                else:
                    lows[d + 1, n], highs[d + 1, n], ats[d + 1, n] = u, v, w
                    n += 1
        count[d + 1], room[d + 1], option[d + 1] = n, room[d] - less, -1
        d += 1
    return 0
