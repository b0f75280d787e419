"""Bars: lengths cut from stock lengths with as few bars, or as cheap ones, as can be, and how few is proven.

Column generation (Gilmore and Gomory, "A linear programming approach to the cutting-stock problem", 1961): patterns are added as long as one is worth
more than its bar; the linear optimum, rounded up, is the bound. Then whole numbers of the patterns are chosen by a solver. From memory of the paper.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from zygon.errors import NestError
from zygon.limits import MAX_LENGTH
from zygon.tolerance import EPS, TINY, WITHIN

__all__ = ["Bar", "BarPlan", "Cut", "Pattern", "cut_bars"]

#: Lengths are reckoned in hundredths of a millimetre, cuts rounded up and bars down.
UNITS = 100
#: Patterns are generated so often at most; a bound of this size is stated where it ends early.
ROUNDS = 400
#: And so often for what is left, where the patterns of the whole are there already.
FEW_ROUNDS = 4
#: Steps of the search for a pattern's worth; where more would be needed, the bound is what the material alone takes.
STEPS = 300_000
#: A plan that is to be there within fewer seconds than this, of more lengths than so many, does with fewer steps, and with the linear optimum's patterns.
QUICK, FEW_KINDS, QUICK_STEPS = 2.0, 12, 20_000
#: Into so many steps a bar is divided where the worth of its pieces is first looked for.
COARSE = 6000
#: Where the linear optimum takes no pattern whole, those that it takes by so much or more, or the most.
NEARLY = 0.75
#: So many patterns are taken up at once.
BESIDE = 12
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
    """A length in mm, wanted so often. The cut that parts it from the next takes ``slant`` times the kerf, more than once where it is not square."""

    length: float
    quantity: int = 1
    name: str = ""
    slant: float = 1.0


@dataclass(frozen=True)
class Bar:
    """A stock length in mm with what it costs and how many there are (None for as many as are needed)."""

    length: float
    price: float = 1.0
    stock: int | None = None


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
    room = [math.floor((b.length - 2 * trim + kerf) * UNITS + WITHIN) for b in bars]
    # and one by itself is parted from nothing, however its ends slant
    sizes = [min(math.ceil((c.length + kerf * c.slant) * UNITS - WITHIN), max(room)) for c in cuts]
    wanted = np.array([c.quantity for c in cuts], float)
    quick = seconds < QUICK and len(cuts) > FEW_KINDS
    columns, bound, _ = _columns(sizes, room, [b.price for b in bars], wanted, [b.stock for b in bars], QUICK_STEPS if quick else STEPS)
    chosen, missing = _dived(columns, bars, wanted, sizes, room)
    if sum(bars[bar].price * n for (bar, _), n in chosen) > bound + WITHIN or any(missing):
        solved, short = _whole(columns, bars, wanted, sizes, room, seconds)
        if _worse((chosen, missing), bars) > _worse((solved, short), bars):
            chosen, missing = solved, short
    if not quick and (sum(bars[bar].price * n for (bar, _), n in chosen) > bound + WITHIN or any(missing)):
        # the linear optimum's patterns alone need not hold the best whole plan: with more of them, or all there are
        more = list(dict.fromkeys((*columns, *_more(sizes, room, [b.price for b in bars], wanted, [b.stock for b in bars]))))
        again, short = _whole(more, bars, wanted, sizes, room, seconds)
        if _worse((chosen, missing), bars) > _worse((again, short), bars):
            chosen, missing = again, short
    patterns = []
    for (bar, pieces), n in chosen:
        used = sum(p * (c.length + kerf * c.slant) for p, c in zip(pieces, cuts, strict=True))
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
        if not 0 < b.price <= MOST_PRICE or (b.stock or 0) < 0:
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


def _columns(
    sizes: list[int],
    room: list[int],
    prices: list[float],
    wanted: np.ndarray,
    stock: list[int | None],
    steps: int = STEPS,
    start: Sequence[Column] = (),
) -> tuple[list[Column], float, np.ndarray]:
    """Patterns worth having, the bound that their linear optimum proves, rounded up where all prices are alike, and how much of each that takes.

    Where the worth of a pattern is not certain within ``steps``, the bound is what the linear optimum proves by the most that a pattern can be
    worth (Farley, "A note on bounding a class of linear programming problems, including cutting stock problems", 1990; from memory).
    """
    from scipy.optimize import linprog

    n = len(sizes)
    found: dict[Column, None] = dict.fromkeys(start)
    for i in range(n):  # to begin with, each length by itself
        for k, r in enumerate(room):
            if sizes[i] <= r:
                found[(k, tuple(min(r // sizes[i], int(wanted[i])) if j == i else 0 for j in range(n)))] = None
    limited = [k for k, s in enumerate(stock) if s is not None]
    bound = 0.0
    limits = np.concatenate((-wanted, np.array([s for s in stock if s is not None], float)))
    table = np.empty((n + len(limited), 0))
    for _ in range(ROUNDS if steps else FEW_ROUNDS):
        columns = list(found)
        # pieces that no bar is left for cost more than any bar could
        dear = 1e4 * max(prices)
        cost = np.array([prices[k] for k, _ in columns] + [dear] * n)
        fresh = columns[table.shape[1] :]
        bars = np.array([[1.0 if k == bar else 0.0 for k, _ in fresh] for bar in limited]).reshape(len(limited), len(fresh))
        table = np.hstack((table, np.vstack((-np.array([p for _, p in fresh], float).reshape(len(fresh), n).T, bars))))
        spare = np.vstack((-np.eye(n), np.zeros((len(limited), n))))
        solved = linprog(cost, A_ub=np.hstack((table, spare)), b_ub=limits, method="highs-ds", options={"presolve": False})
        worth, scarce = (-solved.ineqlin.marginals[:n]).tolist(), solved.ineqlin.marginals[n:]
        own = [prices[k] - (scarce[limited.index(k)] if k in limited else 0.0) for k in range(len(room))]
        best: list[tuple[float, Column]] = []
        for k, r in enumerate(room):
            for value, pattern in _about_worth(sizes, worth, r, wanted):
                if value > own[k] + WORTH and (k, pattern) not in found:
                    best.append((value - own[k], (k, pattern)))
        share = 1.0
        if not best:
            for k, r in enumerate(room):
                value, pattern, certain = _most_worth(sizes, worth, r, wanted, steps)
                if value > own[k] + WORTH and (k, pattern) not in found:
                    best.append((value - own[k], (k, pattern)))
                elif not certain:
                    share = min(share, own[k] / max(_about_worth(sizes, worth, r, wanted, down=True)[0][0], own[k]))
        if not best:
            short = solved.x[len(columns) :].sum() > EPS  # bars run out: what is left over has no price
            bound = 0.0 if short or (share < 1 and limited) else float(solved.fun) * share
            break
        for _, column in best:
            found[column] = None
    # whatever the search proved, the material alone takes this much
    if not limited:
        bound = max(
            bound,
            sum(s * w for s, w in zip(sizes, wanted.tolist(), strict=True)) * min(p / r for p, r in zip(prices, room, strict=True) if r),
        )
    if bound and len(set(prices)) == 1:
        bound = math.ceil(bound / prices[0] - WITHIN) * prices[0]
    return list(found), bound, solved.x[: len(columns)]


def _worse(found: tuple[list[tuple[Column, int]], list[int]], bars: Sequence[Bar]) -> tuple[int, float]:
    return sum(found[1]), sum(bars[bar].price * n for (bar, _), n in found[0])


def _more(sizes: list[int], room: list[int], prices: list[float], wanted: np.ndarray, stock: list[int | None]) -> list[Column]:
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


def _dived(
    columns: list[Column], bars: Sequence[Bar], wanted: np.ndarray, sizes: list[int], room: list[int]
) -> tuple[list[tuple[Column, int]], list[int]]:
    """Whole numbers of patterns by what the linear optimum takes whole, again and again of what is left; where it takes none whole, its greatest share."""
    left, stock = wanted.copy(), [b.stock for b in bars]
    chosen: dict[Column, int] = {}
    while (left > 0).any():
        # of what is used up there is none: no bar of it is taken as one of which there are as many as are needed
        open_room = [0 if s == 0 else r for s, r in zip(stock, room, strict=True)]
        most = np.minimum(np.array([p for _, p in columns]), left.astype(int)).tolist()
        clipped = [(k, tuple(pattern)) for (k, _), pattern in zip(columns, most, strict=True) if open_room[k]]
        if not any(open_room):
            break
        columns, _, share = _columns(
            sizes, open_room, [b.price for b in bars], left, stock, 0, [c for c in dict.fromkeys(clipped) if any(c[1])]
        )
        whole = np.floor(share + WITHIN).astype(int)
        if not whole.any():
            whole[share >= min(NEARLY, share.max())] = 1
        for (bar, pattern), many in zip(columns, whole.tolist(), strict=False):
            for _ in range(many):
                taken = tuple(int(min(p, w)) for p, w in zip(pattern, left, strict=True))
                if not any(taken) or stock[bar] == 0:
                    break
                chosen[bar, taken] = chosen.get((bar, taken), 0) + 1
                left = left - np.array(taken, float)
                there = stock[bar]
                stock[bar] = None if there is None else there - 1
    return list(chosen.items()), left.astype(int).tolist()


def _about_worth(
    sizes: list[int], worth: list[float], room: int, wanted: np.ndarray, *, down: bool = False
) -> list[tuple[float, tuple[int, ...]]]:
    """Pieces that fit into a room and are worth about the most, the best first, by steps of its length into which sizes are rounded up; ``down``: no
    pieces are worth more than the one.

    Bounded knapsack by dynamic programming, counts split into powers of two.
    """
    unit = max(1, room // COARSE)
    places = room // unit
    items: list[tuple[int, int, int]] = []
    for i, size in enumerate(sizes):
        left = min(room // size, int(wanted[i])) if worth[i] > TINY else 0
        many = 1
        while left:
            many = min(many, left)
            items.append((i, many, many * size // unit if down else -(-many * size // unit)))
            left -= many
            many *= 2
    best = np.zeros(places + 1)
    taken = np.zeros((len(items), places + 1), bool)
    for k, (i, many, long) in enumerate(items):
        if long > places:
            continue
        with_it = best[: places + 1 - long] + worth[i] * many
        better = with_it > best[long:] + TINY
        taken[k, long:] = better
        best[long:] = np.where(better, with_it, best[long:])

    def pieces(at: int) -> list[int]:
        pattern = [0] * len(sizes)
        for k in range(len(items) - 1, -1, -1):
            i, many, long = items[k]
            if taken[k, at]:
                pattern[i] += many
                at -= long
        return pattern

    whole = pieces(int(best.argmax()))
    found = [(float(best.max()), tuple(whole))]
    if down:
        return found
    # beside the best the best with one piece of each of those that are worth most: fewer rounds are needed
    for i in sorted((i for i in range(len(sizes)) if worth[i] > TINY), key=lambda i: -worth[i] / sizes[i])[:BESIDE]:
        at = places - -(-sizes[i] // unit)
        if at < 0:
            continue
        pattern = pieces(int(best[: at + 1].argmax()))
        if pattern[i] < min(room // sizes[i], wanted[i]):
            pattern[i] += 1
        found.append((sum(n * w for n, w in zip(pattern, worth, strict=True)), tuple(pattern)))
    return found


def _most_worth(
    sizes: list[int], worth: list[float], room: int, wanted: np.ndarray, most: int = STEPS
) -> tuple[float, tuple[int, ...], bool]:
    """The pieces that fit into a room and are worth most, and whether that is certain (bounded knapsack, depth first by worth a length)."""
    order = sorted((i for i in range(len(sizes)) if worth[i] > TINY), key=lambda i: -worth[i] / sizes[i])
    best_value, best = 0.0, [0] * len(sizes)
    taken, steps = [0] * len(sizes), 0

    def go(k: int, left: int, value: float) -> None:
        nonlocal best_value, best, steps
        steps += 1
        if steps > most:
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
    return best_value, tuple(best), steps <= most


def _first_fit(columns: list[Column], pieces: np.ndarray, wanted: np.ndarray, cost: np.ndarray, stock: list[int | None]) -> np.ndarray:
    """Whole numbers of patterns where the solver found none in time: the pattern that covers most of what is left for its price, again and again."""
    counts, left = np.zeros(len(cost), int), wanted.copy()
    used = [0] * len(stock)
    while (left > 0).any():
        covers = np.minimum(pieces, left[:, None]).sum(axis=0) / cost
        for k, (bar, _) in enumerate(columns):
            there = stock[bar]
            if there is not None and used[bar] >= there:
                covers[k] = 0.0
        k = int(covers.argmax())
        counts[k] += 1
        left = np.maximum(left - pieces[:, k], 0.0)
        if k < len(columns):
            used[columns[k][0]] += 1
    return counts


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
        if b.stock is not None:
            constraints.append(LinearConstraint(np.array([[float(k == bar) for k, _ in columns] + [0.0] * n]), 0, b.stock))
    solved = milp(cost, constraints=constraints, integrality=np.ones(len(cost)), bounds=Bounds(0, np.inf), options={"time_limit": seconds})
    counts = np.round(solved.x).astype(int) if solved.x is not None else _first_fit(columns, pieces, wanted, cost, [b.stock for b in bars])
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
