"""Range tests: of each size how far it goes before something breaks, then pairs of them in the corners of what is good of each.

It is tried at so many places and halved between; what lies between places that are good is not proven to be. Where a break is found, what lies beyond it is not looked at.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, field
from itertools import product

from zygon.design.document import Document, Size
from zygon.errors import DocumentError
from zygon.making.pipeline import build
from zygon.making.result.value import Value
from zygon.range_test.figures import step_of
from zygon.range_test.pairs import acting_pairs
from zygon.range_test.tries import Broken, Stopped, Tries
from zygon.range_test.walk import Reach, walked
from zygon.tolerance import EPS

__all__ = ["PairBreak", "RangeTest", "SizeRange", "range_test"]

Place = tuple[float, float]

#: A size without a least or a greatest value is tried to this share of its value, or to so many times as much.
SHARE = 2.0


@dataclass(frozen=True)
class SizeRange:
    """A size over its range, in mm, radians or plain. ``given`` tells which ends are the maker's own; ``wrong`` is why it was not tried, and then ``below`` and ``above`` say nothing."""

    key: str
    size: Size
    value: float
    low: float
    high: float
    given: tuple[bool, bool]
    below: Reach
    above: Reach
    wrong: str = ""

    @property
    def whole(self) -> bool:
        """Whether it works all over its range, as far as was tried."""
        return not self.wrong and self.below.broken is None and self.above.broken is None


@dataclass(frozen=True)
class PairBreak:
    """Two sizes that are good by themselves and break together: the values at which they do, and those on the way there at which they do not yet."""

    keys: tuple[str, str]
    at: tuple[float, float]
    good: tuple[float, float]
    broken: Broken


@dataclass
class RangeTest:
    """What was found so far: ``done`` of ``total`` walks, ``finished`` when that is all."""

    sizes: list[SizeRange] = field(default_factory=list)
    pairs: list[PairBreak] = field(default_factory=list)
    tried: int = 0
    done: int = 0
    total: int = 0

    @property
    def finished(self) -> bool:
        """Whether everything was tried."""
        return self.done == self.total


def range_test(tries: Tries, names: Iterable[str] = ()) -> RangeTest:
    """Tries a design's sizes, all or those with ``names``, until all is done or ``tries`` stops; asked again with the same tries it goes on.

    A size that is measured is not tried. Raises DocumentError where there is no size of a name.
    """
    document = tries.document
    wanted = _chosen(document, list(names))
    values = build(document).values
    ranges = {key: _range(document.sizes[key], key, values) for key in wanted}
    others = [key for key, size in document.sizes.items() if size.measured is None]
    whole = {key: ranges.get(key) or _range(document.sizes[key], key, values) for key in others}
    pairs = [p for p in acting_pairs(document, others) if set(p) & set(wanted)] if others else []
    if names:  # the other one of a pair has to be known too
        pairs = [p for p in pairs if not any(whole[k].wrong for k in p)]
    found = RangeTest(total=len(wanted) + len(pairs))
    walks: dict[str, SizeRange] = {}
    try:
        for key in wanted:
            walks[key] = _walk(tries, whole[key])
            found.sizes.append(walks[key])
            found.done += 1
        for pair in pairs:
            for key in pair:
                if key not in walks:
                    walks[key] = _walk(tries, whole[key])
            found.pairs += _together(tries, walks[pair[0]], walks[pair[1]])
            found.done += 1
    except Stopped:
        pass
    found.tried = len(tries.known)
    return found


def _chosen(document: Document, names: list[str]) -> list[str]:
    keys = [k for k, s in sorted(document.sizes.items(), key=lambda s: (s[1].order, s[0])) if s.measured is None]
    if not names:
        return keys
    of = {document.sizes[k].name: k for k in keys}
    for name in names:
        if name not in of:
            rule = f"one of {', '.join(of)}" if of else "a size; this design has none"
            raise DocumentError(
                f"There is no size {name!r} that can be tried: it is not {rule}", entry="size", value=name, rule=rule, code="no_size"
            )
    return [of[n] for n in dict.fromkeys(names)]


