"""A drawing solved: the figures nearest to those that it keeps at which all that is asked of it holds.

From the kept figures the equations are brought to hold in fixed shares of what they lack, so that a large change leads the same way as many small ones;
at each share the nearest place of those at which they hold is gone to: straight onto their surface, damped where rows depend on one another, and along it
towards where it is kept. What contradicts is looked for among what hangs together.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from dataclasses import dataclass

import numpy as np
from scipy.sparse import csr_matrix, identity
from scipy.sparse.csgraph import connected_components
from scipy.sparse.linalg import splu

from zygon.drawing.equations import Equations
from zygon.drawing.unknowns import Fast, Unknowns
from zygon.drawn.drawing import Drawing, Relation
from zygon.patience import still_wanted
from zygon.tolerance import EPS, SLACK, TINY, WITHIN

__all__ = ["Clash", "Solved", "driving", "parts_of", "solve_drawing"]

#: In one share of the way an equation comes nearer by no more than this share of the drawing's extent, and a direction turns by no more than this (radians).
STEP, TURN = 0.1, math.radians(10)
#: Shares into which a change is cut, at most.
SHARES = 60
#: Rounds at each share in which the least movement is sought, and those that only bring the equations to hold.
NEAREST, TIGHTENED = 6, 60
#: Those of the first at the end of the way.
LAST = 100
#: As many of each where it is only tried whether some can hold together.
TRIED = (1, 1, 24)
#: So many contradictions, of so many relations that do not hold, are told with the fewest that have a part in them; of more than that all that do not hold are left out, and told as they are.
MOST_CLASHES, LOOKED_INTO = 4, 120
#: The least share of the way that is gone towards home where the surface bends much.
SHORTEST = 1e-3
#: Rounds in which the least movement is sought of what is led by hand, pull by pull.
LED = 8
#: After so many rounds in which more than this share of what lacks is kept no more are gone.
STALLED, KEPT = 6, 0.8
#: Where all cannot hold, rows that lack this share of the most have a part in it: at the least sum of squares what lacks is a dependence of the rows.
PART = 1e-3
#: Up to so many figures a Jacobian is taken as a plain array.
DENSE = 60_000
#: By how much rows that depend on one another are damped, as a share of the others.
DAMPED = 1e-11
#: While they are far from holding they are damped by what they lack, up to this share: rows that will depend on one another do so nearly before, and
#: would fling the drawing away (Yamashita and Fukushima, 2001: so damped it still converges as fast where they do).
SOFT = 0.01
#: Where they do not come to hold so, they are damped next to not at all.
HARD = 1e-6
#: How much more a radius counts than a place: what is rounded stays as round as it is where something else can give way.
ROUND = 100.0
#: How much more a point that is pulled counts than one that is not.
PULLED = 1e4
#: How far beside where it lies a drawing is tried too, as a share of its extent, and the turn by which that differs from figure to figure.
BESIDE, GOLDEN = 0.02, math.pi * (3 - math.sqrt(5))
#: A point is pulled by this share of the drawing's extent at first, by twice as much where that brings it nearer, else by half; so many times at most.
PULL, PULLS = 0.1, 30
#: Less of the extent than this is not worth a pull.
LEAST = 1e-3


@dataclass(frozen=True)
class Clash:
    """Relations that cannot all hold, by their keys in order; the last of them, ``left_out``, does not."""

    relations: tuple[str, ...]
    left_out: str


@dataclass(frozen=True)
class Solved:
    """A drawing's figures in the row of ``unknowns``, the equations that hold there, and what contradicts."""

    unknowns: Unknowns
    row: np.ndarray
    equations: Equations
    clashes: tuple[Clash, ...] = ()

    @property
    def holds(self) -> bool:
        """Whether all that is asked holds."""
        return not self.clashes

    def point(self, key: str) -> tuple[float, float]:
        """Where a point lies, in mm; also by 'KEY.a', 'KEY.b' or 'KEY.centre'."""
        i, j = self.unknowns.point(key)
        return float(self.row[i]), float(self.row[j])

    def radius(self, key: str) -> float:
        """The radius of a circle or an arc, in mm."""
        return float(self.row[self.unknowns.round(key)[2]])


def driving(drawing: Drawing) -> dict[str, Relation]:
    """The relations that are asked to hold, in the order in which they were said."""
    asked = {k: r for k, r in drawing.relations.items() if not r.out and not r.measured}
    return dict(sorted(asked.items(), key=lambda kr: (kr[1].order, kr[0])))


