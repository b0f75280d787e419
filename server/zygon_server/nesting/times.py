"""What sheets take at the machine, from their programs: worked out after they are laid out, as that takes longer than an edit may, and kept with them."""

from __future__ import annotations

from collections.abc import Iterable
from time import monotonic

from django.utils import timezone

from zygon.design.document import Document
from zygon.memo import digest
from zygon.nest.record import restored
from zygon.program.times import sheet_time
from zygon.screen.shown.sheets import KeptLayout, ShownSheet
from zygon_server.nesting.layouts import row_of
from zygon_server.nesting.models import NestLayout, Subject
from zygon_server.nesting.work import work_of

__all__ = ["take_times", "told"]

#: Seconds after which no further sheet is begun; whoever asks again gets the next ones.
LONG = 4.0


def take_times(subject: Subject) -> None:
    """Times the sheets of a subject's layouts as they are now, as many as there is time for, at least one."""
    until = monotonic() + LONG
    for document, plan in work_of(subject):
        row = row_of(subject, document, plan)
        nest = restored(document, plan, row.data) if row else None
        if row is None or nest is None:
            continue
        row.data = told(document, row.data)
        sheets = row.data["sheets"]
        for number in untimed(sheets):
            sheet = sheets[number - 1]
            if time := sheet_time(document, nest, number):
                sheet |= {"cut_length": time.cut_length, "pierces": time.pierces, "seconds": time.seconds, "cost": time.cost}
            sheet["timed"] = "program" if time else "lengths"
            if monotonic() > until:
                _keep(row)
                return
        _keep(row)


def told(document: Document, data: KeptLayout) -> KeptLayout:
    """A layout of a design as it is now: times that were found when cuts were begun elsewhere by hand are found anew."""
    begun = digest(document.nest.begun) if document.nest.begun else ""
    if data.get("begun", "") == begun:
        return data
    return {**data, "begun": begun, "sheets": [{**s, "timed": ""} for s in data["sheets"]]}


def untimed(sheets: Iterable[ShownSheet]) -> list[int]:
    """The sheets, from 1, whose times are reckoned from lengths only because nobody has looked yet."""
    return [n for n, sheet in enumerate(sheets, 1) if not sheet.get("timed")]


def _keep(row: NestLayout) -> None:
    """Keeps the times, unless another layout has come in its place meanwhile."""
    NestLayout.objects.filter(pk=row.pk, made=row.made).update(data=row.data, made=timezone.now())
