"""Compiled inner loops of nesting: overlap of placed outlines, and the search that separates them.

All kernels stand in this one module, with explicit signatures, since a compiled caller does not notice when a kernel elsewhere changes; their cache
lies under a hash of this file. Nothing outside ``nest/`` imports this.

The method is guided local search over overlapping layouts (Egeblad, Nielsen and Odgaard, "Fast neighborhood search for two- and
three-dimensional nesting problems", 2007), with overlap measured between inscribed circles and positions sampled, as by Gardeyn, Vanden Berghe
and Wauters ("An open-source heuristic to reboot 2D nesting research", 2025). From memory of the papers.

Glossary. *Poles*: circles inscribed in an outline, largest first. *Loss*: how much two outlines overlap, by their poles. *Weight*: what a pair's loss
counts for; it grows as long as the pair overlaps.

Arrays. An outline is its rings' corners ``points`` (n, 2), each with the index ``after`` of the next corner on its ring; outlines lie one after the
other, ``first[i]`` to ``first[i + 1]``. ``poles`` (m, 3, POLES) hold x, y, radius; a radius of 0 is none. ``box`` (m, 4) is low x, low y, high x, high y.
A pose is x, y, angle in radians, and 1 for mirrored.
"""

from __future__ import annotations

import hashlib
import os
from pathlib import Path
from typing import Any

_KEY = hashlib.sha256(Path(__file__).read_bytes()).hexdigest()[:16]
os.environ.setdefault("NUMBA_CACHE_DIR", str(Path(__file__).parent / "__pycache__" / f"kernels-{_KEY}"))

import numpy as np  # noqa: E402
from numba import njit  # noqa: E402

__all__ = ["POLES", "fill", "lay", "losses", "pair_loss", "separate"]

#: Most inscribed circles an outline has.
POLES = 8
#: Poles of two outlines that reach into each other by more than this (mm) are an overlap without looking at edges.
BITE = 1e-7
#: How far the smoothed overlap of circles reaches, as a share of the larger diameter.
SMOOTH = 0.01
#: A pair's weight grows by the first to the second a pass, by its share of the largest loss, and falls back by the third.
GROW_LEAST, GROW_MOST, FADE = 1.2, 2.0, 0.95


def _kernel(signature: str) -> Any:
    """Compiles with an explicit signature, kept in the cache."""
    return njit(signature, cache=True, nogil=True, error_model="numpy")


@_kernel("f8(u8[:])")
def _random(state):
    """A number from 0 to 1 of a xorshift generator; changes its state (1,)."""
    x = state[0]
    x ^= x >> np.uint64(12)
    x ^= x << np.uint64(25)
    x ^= x >> np.uint64(27)
    state[0] = x
    return float((x * np.uint64(0x2545F4914F6CDD1D)) >> np.uint64(11)) / 9007199254740992.0


@_kernel("void(f8[:,:], f8[:,:], i8, i8, f8[:], f8[:,:], i8, f8[:,:], f8[:])")
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


@_kernel("b1(f8[:,:], i8[:], i8, i8, f8, f8)")
def _holds(points, after, a, b, x, y):
    """Whether a point lies in the material of an outline, holes left out (even-odd rule)."""
    inside = False
    for k in range(a, b):
        n = after[k]
        y0, y1 = points[k, 1], points[n, 1]
        if (y0 > y) != (y1 > y) and x < points[k, 0] + (y - y0) * (points[n, 0] - points[k, 0]) / (y1 - y0):
            inside = not inside
    return inside