def solve_drawing(
    drawing: Drawing,
    figures: Mapping[str, float],
    fast: Fast | None = None,
    *,
    pulled: Mapping[str, tuple[float, float]] | None = None,
    rough: bool = False,
) -> Solved:
    """A drawing with its dimensions as ``figures`` (mm or radians, by the relation's key) and what it refers to where ``fast`` has it.

    Points that are ``pulled`` go as near to where they are pulled as what is asked lets them, within what the eye sees where ``rough``. Where not all can hold, the last that was said of the fewest
    that contradict is left out, and told in ``clashes``.
    """
    unknowns, asked = Unknowns(drawing, fast), driving(drawing)
    clashes: list[Clash] = []
    while True:
        equations = Equations(unknowns, asked, figures)
        row, lacking = _walk(unknowns, equations, pulled or {}, SLACK if rough else WITHIN)
        owners = {equations.rows[i] for i in lacking}
        if not owners:
            return Solved(unknowns, row, equations, tuple(clashes))
        off = np.abs(equations.values(row))
        most = {equations.rows[i] for i in np.flatnonzero(off > PART * off.max())}
        lacks = [k for k in asked if k in most]
        if len(clashes) < MOST_CLASHES and len(lacks) <= LOOKED_INTO:
            clash = _clash(asked, figures, unknowns, owners, most)
            gone = {clash.left_out} if clash else set()
        else:
            clash = Clash(tuple(lacks), lacks[-1]) if lacks else None
            gone = set(lacks)
        if clash is None:  # it does not hold, and no fewer do not: what is pulled is let go of, or it stands as it is
            if pulled:
                pulled = None
                continue
            told = tuple(o for o in asked if o in owners)
            return Solved(unknowns, row, equations, (*clashes, Clash(told, (told or sorted(owners))[-1])))
        clashes.append(clash)
        asked = {k: r for k, r in asked.items() if k not in gone}


def parts_of(slopes: csr_matrix) -> tuple[np.ndarray, np.ndarray]:
    """The part to which each row and each unknown of a Jacobian belongs; parts share nothing."""
    m, n = slopes.shape
    both = csr_matrix((np.ones(slopes.nnz), slopes.indices + m, slopes.indptr), shape=(m, m + n))
    both.resize((m + n, m + n))
    labels = connected_components(both, directed=False)[1]
    return labels[:m], labels[m:]


def _walk(
    u: Unknowns,
    equations: Equations,
    pulled: Mapping[str, tuple[float, float]],
    near: float = WITHIN,
    rounds: tuple[int, int, int] = (NEAREST, LAST, TIGHTENED),
) -> tuple[np.ndarray, np.ndarray]:
    """The row at which the equations hold, and the numbers of those that do not."""
    x = u.now.copy()
    extent = _extent(u)
    goal = x[: u.free].copy()
    led: list[int] = []
    for key, place in pulled.items():
        at = u.point(key)
        if max(at) < u.free:
            goal[list(at)] = place
            led += at
    if not len(equations.rows):
        x[: u.free] = goal
        return x, np.zeros(0, int)
    x = _to_hold(u, equations, x, extent, rounds)
    lacking = _lacking(equations, x, extent)
    if len(lacking):  # damped, a short line may give way to nothing in place of all that hangs on it
        tried = _to_hold(u, equations, u.now.copy(), extent, rounds, HARD)
        fewer = _lacking(equations, tried, extent)
        if len(fewer) < len(lacking):
            x, lacking = tried, fewer
    if len(lacking):  # where rows depend on one another just as it lies, none of them moves it: it is tried from beside there
        beside = u.now.copy()
        beside[: u.free] += BESIDE * extent * np.sin(GOLDEN * np.arange(1, u.free + 1))
        tried = _to_hold(u, equations, beside, extent, rounds)
        fewer = _lacking(equations, tried, extent)
        if len(fewer) < len(lacking):
            x, lacking = tried, fewer
    if led and not len(lacking):
        x = _lead(equations, x, goal, np.array(led, int), extent, near)
    return x, lacking


