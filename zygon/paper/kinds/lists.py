"""Lists, and sheets as nested."""

from __future__ import annotations

import csv
import io
from collections.abc import Mapping

from zygon.exchange.cutlist import cut_list
from zygon.exchange.formats import LISTS
from zygon.making.result.built import Built
from zygon.paper.hidden import Seen
from zygon.paper.kinds.common import block_of, style_of
from zygon.paper.looks import LookName
from zygon.paper.nested import nested_view
from zygon.paper.sheet import Plan
from zygon.paper.subjects import Subject
from zygon.paper.table import table_of

__all__ = ["list_sheet", "nested_sheet"]


def list_sheet(built: Built, subject: Subject, seen: Mapping[LookName, Seen], sheet: str) -> Plan:
    """What stands on a list."""
    text = LISTS[subject.id.partition(":")[2]].write(built)
    head, *rows = csv.reader(io.StringIO(text.lstrip("\ufeff")))
    table = table_of(subject.id.partition(":")[2], subject.title, head, [tuple(r) for r in rows], [])
    return Plan(subject.id, subject.title, block_of(built, subject, "List", sheet), (), style_of(built, subject), (table,))


def nested_sheet(built: Built, subject: Subject, seen: Mapping[LookName, Seen], sheet: str) -> Plan:
    """What stands on a sheet as nested."""
    assert subject.nest is not None
    rows = cut_list(built)
    view, table = nested_view(built, subject.nest, subject.number, rows)
    return Plan(
        subject.id,
        subject.title,
        block_of(built, subject, "Sheet as nested", sheet),
        (view,),
        style_of(built, subject),
        (table,),
        (),
        most=1.0,
    )
