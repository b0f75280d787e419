"""A sheet that a maker put into the set: its views are those that are put on it."""

from __future__ import annotations

from collections.abc import Mapping

from zygon.exchange.cutlist import cut_list
from zygon.making.result.built import Built
from zygon.paper.hidden import Seen
from zygon.paper.kinds.common import block_of, style_of
from zygon.paper.kinds.whole import parts_list
from zygon.paper.looks import LookName
from zygon.paper.sheet import Plan
from zygon.paper.subjects import Subject, said_of

__all__ = ["own_sheet"]


def own_sheet(built: Built, subject: Subject, seen: Mapping[LookName, Seen], sheet: str) -> Plan:
    """What stands on it beside its views: the parts list where one of those has balloons."""
    said = said_of(built, subject)
    tables = (parts_list(built, cut_list(built)),) if any(v.balloons for v in said.views.values()) else ()
    faults = () if said.views else ("Nothing stands on this sheet yet: put a view on it",)
    block = block_of(built, subject, "Views", sheet)
    return Plan(subject.id, subject.title, block, (), style_of(built, subject), tables, together=True, faults=faults)