def _to_hold(
    u: Unknowns, equations: Equations, x: np.ndarray, extent: float, rounds: tuple[int, int, int], soft: float = SOFT
) -> np.ndarray:
    """From a row to one at which the equations hold, in fixed shares of what they lack, damped by ``soft`` at most; ``rounds`` in which the least movement is sought at each, at the last, and those that only tighten."""
    if float(np.abs(equations.values(x)).max(initial=0.0)) <= EPS * extent:
        return x
    lack = equations.values(x, 0.0)
    steps = max(float(np.abs(lack).max(initial=0.0)) / (STEP * extent), equations.turned_by / TURN)
    shares = min(SHARES, max(1, math.ceil(steps)))
    home = x[: u.free].copy()
    even = np.ones(u.free)
    even[list(u.radii.values())] = ROUND
    for k in range(1, shares + 1):
        left = lack * (1 - k / shares)
        x = _settle(equations, x, left, k / shares, home, even, extent, soft, rounds[k == shares], rounds[2])
        if k < shares and float(np.abs(equations.values(x, k / shares) - left).max()) > SLACK * extent:
            return _settle(equations, x, np.zeros_like(lack), 1.0, home, even, extent, soft, rounds[0], rounds[2])
    return x


def _lacking(equations: Equations, x: np.ndarray, extent: float) -> np.ndarray:
    return np.flatnonzero(np.abs(equations.values(x)) > WITHIN * max(1.0, extent / 1000))


def _lead(equations: Equations, x: np.ndarray, goal: np.ndarray, led: np.ndarray, extent: float, near: float) -> np.ndarray:
    """The row at which what is led (its places in the row) is nearest to its goal, the rest as near to where it was as that lets it."""
    free, none = len(goal), np.zeros(len(equations.rows))
    home, weight = x[:free].copy(), np.ones(free)
    weight[led] = PULLED
    reach, gap = PULL * extent, goal[led] - x[led]
    beyond = np.zeros(len(led))  # what the rest holds it back by, once it is near
    for _ in range(PULLS):
        far = float(np.abs(gap).max())
        if far <= near * extent or reach <= LEAST * extent:
            break
        toward = home.copy()
        toward[led] = goal[led] + beyond if reach >= far else x[led] + gap * (reach / far)
        tried = _settle(equations, x, none, 1.0, toward, weight, extent, WITHIN / PULLED, LED)
        left = goal[led] - tried[led]
        if np.linalg.norm(left) < np.linalg.norm(gap) * (1 - SLACK) and float(np.abs(equations.values(tried)).max()) <= WITHIN * extent:
            beyond = beyond + left if reach >= far else beyond
            x, gap, reach = tried, left, 2 * reach
        else:
            reach, beyond = reach / 2, np.zeros(len(led))
    return x


def _extent(u: Unknowns) -> float:
    points = u.now[: 2 * len(u.points)].reshape(-1, 2)
    radius = max((float(u.now[i]) for i in u.radii.values()), default=0.0)
    wide = float(np.ptp(points, axis=0).max()) if len(points) else 0.0
    return max(wide, 2 * radius, 1.0)


def _settle(
    equations: Equations,
    x: np.ndarray,
    lack: np.ndarray,
    share: float,
    home: np.ndarray,
    weight: np.ndarray,
    extent: float,
    soft: float = SOFT,
    nearest: int = NEAREST,
    tightened: int = TIGHTENED,
) -> np.ndarray:
    """The row nearest to ``home`` at which the equations are off by ``lack`` alone.

    Each round goes along the equations' surface towards home, as far as the surface bends little (Barzilai and Borwein's step), and straight back onto it.
    """
    free, x = len(home), x.copy()
    give = 1 / weight
    before, share_of_way = math.inf, 1.0
    last: tuple[np.ndarray, np.ndarray] | None = None
    for n in range(nearest + tightened):
        still_wanted()
        f = equations.values(x, share) - lack
        lacks = float(np.abs(f).max(initial=0.0))
        if n % STALLED == 0:
            if n > nearest and lacks > KEPT * before:
                break
            before = lacks
        back = home - x[:free] if n < nearest else np.zeros(free)
        damped = max(DAMPED, min(soft, lacks / extent))
        along, onto = _moves(equations, x, share, back, f, give, damped)
        if last is not None and n < nearest:
            s, y = x[:free] - last[0], last[1] - along
            bent = float(s @ (weight * y))
            share_of_way = min(1.0, max(SHORTEST, float(s @ (weight * s)) / bent)) if bent > 0 else 1.0
        last = x[:free].copy(), along
        move = share_of_way * along + onto if n < nearest else along + onto
        far = float(np.abs(move).max(initial=0.0))
        if far > extent / 2:
            move *= extent / 2 / far
        x[:free] += move
        if n >= nearest and far < EPS * extent:
            break
        if n < nearest and n and float(np.abs(along).max(initial=0.0)) < WITHIN * extent and lacks < EPS * extent:
            # there is nothing nearer; the last way along has left the surface by its bend, and is brought back onto it
            nearest, before = n, math.inf
    return x