def _range(size: Size, key: str, values: dict[str, Value]) -> SizeRange:
    own, low, high = (v if (v := values.get(f"/sizes/{key}/{which}")) and not v.stale else None for which in ("entry", "low", "high"))
    given = (size.low is not None, size.high is not None)
    if own is None or (given[0] and low is None) or (given[1] and high is None):
        return _untried(key, size, "its value or its range cannot be worked out")
    if not all(given) and own.value <= EPS:
        return _untried(key, size, "it has no range: give it a least and a greatest value", own.value)
    least = 1.0 if size.kind == "count" else own.value / SHARE
    ends = (low.value if low else least, high.value if high else own.value * SHARE)
    if size.kind == "count":
        ends = (float(round(ends[0])), float(round(ends[1])))
    if ends[0] > ends[1]:
        return _untried(key, size, "its least value is over its greatest", own.value)
    return SizeRange(key, size, own.value, *ends, given, Reach(own.value), Reach(own.value))


def _untried(key: str, size: Size, wrong: str, value: float = 0.0) -> SizeRange:
    return SizeRange(key, size, value, value, value, (False, False), Reach(value), Reach(value), wrong)


def _walk(tries: Tries, one: SizeRange) -> SizeRange:
    """A size walked both ways. Where today's value lies outside its range, it is walked to the range's far end alone."""
    if one.wrong:
        return one
    step = _step(tries, one)

    def to(end: float) -> Reach:
        return walked(lambda v: tries.at({one.key: v}), one.value, end, step)

    below, above = to(min(one.low, one.value)), to(max(one.high, one.value))
    return SizeRange(one.key, one.size, one.value, one.low, one.high, one.given, below, above)


def _step(tries: Tries, one: SizeRange) -> float:
    """How near a break is halved; where the range is no wider than nothing, any step does."""
    return step_of(one.size.kind, tries.document.unit, one.low, one.high) or 1.0


def _together(tries: Tries, a: SizeRange, b: SizeRange) -> list[PairBreak]:
    """Where two sizes break together on the way to a corner of what is good of each, halfway or there: the first that is found."""
    if a.wrong or b.wrong:
        return []
    steps = [_step(tries, s) for s in (a, b)]
    for x, y in product((a.below.good, a.above.good), (b.below.good, b.above.good)):
        if x == a.value or y == b.value:
            continue  # that is a value that was tried alone
        halfway = (_rounded((a.value + x) / 2, steps[0], a.value, x), _rounded((b.value + y) / 2, steps[1], b.value, y))
        good = (a.value, b.value)
        for bad in (halfway, (x, y)):
            if broken := tries.at({a.key: bad[0], b.key: bad[1]}):
                return [_halved(tries, a, b, (steps[0], steps[1]), good, bad, broken)]
            good = bad
    return []


def _halved(tries: Tries, a: SizeRange, b: SizeRange, steps: Place, good: Place, bad: Place, broken: Broken) -> PairBreak:
    """The break of two sizes between a place that is good and one that is not, to a step of either."""
    while any(abs(p - q) > s * (1 + EPS) for p, q, s in zip(good, bad, steps, strict=True)):
        x, y = (_rounded((p + q) / 2, s, p, q) for p, q, s in zip(good, bad, steps, strict=True))
        if (x, y) in (good, bad):
            break
        found = tries.at({a.key: x, b.key: y})
        if found is None:
            good = (x, y)
        else:
            bad, broken = (x, y), found
    return PairBreak((a.key, b.key), bad, good, broken)


def _rounded(value: float, step: float, p: float, q: float) -> float:
    """The whole step next to a value, no further than either end."""
    return min(max(round(value / step) * step, min(p, q)), max(p, q))