@_kernel("b1(f8[:,:], i8[:], i8, i8, f8[:], f8[:,:], i8[:], i8, i8, f8[:])")
def _cross(p, p_after, a, b, p_box, q, q_after, c, d, q_box):
    """Whether edges of two outlines properly cross; edges that only touch do not."""
    lx, ly = max(p_box[0], q_box[0]), max(p_box[1], q_box[1])
    hx, hy = min(p_box[2], q_box[2]), min(p_box[3], q_box[3])
    for k in range(a, b):
        n = p_after[k]
        x0, y0, x1, y1 = p[k, 0], p[k, 1], p[n, 0], p[n, 1]
        ex0, ex1 = (x0, x1) if x0 < x1 else (x1, x0)
        ey0, ey1 = (y0, y1) if y0 < y1 else (y1, y0)
        if ex1 < lx or ex0 > hx or ey1 < ly or ey0 > hy:
            continue
        dx, dy = x1 - x0, y1 - y0
        for j in range(c, d):
            m = q_after[j]
            u0, v0, u1, v1 = q[j, 0], q[j, 1], q[m, 0], q[m, 1]
            if (u0 < ex0 and u1 < ex0) or (u0 > ex1 and u1 > ex1) or (v0 < ey0 and v1 < ey0) or (v0 > ey1 and v1 > ey1):
                continue
            s0 = dx * (v0 - y0) - dy * (u0 - x0)
            s1 = dx * (v1 - y0) - dy * (u1 - x0)
            if (s0 >= -1e-9 and s1 >= -1e-9) or (s0 <= 1e-9 and s1 <= 1e-9):
                continue
            gx, gy = u1 - u0, v1 - v0
            t0 = gx * (y0 - v0) - gy * (x0 - u0)
            t1 = gx * (y1 - v0) - gy * (x1 - u0)
            if (t0 >= -1e-9 and t1 >= -1e-9) or (t0 <= 1e-9 and t1 <= 1e-9):
                continue
            return True
    return False


@njit("f8(f8[:,:], f8[:,:], f8)", cache=True, nogil=True, error_model="numpy", fastmath={"reassoc", "nsz"})
def _deep(p_poles, q_poles, reach):
    """How deep circles reach into each other, smoothed over ``reach``; unused circles count for nothing. Summed in any order, for speed."""
    total = 0.0
    for k in range(POLES):
        x, y, r = p_poles[0, k], p_poles[1, k], p_poles[2, k]
        for j in range(POLES):
            o = q_poles[2, j]
            dx, dy = x - q_poles[0, j], y - q_poles[1, j]
            deep = r + o - np.sqrt(dx * dx + dy * dy)
            total += max(deep, reach * reach / max(2.0 * reach - deep, reach)) * min(r, o)
    return total


@_kernel("f8(f8[:,:], i8[:], i8, i8, f8[:], f8[:,:], f8[:], f8[:,:], i8[:], i8, i8, f8[:], f8[:,:], f8[:])")
def pair_loss(p, p_after, a, b, p_box, p_poles, p_size, q, q_after, c, d, q_box, q_poles, q_size):
    """How much two outlines overlap; 0 where they only touch or stand apart. Sizes are (weight, diameter)."""
    if p_box[2] <= q_box[0] or q_box[2] <= p_box[0] or p_box[3] <= q_box[1] or q_box[3] <= p_box[1]:
        return 0.0
    # circles that reach into each other are an overlap without looking at edges
    bites = False
    for k in range(POLES):
        r = p_poles[2, k]
        if r <= 0.0 or bites:
            break
        for j in range(POLES):
            o = q_poles[2, j]
            if o <= 0.0:
                break
            near = r + o - BITE
            if (p_poles[0, k] - q_poles[0, j]) ** 2 + (p_poles[1, k] - q_poles[1, j]) ** 2 < near * near:
                bites = True
                break
    # one may lie whole in the other's material: then so does the middle of its largest pole
    if not (
        bites
        or _cross(p, p_after, a, b, p_box, q, q_after, c, d, q_box)
        or _holds(q, q_after, c, d, p_poles[0, 0], p_poles[1, 0])
        or _holds(p, p_after, a, b, q_poles[0, 0], q_poles[1, 0])
    ):
        return 0.0
    reach = SMOOTH * max(p_size[1], q_size[1])
    total = _deep(p_poles, q_poles, reach)
    return np.sqrt(total + reach * reach) * np.sqrt(p_size[0] * q_size[0])


@_kernel("f8(i8, f8[:,:], i8[:], i8, f8[:], f8[:,:], f8[:,:], i8[:], i8[:], f8[:,:], f8[:,:,:], f8[:,:], f8[:], i8, f8)")
def _cost(i, own, own_after, count, own_box, own_poles, points, after, first, box, poles, size, weight, n, limit):
    """The weighted loss of item i at a pose that ``own`` holds, against all others; at least ``limit`` where it would be more than that."""
    total = 0.0
    for j in range(n):
        if j != i and not (own_box[2] <= box[j, 0] or box[j, 2] <= own_box[0] or own_box[3] <= box[j, 1] or box[j, 3] <= own_box[1]):
            total += weight[j] * pair_loss(
                own, own_after, 0, count, own_box, own_poles, size[i], points, after, first[j], first[j + 1], box[j], poles[j], size[j]
            )
            if total >= limit:
                return total
    return total


