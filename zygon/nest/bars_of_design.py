"""The bars that a design is cut from: its lengths by stock, planned on the bars that the stock is sold in."""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass
from functools import partial
from typing import Any

from zygon.errors import ExpressionError, NestError
from zygon.making.kinds.registry import sizes_of
from zygon.making.result.built import Built, MadePart
from zygon.making.tube.body import MemberBody
from zygon.making.tube.cuts import ENDS
from zygon.measure.evaluate import plain_length
from zygon.memo import Memo, digest
from zygon.nest.bar_list import MOST_LENGTHS, plan_data
from zygon.nest.bars import Bar, Cut, cut_bars
from zygon.nest.shared_cuts import Ends, ends_of, saw_cuts, shared
from zygon.stock.bar import BarStock
from zygon.stock.kinds import is_bar

__all__ = ["BarWork", "bar_work", "lengths_of"]

#: Seconds for whole numbers; a design's plan is shown with every answer.
SECONDS = 0.5
#: Lengths are one where they differ by less than this (in digits of a mm): nobody saws nearer.
DIGITS = 2
#: A bar without a price beside others that have one is not quite for nothing, so that no more of them are taken than are needed.
FOR_NOTHING = 0.01
_PLANS = Memo(200)


@dataclass(frozen=True)
class BarWork:
    """What is cut of one bar stock: the plan as plain data (see ``plan_data``), or why there is none; and the plan's hash."""

    stock: str
    plan: dict[str, Any] | None
    refused: str = ""
    digest: str = ""


def lengths_of(built: Built) -> dict[str, Counter[tuple[str, float, float]]]:
    """By bar stock: each part's path with its length in mm and how many times the kerf its cut takes, and how often it is cut, over all copies and pieces.

    Lengths are those over the long points.
    """
    lengths: dict[str, Counter[tuple[str, float, float]]] = {}
    for part in built.made.values():
        stock = built.document.stocks.get(part.record.stock)
        length = sizes_of(part).length
        if is_bar(stock) and part.record.cut_here and length and not part.body.empty:
            of = built.parts[part.of].path if part.of in built.parts else part.path
            lengths.setdefault(part.record.stock, Counter())[of, round(length, DIGITS), _slant(part)] += part.record.quantity
    return lengths


def _sharing(built: Built, stock: str) -> dict[tuple[str, float, float], tuple[Ends, int]]:
    """The ends of what is cut from a bar stock, by path, length and slant as ``lengths_of`` has them, and how many of them slant; square where pieces of
    one row differ."""
    found: dict[tuple[str, float, float], tuple[Ends, int]] = {}
    for part in built.made.values():
        if part.record.stock != stock or not isinstance(part.body, MemberBody) or part.body.empty or not part.record.cut_here:
            continue
        of = built.parts[part.of].path if part.of in built.parts else part.path
        key, ends = (of, round(sizes_of(part).length or 0.0, DIGITS), _slant(part)), ends_of(part.body)
        slanting = sum(bool(part.body.saw(end).angle) for end in ENDS)
        known = found.get(key, (ends, slanting))[0]
        found[key] = (ends if known in (ends, ends[::-1]) else (None, None)), slanting
    return found


def _slant(part: MadePart) -> float:
    """How many times the kerf the more slanting of its saw cuts takes: 1 / cos of how far it is off square; copes are cut from a square end."""
    body = part.body
    if not isinstance(body, MemberBody):
        return 1.0
    return max(round(1 / math.cos(saw.angle or 0.0), 4) for saw in (body.saw("a"), body.saw("b")))


def bar_work(built: Built) -> list[BarWork]:
    """The work of every bar stock that something is cut from, in the order of the stocks."""
    lengths = lengths_of(built)
    stocks = sorted(lengths, key=lambda k: (built.document.stocks[k].order, k))
    return [_work(built, key, built.document.stocks[key], lengths[key]) for key in stocks]  # type: ignore[arg-type]


def _work(built: Built, key: str, stock: BarStock, lengths: Counter[tuple[str, float, float]]) -> BarWork:
    sold = sorted(stock.lengths.items(), key=lambda b: (b[1].order, b[0]))
    try:
        bars = [(plain_length(b.length), b.price, k) for k, b in sold]
        kerf, trim = plain_length(stock.kerf), plain_length(stock.trim)
    except ExpressionError as error:
        return BarWork(key, None, f"{stock.name}: {error.message}")
    cuts = [Cut(length, n, name, slant) for (name, length, slant), n in sorted(lengths.items(), key=lambda x: (-x[0][1], x[0]))]
    left = [(r.length, r.name) for _, r in sorted(stock.remainders.items(), key=lambda r: (r[1].order, r[0]))]
    if not bars and not left:
        return BarWork(key, None, f"{stock.name}: no length is entered that it is sold in")
    if len(cuts) > MOST_LENGTHS:
        return BarWork(key, None, f"{stock.name}: {len(cuts)} different lengths; at most {MOST_LENGTHS} are planned here")

    sharing = _sharing(built, key)
    of_cuts = [sharing.get((c.name, c.length, c.slant), ((None, None), 0)) for c in cuts]
    ends, slanting = [e for e, _ in of_cuts], [n for _, n in of_cuts]

    def made(there: Sequence[int | None]) -> BarWork:
        free = not any(price for _, price, _ in bars)  # without prices the fewest bars are sought
        # what is left of others is used first; it has been sawn off already, and is not trimmed again
        stocked = [
            *(Bar(length + 2 * trim, FOR_NOTHING, 1) for length, _ in left),
            *(Bar(length, price or (1.0 if free else FOR_NOTHING), count) for (length, price, _), count in zip(bars, there, strict=True)),
        ]
        try:
            plan = cut_bars(cuts, stocked, kerf, trim, SECONDS)
        except NestError as error:
            return BarWork(key, None, f"{stock.name}: {error.message}")
        told = {**plan_data(cuts, stocked, plan), "saw_cuts": 0}
        for pattern, p in zip(told["patterns"], plan.patterns, strict=True):
            pattern["shared"], pattern["saved"] = shared(zip(ends, p.pieces, strict=True))
            pattern["remainder"] = left[p.bar][1] if p.bar < len(left) else ""
            pattern["size"] = "" if p.bar < len(left) else bars[p.bar - len(left)][2]
            slants = sum(n * k for n, k in zip(slanting, p.pieces, strict=True))
            trimmed = trim > 0 and p.bar >= len(left)
            told["saw_cuts"] += p.bars * saw_cuts(sum(p.pieces), slants, pattern["shared"], trimmed=trimmed, rest=p.rest)
            if p.bar < len(left):
                pattern["bar"] = left[p.bar][0]
        told["cost"] = sum(p.bars * bars[p.bar - len(left)][1] for p in plan.patterns if p.bar >= len(left))
        told["bound"] = 0.0 if free or left else plan.bound
        told["seconds"] = told["saw_cuts"] * stock.sawing
        return BarWork(key, told, digest=digest("sawn", told["patterns"]))

    def planned(there: list[int | None]) -> BarWork:
        return _PLANS.get(
            digest("bars", key, stock.name, cuts, of_cuts, bars, left, kerf, trim, stock.sawing, there), partial(made, there)
        )[0]

    on_hand = built.on_hand.get(key, {})
    if stock.sawn:  # what was cut by the plan as it stands has left the shelf, and is what it was cut from
        as_cut = planned([on_hand[k] + stock.taken.get(k, 0) if k in on_hand else None for _, _, k in bars])
        if as_cut.digest == stock.sawn:
            return as_cut
    return planned([on_hand.get(k) for _, _, k in bars])
