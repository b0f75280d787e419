"""What a run works on: the plans of a design or of a batch, now, or as they were when a run was asked for."""

from __future__ import annotations

from typing import Any

from zygon.design.document import Document
from zygon.design.upgrade import load
from zygon.making.pipeline import build
from zygon.nest.design import StockPlan, plans
from zygon.nest.together import Item, Together, plans_together
from zygon_server.designs.models import Design
from zygon_server.designs.service import head
from zygon_server.nesting.models import Batch, NestRun, Subject
from zygon_server.workshop.on_hand import on_hand_of

__all__ = ["Work", "made_for", "subject_of", "together", "work_in", "work_of"]

Work = tuple[Document, StockPlan]


def work_of(subject: Subject) -> list[Work]:
    """The plans of a subject as it is now."""
    if isinstance(subject, Design):
        built = head(subject).built
        return [(built.document, p) for p in plans(built)]
    return [(t.built.document, t.plan) for t in together(subject)]


def together(batch: Batch) -> list[Together]:
    """The plans of a batch, each with the design that its stock is taken from."""
    items = batch.items.select_related("design")
    return plans_together([Item(i.design.pk.hex, head(i.design).built, i.quantity) for i in items])


def made_for(subject: Subject) -> dict[str, Any]:
    """The fields of a run that hold what it is made from."""
    if isinstance(subject, Design):
        return {"design": subject, "revision": subject.revision, "document": subject.document, "good": subject.good}
    items = [
        {"key": i.design.pk.hex, "quantity": i.quantity, "document": i.design.document, "good": i.design.good}
        for i in subject.items.select_related("design")
    ]
    return {"batch": subject, "revision": 0, "document": {"items": items}}


def work_in(run: NestRun) -> list[Work]:
    """The plans of a run, from what was kept with it, and from what the shelf has now."""
    on_hand = on_hand_of(subject_of(run).owner_id)
    if run.design_id:
        built = build(load(run.document), run.good, on_hand=on_hand)
        return [(built.document, p) for p in plans(built)]
    items = [Item(i["key"], build(load(i["document"]), i["good"], on_hand=on_hand), i["quantity"]) for i in run.document["items"]]
    return [(t.built.document, t.plan) for t in plans_together(items)]


def subject_of(run: NestRun) -> Subject:
    """Whose run it is."""
    found = run.design or run.batch
    assert found is not None
    return found