@_kernel("void(i8, f8[:,:], i8[:], i8[:], f8[:,:], f8[:,:,:], f8[:,:], f8[:,:], i8)")
def losses(i, points, after, first, box, poles, size, loss, n):
    """Writes item i's row and column of the losses (n, n)."""
    for j in range(n):
        if j != i:
            loss[i, j] = loss[j, i] = pair_loss(
                points,
                after,
                first[i],
                first[i + 1],
                box[i],
                poles[i],
                size[i],
                points,
                after,
                first[j],
                first[j + 1],
                box[j],
                poles[j],
                size[j],
            )


@_kernel("f8(f8[:,:], i8)")
def _total(loss, n):
    """The losses of all pairs."""
    total = 0.0
    for i in range(n):
        for j in range(i):
            total += loss[i, j]
    return total


@_kernel("void(i8, f8[:], f8[:,:], i8[:], f8[:,:,:], i8, f8[:,:], i8[:], f8[:,:], f8[:,:,:])")
def lay(i, pose, base, base_first, base_poles, shape, points, first, box, poles):
    """Puts item i, of an outline of the base, at a pose."""
    _turn(base, base_poles[shape], base_first[shape], base_first[shape + 1], pose, points, first[i], poles[i], box[i])


@_kernel(
    "f8(i8, i8, f8[:], f8[:,:], i8[:], i8[:], f8[:,:,:], f8[:,:], i8[:], f8[:,:], f8[:,:,:], i8[:], i8[:], f8[:,:], f8[:,:], f8[:,:],"
    " f8[:], f8[:], i8, f8[:], f8[:], u8[:], f8, i8, i8)"
)
def _improve(  # noqa: PLR0915 - compiled: scratch arrays are shared by both stages
             i, shape, pose, base, base_first, base_after, base_poles, points, first, box, poles, after, turn_first, turns, size, extents,
             weight, bounds, n, found, tally, state, present, wide, near):  # fmt: skip
    """Seeks a pose of less cost than ``present`` for item i; its cost, with the pose in ``found``; ``tally[3]`` counts the places tried."""
    a, b = base_first[shape], base_first[shape + 1]
    count = b - a
    own = np.empty((count, 2))
    own_after = np.empty(count, np.int64)
    for k in range(count):
        own_after[k] = base_after[a + k] - a
    own_poles, own_box, at = np.empty((3, POLES)), np.empty(4), np.empty(4)
    t0, t1 = turn_first[shape], turn_first[shape + 1]
    width, height = bounds[2] - bounds[0], bounds[3] - bounds[1]
    span = min(extents[t0, 2] - extents[t0, 0], extents[t0, 3] - extents[t0, 1])
    keep = 3
    best, best_cost, best_turn = np.empty((keep, 4)), np.full(keep, np.inf), np.zeros(keep, np.int64)
    for trial in range(wide + near + 1):
        t = t0
        if t1 - t0 > 1:
            t = min(t0 + int(_random(state) * (t1 - t0)), t1 - 1)
        if trial == 0 or (trial > wide and _random(state) < 0.7):  # its present turn
            for k in range(t0, t1):
                if turns[k, 0] == pose[2] and turns[k, 1] == pose[3]:
                    t = k
        lx, ly = bounds[0] - extents[t, 0], bounds[1] - extents[t, 1]
        hx, hy = bounds[2] - extents[t, 2], bounds[3] - extents[t, 3]
        if hx < lx - 1e-9 or hy < ly - 1e-9:
            continue
        if trial == 0:
            x, y = pose[0], pose[1]
        elif trial <= wide:
            x, y = lx + _random(state) * (hx - lx), ly + _random(state) * (hy - ly)
        else:
            x = pose[0] + (_random(state) + _random(state) - 1.0) * 0.5 * min(span, width)
            y = pose[1] + (_random(state) + _random(state) - 1.0) * 0.5 * min(span, height)
        at[0], at[1], at[2], at[3] = min(max(x, lx), max(hx, lx)), min(max(y, ly), max(hy, ly)), turns[t, 0], turns[t, 1]
        _turn(base, base_poles[shape], a, b, at, own, 0, own_poles, own_box)
        tally[3] += 1.0
        cost = _cost(i, own, own_after, count, own_box, own_poles, points, after, first, box, poles, size, weight, n, best_cost[keep - 1])
        if cost < best_cost[keep - 1]:
            k = keep - 1
            while k > 0 and best_cost[k - 1] > cost:
                best_cost[k], best_turn[k] = best_cost[k - 1], best_turn[k - 1]
                best[k] = best[k - 1]
                k -= 1
            best_cost[k], best_turn[k] = cost, t
            best[k] = at
    found_cost = np.inf
    for k in range(keep):
        if best_cost[k] == np.inf:
            break
        for stage in range(2):
            if stage == 1 and k > 0 and best_cost[k] >= found_cost:
                break  # only what may be the best is refined
            t = best_turn[k]
            lx, ly = bounds[0] - extents[t, 0], bounds[1] - extents[t, 1]
            hx, hy = max(bounds[2] - extents[t, 2], lx), max(bounds[3] - extents[t, 3], ly)
            sx = sy = span * (0.25 if stage == 0 else 0.02)
            least = span * (0.02 if stage == 0 else 0.0005)
            while (sx > least or sy > least) and best_cost[k] > 0.0:
                axis = int(_random(state) * 4.0)
                dx = sx if axis != 1 else 0.0
                dy = 0.0 if axis == 0 else (sy if axis != 3 else -sy)
                better = False
                for sign in (1.0, -1.0):
                    x, y = min(max(best[k, 0] + sign * dx, lx), hx), min(max(best[k, 1] + sign * dy, ly), hy)
                    if x == best[k, 0] and y == best[k, 1]:
                        continue
                    at[0], at[1], at[2], at[3] = x, y, best[k, 2], best[k, 3]
                    _turn(base, base_poles[shape], a, b, at, own, 0, own_poles, own_box)
                    tally[3] += 1.0
                    cost = _cost(
                        i, own, own_after, count, own_box, own_poles, points, after, first, box, poles, size, weight, n, best_cost[k]
                    )
                    if cost < best_cost[k]:
                        best_cost[k] = cost
                        best[k, 0], best[k, 1] = x, y
                        better = True
                        break
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
    "i8(f8[:,:], i8[:], i8[:], f8[:,:,:], i8[:], f8[:,:], i8[:], i8[:], f8[:,:], f8[:,:], i8[:], f8[:,:], f8[:,:,:], i8[:], f8[:,:], f8[:,:], f8[:,:],"
    " i8[:], f8[:], u8[:], i8, f8[:,:], f8[:], i8, i8)"
)
def separate(base, base_first, base_after, base_poles, turn_first, turns, shape_of, fixed, extents, points, first, box, poles, after, pose, size, weight,
             order, bounds, state, passes, best_pose, tally, wide, near):  # fmt: skip
    """Moves overlapping items until none overlaps, or for so many passes; whether none does (1) or some do (0).

    ``best_pose`` keeps the layout of least loss, ``tally`` (4,) its loss, the passes since it was found, the passes in all, and the places tried. ``weight`` (n, n) is
    changed; a call goes on where the last one ended.
    """
    n = len(shape_of)
    loss = np.zeros((n, n))
    for i in range(n):
        losses(i, points, after, first, box, poles, size, loss, n)
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
            cost = _improve(i, shape_of[i], pose[i], base, base_first, base_after, base_poles, points, first, box, poles, after, turn_first, turns, size,
                            extents, weight[i], bounds, n, found, tally, state, present, wide, near)  # fmt: skip
            if cost < present:
                pose[i] = found
                lay(i, pose[i], base, base_first, base_poles, shape_of[i], points, first, box, poles)
                losses(i, points, after, first, box, poles, size, loss, n)
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


@_kernel("i8(f8[:], f8[:], i8[:], i8[:], i8[:], f8, f8, f8, i8, f8[:,:], i8[:])")
def fill(along, across, shape, twin, left, length, width, spare, steps, spots, chosen):  # noqa: PLR0915 - compiled: one loop over one stack
    """Fills a strip with rectangles, the leftmost, lowest gap of the skyline first, depth first; how many were placed, 0 where it found no way.

    Option o is rectangle ``shape[o]`` lying ``along`` by ``across``; ``twin[o]`` is an earlier option of the same size, or -1. ``left`` counts the
    rectangles of a shape; ``spare`` is the area that may stay empty. ``spots`` (n, 2) and ``chosen`` (n,) get the places and options.
    """
    same = 1e-6
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
