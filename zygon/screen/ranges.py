"""A range test as screens and scripts read it: figures, sentences, and the range that would be good as entries."""

from __future__ import annotations

from zygon.design.document import Document
from zygon.measure.quantity import Kind
from zygon.range_test.figures import plain_entry, said
from zygon.range_test.run import PairBreak, RangeTest, SizeRange
from zygon.range_test.tries import Broken
from zygon.range_test.walk import Reach
from zygon.screen.shown.ranges import ShownBreak, ShownEntry, ShownPairBreak, ShownRange, ShownRangeTest

__all__ = ["ranges_data"]


def ranges_data(document: Document, found: RangeTest) -> ShownRangeTest:
    """What a test has found so far."""
    left = found.total - found.done
    words = (
        f"Tried at {found.tried} {'place' if found.tried == 1 else 'places'} and halved between; what lies between good ones is not proven."
    )
    return {
        "sizes": [_size(document, s) for s in found.sizes],
        "pairs": [_pair(document, p) for p in found.pairs],
        "tried": found.tried,
        "done": found.done,
        "total": found.total,
        "words": words if not left else f"{found.done} of {found.total} tried.",
    }


def _size(document: Document, one: SizeRange) -> ShownRange:
    kind, name = one.size.kind, one.size.name
    if one.wrong:
        low = high = ""
        words = f"not tried, as {one.wrong}"
    else:
        low, high = (said(v, kind, document.display) for v in (one.below.good, one.above.good))
        own = f"{said(one.low, kind, document.display)} to {said(one.high, kind, document.display)}"
        whole = f"works from {own}"
        words = whole if one.whole else f"works from {low} to {high}, of {own}"
        if not all(one.given):
            which = "least or greatest" if not any(one.given) else "greatest" if one.given[0] else "least"
            words += f" (no {which} value is given: half and twice were tried)"
    return {
        "key": one.key,
        "name": name,
        "wrong": one.wrong,
        "whole": one.whole,
        "words": words,
        "low": low,
        "high": high,
        "below": _break(document, name, kind, one.below),
        "above": _break(document, name, kind, one.above),
        "offer": _offer(document, one),
    }


def _offer(document: Document, one: SizeRange) -> list[ShownEntry]:
    """Least and greatest value as they would be good, where they are not the size's own already."""
    if one.wrong or (one.whole and all(one.given)):
        return []
    ends = (one.below.good, one.above.good)
    return [{"text": plain_entry(v, one.size.kind, document.unit), "unit": document.unit} for v in ends]


def _break(document: Document, name: str, kind: Kind, reach: Reach) -> ShownBreak | None:
    if reach.broken is None or reach.at is None:
        return None
    at = said(reach.at, kind, document.display)
    return {
        "at": at,
        "entry": {"text": plain_entry(reach.at, kind, document.unit), "unit": document.unit},
        "words": f"{name} {at}: {_more(reach.broken)}",
        "message": reach.broken.message,
        "code": reach.broken.code,
        "part": reach.broken.part,
        "errors": reach.broken.errors,
    }


def _pair(document: Document, one: PairBreak) -> ShownPairBreak:
    sizes = [document.sizes[k] for k in one.keys]
    at = [said(v, s.kind, document.display) for v, s in zip(one.at, sizes, strict=True)]
    return {
        "keys": list(one.keys),
        "at": at,
        "words": f"{sizes[0].name} {at[0]} with {sizes[1].name} {at[1]}: {_more(one.broken)}",
        "message": one.broken.message,
        "code": one.broken.code,
        "part": one.broken.part,
        "errors": one.broken.errors,
    }


def _more(broken: Broken) -> str:
    """Its message, and how many more there are."""
    more = broken.errors - 1
    return broken.message + (f" (and {more} more)" if more else "")
