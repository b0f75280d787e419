"""The range test of a design: tried a few seconds' worth at a time by whoever asks, and kept, so that it is stopped and gone on with."""

from __future__ import annotations

from time import monotonic

from pydantic import TypeAdapter

from zygon.design.document import Document
from zygon.memo import digest
from zygon.range_test.run import range_test
from zygon.range_test.tries import Broken, Tries
from zygon.screen.ranges import ranges_data
from zygon.screen.shown.ranges import ShownRangeTest
from zygon_server.designs.models import Design, RangeTries
from zygon_server.designs.service import head

__all__ = ["LONG", "found", "go_on"]

#: Seconds after which no further place is tried; whoever asks again gets the next ones.
LONG = 3.0
_KNOWN = TypeAdapter(dict[str, Broken | None])
#: What of a document no try reads.
BESIDE = {"name", "note", "papers"}


def found(design: Design) -> ShownRangeTest:
    """What was found so far of the design as it is now; nothing further is tried."""
    document = head(design).built.document
    return ranges_data(document, range_test(Tries(document, _known(design, document), lambda: False)))


def go_on(design: Design) -> ShownRangeTest:
    """Tries on, at one place at least, and keeps what was found."""
    document = head(design).built.document
    known, until = _known(design, document), monotonic() + LONG
    begun = len(known)
    test = range_test(Tries(document, known, lambda: len(known) == begun or monotonic() < until))
    if len(known) > begun:
        kept = {"digest": _read(document), "tries": _KNOWN.dump_python(known, mode="json")}
        RangeTries.objects.update_or_create(design=design, defaults=kept)
    return ranges_data(document, test)


def _known(design: Design, document: Document) -> dict[str, Broken | None]:
    row = RangeTries.objects.filter(design=design, digest=_read(document)).first()
    return _KNOWN.validate_python(row.tries) if row else {}


def _read(document: Document) -> str:
    """What tries follow from: all of a design but the ends of its ranges, which only say where it is tried, and what is beside."""
    data = document.model_dump(mode="json", exclude=BESIDE)
    for size in data["sizes"].values():
        size["low"] = size["high"] = None
    return digest("ranges", data)
