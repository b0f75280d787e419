"""All hardware that Zygon knows, and how it is found: by its designation, or by the words and figures that somebody types."""

from __future__ import annotations

import re
from collections.abc import Iterator
from functools import lru_cache

from zygon.errors import ZygonError
from zygon.stock.hardware.family import Family
from zygon.stock.hardware.hinges import FITTINGS
from zygon.stock.hardware.inserts import INSERTS
from zygon.stock.hardware.nuts import NUTS, WASHERS
from zygon.stock.hardware.piece import Hardware
from zygon.stock.hardware.pins import PINS
from zygon.stock.hardware.rivets import RIVETS
from zygon.stock.hardware.screws import SCREWS
from zygon.stock.hardware.threads import diameter_of

__all__ = ["FAMILIES", "by_designation", "piece", "search"]

FAMILIES: dict[str, Family] = {**SCREWS, **NUTS, **WASHERS, **INSERTS, **RIVETS, **PINS, **FITTINGS}
#: At most so many pieces are told of one search.
MOST = 200
#: What is typed longer than this names no hardware.
LONGEST = 80
#: Words that say nothing.
_EMPTY = {"a", "an", "the", "of", "for", "with", "x", "×", "mm", "by", "in"}
_FIGURE = re.compile(r"(m|st)?(\d+(?:\.\d+)?)$")


@lru_cache(maxsize=8192)
def piece(family: str, size: str, length: float | None = None) -> Hardware:
    """A piece of a family, the same object each time. KeyError for what is in no table."""
    return FAMILIES[family].piece(size, length)


def every() -> Iterator[Hardware]:
    """Every piece of the catalogue, family by family."""
    for family in FAMILIES.values():
        for size in family.rows:
            for length in family.lengths_of(size) or (None,):
                yield piece(family.key, size, length)


@lru_cache(maxsize=1)
def _all() -> dict[str, Hardware]:
    return {h.designation: h for h in every()}


def by_designation(designation: str) -> Hardware:
    """The piece of a designation. KeyError where there is none."""
    return _all()[designation]


def search(text: str, *, near: float | None = None) -> list[Hardware]:
    """What words and figures mean, as "M5 washer", "dowel 8" or "m6x20 countersunk": every word is in its name, its standard or its other words, every figure its size
    or its length. What fits a hole of ``near`` mm comes first, then what names the words itself. Raises ZygonError for what names no hardware.
    """
    words, figures = _read(text)
    if len(text) > LONGEST or not (words or figures):
        rule = f"words of the trade and sizes, at most {LONGEST} letters, as M5 washer"
        raise ZygonError(f"{text[:LONGEST]!r} names no hardware", code="bad_search", entry="text", value=text[:LONGEST], rule=rule)
    found = [h for h in _all().values() if _means(h, words, figures)]
    if not found:
        rule = "a kind of hardware with a size of its standard, as M5 washer or dowel 8"
        raise ZygonError(f"There is no hardware for {text!r}", code="no_hardware", entry="text", value=text, rule=rule)
    order = list(FAMILIES)

    def rank(h: Hardware) -> tuple[float, bool, int, float, float]:
        off = 0.0 if near is None else _off(h, near)
        plain = all(w in h.title.split() for w in words)
        return off, not plain, order.index(h.family), _number(h.size), h.length or 0.0

    return sorted(found, key=rank)[:MOST]


def _off(h: Hardware, hole: float) -> float:
    """How far from going through a hole with the usual play a piece is, in mm, in steps of a tenth; what does not go in at all comes last."""
    own = h.slices[0].disc.across if h.family in ("dowel", "pin", "magnet") else _number(h.size)
    return round(hole - own, 1) if own <= hole else 1000.0 + own - hole


def _number(size: str) -> float:
    return diameter_of(size)


def _read(text: str) -> tuple[list[str], list[tuple[str, float]]]:
    """Words, and figures with what stands before them."""
    words: list[str] = []
    figures: list[tuple[str, float]] = []
    for token in re.split(r"[\s,;/]+|(?<=\d)[x×*](?=\d)", text.lower().replace("-", " ")):
        if not token or token in _EMPTY:
            continue
        met = _FIGURE.match(token)
        if met:
            figures.append((met.group(1) or "", float(met.group(2))))
        else:
            words.append(token)
    return words, figures


def _means(h: Hardware, words: list[str], figures: list[tuple[str, float]]) -> bool:
    family = FAMILIES[h.family]
    own = set(f"{family.title} {family.words} {family.role} {family.standard}".lower().replace(",", " ").replace("-", " ").split())
    if not all(any(o == w or (len(w) > 2 and (o.startswith(w) or w == f"{o}s")) for o in own) for w in words):
        return False
    left = figures
    if left and not left[0][0] and f"{left[0][1]:g}" in own and not (_sized(h, *left[0]) and _long(h, left[1:])):
        left = left[1:]  # the standard's own number
    return not left or (_sized(h, *left[0]) and _long(h, left[1:]))


def _sized(h: Hardware, prefix: str, figure: float) -> bool:
    own = h.size.rstrip("0123456789.").lower()
    return _number(h.size) == figure and (not prefix or prefix == own)


def _long(h: Hardware, figures: list[tuple[str, float]]) -> bool:
    """Whether the figures behind the size are its length."""
    return not figures or (len(figures) == 1 and not figures[0][0] and h.length == figures[0][1])