def _moves(
    equations: Equations, x: np.ndarray, share: float, back: np.ndarray, f: np.ndarray, give: np.ndarray, damped: float
) -> tuple[np.ndarray, np.ndarray]:
    """What of the way ``back`` goes along the equations' surface, and the way onto it, to first order; both the least by weight."""
    if len(f) * len(back) <= DENSE:
        dense = equations.dense_slopes(x, share)
        plain = (dense * give) @ dense.T
        scale = float(plain.diagonal().max(initial=TINY))

        def solved(right: np.ndarray, by: float) -> np.ndarray:
            square = plain.copy()
            square[np.diag_indices_from(square)] += by * scale
            return np.linalg.solve(square, right)

        along, onto = solved(dense @ back, DAMPED), solved(f, damped)
        return back - give * (along @ dense), -give * (onto @ dense)
    slopes = equations.slopes(x, share)
    taken = slopes.copy()
    taken.data *= give[taken.indices]
    sparse = (taken @ slopes.T).tocsc()
    ones = identity(len(f), format="csc") * float(sparse.diagonal().max(initial=TINY))
    # what goes along is not damped: else some of the way back would lead off the surface for good
    factored = splu(sparse + DAMPED * ones)
    along = factored.solve(slopes @ back)
    onto = factored.solve(f) if damped <= DAMPED else splu(sparse + damped * ones).solve(f)
    return back - give * (slopes.T @ along), -give * (slopes.T @ onto)


def _from_afar(u: Unknowns, asked: Mapping[str, Relation], keys: list[str], last: str) -> list[str]:
    """Relations in the order in which they are tried to have no part: those that hang together with the last by the longest way first."""

    def things(key: str) -> set[str]:
        found = set[str]()
        for of in asked[key].of:
            own = of.partition(".")[0]
            curve = u.drawing.curves.get(own)
            found |= {own, u.drawing.point(of), *(curve.points() if curve else ())}
        return found

    reached, far, left = things(last), {last: 0}, [k for k in keys if k != last]
    step = 0
    while left:
        step += 1
        near = [k for k in left if things(k) & reached] or left
        far |= dict.fromkeys(near, step)
        left = [k for k in left if k not in far]
        reached |= {t for k in near for t in things(k)}
    return sorted(keys, key=lambda k: -far[k])


def _clash(asked: Mapping[str, Relation], figures: Mapping[str, float], u: Unknowns, owners: set[str], most: set[str]) -> Clash | None:
    """The fewest relations that contradict one another, of those that hang together with what does not hold; None where none are found.

    ``most`` are the owners of rows that lack most, among which they are looked for first.
    """

    def holds(keys: list[str]) -> bool:
        tried = Equations(u, {k: asked[k] for k in keys}, figures, alone=True)
        return not keys or not len(_walk(u, tried, {}, rounds=TRIED)[1])

    suspects = [k for k in asked if k in most]
    if holds(suspects):
        equations = Equations(u, asked, figures)
        rows, _ = parts_of(equations.slopes(u.now))
        bad = {int(rows[i]) for i, owner in enumerate(equations.rows) if owner in owners}
        together = {o for i, o in enumerate(equations.rows) if int(rows[i]) in bad and o in asked}
        suspects = [k for k in asked if k in together]
        if holds(suspects):
            return None
    # the first that cannot hold with those before it
    low, high = 0, len(suspects)
    while low < high - 1:
        half = (low + high) // 2
        if holds(suspects[:half]):
            low = half
        else:
            high = half
    kept = suspects[:high]
    last = kept[-1]
    alike = [k for k in kept if k != last and set(asked[k].of) == set(asked[last].of)]
    kept = next(([k, last] for k in alike if not holds([k, last])), kept)
    return Clash(tuple(_fewest(_from_afar(u, asked, kept, last), last, holds, list(asked))), last)


def _fewest(keys: list[str], last: str, holds: Callable[[list[str]], bool], order: list[str]) -> list[str]:
    """Those of ``keys``, which cannot all hold, of which none can be spared; what comes first is tried to be spared first, many at once where that goes."""
    kept, many = [k for k in keys if k != last], len(keys) // 2
    while many:
        at = 0
        while at < len(kept):
            fewer = kept[:at] + kept[at + many :]
            if holds([*sorted(fewer, key=order.index), last]):
                at += many
            else:
                kept = fewer
        many = 0 if many == 1 else max(1, many // 2)
    return [*sorted(kept, key=order.index), last]
