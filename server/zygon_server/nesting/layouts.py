"""Layouts as they are kept: one a plan, the best of it, and a few of those before."""

from __future__ import annotations

from typing import Any

from zygon.design.document import Document
from zygon.nest.design import StockNest, StockPlan, as_laid, plans
from zygon.nest.record import restored
from zygon.screen.design import nest_data
from zygon.screen.shown.sheets import KeptLayout
from zygon_server.designs.models import Design
from zygon_server.designs.service import Head
from zygon_server.errors import NotFound
from zygon_server.nesting.models import NestLayout, Subject

__all__ = ["KEPT_BY_HAND", "KEPT_LAYOUTS", "earlier", "keep_layout", "revision_of", "row_of", "standing", "summed"]

#: Layouts of a stock that are kept, as searches and as hands laid them.
KEPT_LAYOUTS, KEPT_BY_HAND = 20, 10


def row_of(subject: Subject, document: Document, plan: StockPlan, *, keep: bool = True) -> NestLayout | None:
    """The layout of a plan, where there is one; one by hand that is legal as it stands counts at once, and is kept unless it is only looked at."""
    row = subject.layouts.filter(digest=plan.digest).first()
    if row is None and plan.hand is not None:
        laid = as_laid(document, plan)
        if laid:
            data, revision = nest_data(document, laid), revision_of(subject)
            row = (
                keep_layout(subject, revision, data)
                if keep
                else NestLayout(digest=data["digest"], stock=data["stock"], data=data, hand=data["hand"], revision=revision)
            )
    return row


def keep_layout(subject: Subject, revision: int, data: KeptLayout) -> NestLayout:
    """Keeps a layout, unless a better one of the same plan is there."""
    known = subject.layouts.filter(digest=data["digest"]).first()
    if known and _rank(known.data) < _rank(data):
        return known
    if known and data.get("placements") and known.data.get("placements") == data["placements"]:  # what its sheets take has been found
        data["begun"] = known.data.get("begun", "")
        for sheet, same in zip(data["sheets"], known.data["sheets"], strict=True):
            if same.get("timed"):
                sheet["cut_length"], sheet["pierces"], sheet["timed"] = same["cut_length"], same["pierces"], same["timed"]
                sheet["seconds"], sheet["cost"] = same["seconds"], same["cost"]
    fields = {"stock": data["stock"], "data": data, "hand": data["hand"], "summary": summed(data)}
    row, _ = subject.layouts.update_or_create(digest=data["digest"], defaults=fields, create_defaults={**fields, "revision": revision})
    for hand, most in ((True, KEPT_BY_HAND), (False, KEPT_LAYOUTS)):
        old = subject.layouts.filter(stock=data["stock"], hand=hand).values_list("pk", flat=True)[most:]
        NestLayout.objects.filter(pk__in=list(old)).delete()
    return row


def summed(data: KeptLayout) -> dict[str, Any]:
    return {"sheets": len(data["sheets"]), "share": data["share"], "cost": data["sheet_cost"], "flats": data.get("flats")}


def _rank(data: KeptLayout) -> tuple:
    return sum(data["unplaced"].values()), data["sheet_cost"], sum(s["used_length"] for s in data["sheets"])


def revision_of(subject: Subject) -> int:
    return subject.revision if isinstance(subject, Design) else 0


def earlier(design: Design, pk: int) -> dict[str, Any]:
    """One of the layouts that were kept."""
    row = design.layouts.filter(pk=pk).first()
    if row is None:
        raise NotFound("There is no such layout any more.")
    return row.data


def standing(design: Design, found: Head) -> list[StockNest]:
    """The head's layouts as the core's values, for writing sheets; stocks without one are left out."""
    nests = []
    for plan in plans(found.built):
        layout = row_of(design, found.document, plan)
        nest = restored(found.document, plan, layout.data) if layout else None
        if nest:
            nests.append(nest)
    return nests
