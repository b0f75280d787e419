"""Bars: lengths cut from stock lengths with as few bars, or as cheap ones, as can be, and how few is proven.

Column generation (Gilmore and Gomory, "A linear programming approach to the cutting-stock problem", 1961): patterns are added as long as one is worth
more than its bar; the linear optimum, rounded up, is the bound. Then whole numbers of the patterns are chosen by a solver. From memory of the paper.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from zygon.design.limits import MAX_LENGTH
from zygon.errors import NestError
from zygon.tolerance import EPS, TINY, WITHIN

__all__ = ["Bar", "BarPlan", "Cut", "Pattern", "cut_bars"]

#: Lengths are reckoned in hundredths of a millimetre, cuts rounded up and bars down.
UNITS = 100
#: Patterns are generated so often at most; a bound of this size is stated where it ends early.
ROUNDS = 400
#: Steps of the search for a pattern's worth; where more would be needed, the bound is what the material alone takes.
STEPS = 300_000
#: Seconds that the solver may take for whole numbers.
SOLVER_SECONDS = 20.0
MOST_KINDS, MOST_PIECES = 200, 100_000
#: Of one bar, in whatever currency.
MOST_PRICE = 1e9
#: So many patterns are all looked at; of more kinds only those worth having.
MOST_PATTERNS = 5000

#: A way to cut a bar is taken up where its pieces are worth more than the bar by so much of its price: less is the solver's rounding.
WORTH = 1e-7


@dataclass(frozen=True)
class Cut:
    """A length in mm, wanted so often."""

    length: float
    quantity: int = 1
    name: str = ""


@dataclass(frozen=True)
class Bar:
    """A stock length in mm with what it costs and how many there are (0 for as many as are needed)."""

    length: float
    price: float = 1.0
    stock: int = 0


@dataclass(frozen=True)
class Pattern:
    """How a bar is cut: pieces of each cut by its index, on so many bars of a kind; ``rest`` is what is left of each, mm, after kerf and trims."""

    bar: int
    pieces: tuple[int, ...]
    bars: int
    rest: float


@dataclass(frozen=True)
class BarPlan:
    """The patterns, the bars they take and their cost, and what is proven: no plan costs less than ``bound`` (0 where bars run out).

    ``proven`` where cost and bound meet. ``missing`` counts pieces that no bar was left for.
    """

    patterns: tuple[Pattern, ...]
    bars: int
    cost: float
    bound: float
    proven: bool
    missing: tuple[int, ...]


def cut_bars(cuts: Sequence[Cut], bars: Sequence[Bar], kerf: float = 0.0, trim: float = 0.0, seconds: float = SOLVER_SECONDS) -> BarPlan:
    """The cheapest way to cut lengths from bars. ``kerf`` mm go with each cut, ``trim`` mm at each end of a bar; whole numbers are sought
    for so many ``seconds``.

    Raises NestError for what makes no sense: a length or price that is not over 0, a cut longer than every bar, a trim that leaves nothing.
    """
    _check(cuts, bars, kerf, trim)
    # a piece takes its length and one kerf; the last piece of a bar needs none, so the bar is a kerf longer
    sizes = [math.ceil((c.length + kerf) * UNITS - WITHIN) for c in cuts]
    room = [math.floor((b.length - 2 * trim + kerf) * UNITS + WITHIN) for b in bars]
    wanted = np.array([c.quantity for c in cuts], float)
    columns, bound = _columns(sizes, room, [b.price for b in bars], wanted, [b.stock for b in bars])
    chosen, missing = _whole(columns, bars, wanted, sizes, room, seconds)
    if sum(bars[bar].price * n for (bar, _), n in chosen) > bound + WITHIN or any(missing):
        # the linear optimum's patterns alone need not hold the best whole plan: with more of them, or all there are
        more = list(dict.fromkeys((*columns, *_more(sizes, room, [b.price for b in bars], wanted, [b.stock for b in bars]))))
        again, short = _whole(more, bars, wanted, sizes, room, seconds)
        if _worse((chosen, missing), bars) > _worse((again, short), bars):
            chosen, missing = again, short
    patterns = []
    for (bar, pieces), n in chosen:
        used = sum(p * (c.length + kerf) for p, c in zip(pieces, cuts, strict=True))
        patterns.append(Pattern(bar, pieces, n, round(max(bars[bar].length - 2 * trim - used, 0.0), 4)))
    patterns.sort(key=lambda p: (p.bar, -p.bars, p.rest))
    cost = sum(p.bars * bars[p.bar].price for p in patterns)
    return BarPlan(tuple(patterns), sum(p.bars for p in patterns), cost, bound, not any(missing) and cost <= bound + WITHIN, tuple(missing))


def _check(cuts: Sequence[Cut], bars: Sequence[Bar], kerf: float, trim: float) -> None:
    def refuse(entry: str, value: float, rule: str) -> NestError:
        return NestError(f"{entry}: {value:g} is not allowed; it is {rule}", entry=entry, value=value, rule=rule)

    if not bars:
        raise NestError("There is no bar to cut from", entry="bar", rule="at least one stock length")
    for entry, value in (("kerf", kerf), ("trim", trim)):
        if not 0 <= value <= MAX_LENGTH:
            raise refuse(entry, value, f"at least 0, and at most {MAX_LENGTH:g} mm")
    for b in bars:
        if not 2 * trim < b.length <= MAX_LENGTH:
            raise refuse("bar length", b.length, f"greater than both trims, and at most {MAX_LENGTH:g} mm")
        if not 0 < b.price <= MOST_PRICE or b.stock < 0:
            raise refuse("bar price", b.price, f"over 0 and at most {MOST_PRICE:g}, and a stock of at least 0")
    longest = max(b.length for b in bars) - 2 * trim
    if len(cuts) > MOST_KINDS or sum(max(c.quantity, 0) for c in cuts) > MOST_PIECES:
        raise refuse("cuts", len(cuts), f"at most {MOST_KINDS} lengths and {MOST_PIECES} pieces")
    for c in cuts:
        if not math.isfinite(c.length) or c.length <= 0:
            raise refuse("cut length", c.length, "greater than 0")
        if c.quantity < 1:
            raise refuse(f"quantity of {c.length:g} mm", c.quantity, "at least 1")
        if c.length > longest + EPS:
            raise refuse("cut length", c.length, f"at most {longest:g} mm, what the longest bar leaves between its trims")


Column = tuple[int, tuple[int, ...]]


def _columns(sizes: list[int], room: list[int], prices: list[float], wanted: np.ndarray, stock: list[int]) -> tuple[list[Column], float]:
    """Patterns worth having, and the bound that their linear optimum proves, rounded up where all prices are alike."""
    from scipy.optimize import linprog

    n = len(sizes)
    found: dict[Column, None] = {}
    for i in range(n):  # to begin with, each length by itself
        for k, r in enumerate(room):
            if sizes[i] <= r:
                found[(k, tuple(min(r // sizes[i], int(wanted[i])) if j == i else 0 for j in range(n)))] = None
    limited = [k for k, s in enumerate(stock) if s]
    bound = 0.0
    for _ in range(ROUNDS):
        columns = list(found)
        # pieces that no bar is left for cost more than any bar could
        dear = 1e4 * max(prices)
        cost = np.array([prices[k] for k, _ in columns] + [dear] * n)
        pieces = np.hstack((np.array([p for _, p in columns], float).T, np.eye(n)))
        rows = [-pieces, *(np.array([[1.0 if k == bar else 0.0 for k, _ in columns] + [0.0] * n]) for bar in limited)]
        limits = np.concatenate((-wanted, [stock[k] for k in limited]))
        solved = linprog(cost, A_ub=np.vstack(rows), b_ub=limits, method="highs")
        worth, scarce = (-solved.ineqlin.marginals[:n]).tolist(), solved.ineqlin.marginals[n:]
        best: list[tuple[float, Column]] = []
        sure = True
        for k, r in enumerate(room):
            value, pattern, certain = _most_worth(sizes, worth, r, wanted)
            sure &= certain
            price = prices[k] - (scarce[limited.index(k)] if k in limited else 0.0)
            if value > price + WORTH and (k, pattern) not in found:
                best.append((value - price, (k, pattern)))
        if not best:
            short = solved.x[len(columns) :].sum() > EPS  # bars run out: what is left over has no price
            bound = float(solved.fun) if sure and not short else 0.0
            break
        for _, column in best:
            found[column] = None
    # whatever the search proved, the material alone takes this much
    if not limited:
        bound = max(
            bound, sum(s * w for s, w in zip(sizes, wanted.tolist(), strict=True)) * min(p / r for p, r in zip(prices, room, strict=True))
        )
    if bound and len(set(prices)) == 1:
        bound = math.ceil(bound / prices[0] - WITHIN) * prices[0]
    return list(found), bound


def _worse(found: tuple[list[tuple[Column, int]], list[int]], bars: Sequence[Bar]) -> tuple[int, float]:
    return sum(found[1]), sum(bars[bar].price * n for (bar, _), n in found[0])


def _more(sizes: list[int], room: list[int], prices: list[float], wanted: np.ndarray, stock: list[int]) -> list[Column]:
    """All patterns to which no piece can be added, where there are not too many; else those of smaller shares of what is wanted."""
    found: dict[Column, None] = {}
    order = sorted(range(len(sizes)), key=lambda i: -sizes[i])

    def go(bar: int, at: int, left: int, taken: list[int]) -> bool:
        if len(found) > MOST_PATTERNS:
            return False
        if at == len(order):
            if all(sizes[i] > left or taken[i] >= wanted[i] for i in order):
                found[(bar, tuple(taken))] = None
            return True
        i = order[at]
        fine = True
        for count in range(min(left // sizes[i], int(wanted[i])), -1, -1):
            taken[i] = count
            fine = fine and go(bar, at + 1, left - count * sizes[i], taken)
        taken[i] = 0
        return fine

    if all(go(bar, 0, r, [0] * len(sizes)) for bar, r in enumerate(room)):
        return list(found)
    shares = (0.05, 0.15, 0.35, 0.6)
    return [c for share in shares for c in _columns(sizes, room, prices, np.ceil(wanted * share), stock)[0]]


def _most_worth(sizes: list[int], worth: list[float], room: int, wanted: np.ndarray) -> tuple[float, tuple[int, ...], bool]:
    """The pieces that fit into a room and are worth most, and whether that is certain (bounded knapsack, depth first by worth a length)."""
    order = sorted((i for i in range(len(sizes)) if worth[i] > TINY), key=lambda i: -worth[i] / sizes[i])
    best_value, best = 0.0, [0] * len(sizes)
    taken, steps = [0] * len(sizes), 0

    def go(k: int, left: int, value: float) -> None:
        nonlocal best_value, best, steps
        steps += 1
        if steps > STEPS:
            return
        if value > best_value + TINY:
            best_value, best = value, taken.copy()
        if k == len(order):
            return
        i = order[k]
        if value + left * worth[i] / sizes[i] <= best_value + TINY:
            return
        for count in range(min(left // sizes[i], int(wanted[i])), -1, -1):
            taken[i] = count
            go(k + 1, left - count * sizes[i], value + count * worth[i])
        taken[i] = 0

    go(0, room, 0.0)
    return best_value, tuple(best), steps <= STEPS


def _whole(
    columns: list[Column], bars: Sequence[Bar], wanted: np.ndarray, sizes: list[int], room: list[int], seconds: float
) -> tuple[list[tuple[Column, int]], list[int]]:
    """Whole numbers of patterns that cover what is wanted at least cost; pieces over are left out again. What found no bar comes second."""
    from scipy.optimize import Bounds, LinearConstraint, milp

    n = len(sizes)
    dear = 1e4 * max(b.price for b in bars)
    cost = np.array([bars[k].price for k, _ in columns] + [dear] * n)
    pieces = np.hstack((np.array([p for _, p in columns], float).T, np.eye(n)))
    constraints = [LinearConstraint(pieces, wanted, np.inf)]
    for bar, b in enumerate(bars):
        if b.stock:
            constraints.append(LinearConstraint(np.array([[float(k == bar) for k, _ in columns] + [0.0] * n]), 0, b.stock))
    solved = milp(cost, constraints=constraints, integrality=np.ones(len(cost)), bounds=Bounds(0, np.inf), options={"time_limit": seconds})
    if solved.x is None:
        raise NestError("No plan of whole bars was found in time", entry="cuts", value=seconds, rule=f"{seconds:g} s")
    counts = np.round(solved.x).astype(int)
    over = (pieces @ counts - wanted).astype(int).tolist()
    chosen: dict[Column, int] = {}
    for (bar, pattern), many in zip(columns, counts[: len(columns)].tolist(), strict=True):
        for _ in range(many):
            kept = list(pattern)
            for i in range(n):
                spare = min(kept[i], over[i])
                kept[i], over[i] = kept[i] - spare, over[i] - spare
            if any(kept):
                chosen[(bar, tuple(kept))] = chosen.get((bar, tuple(kept)), 0) + 1
    return list(chosen.items()), counts[len(columns) :].tolist()
