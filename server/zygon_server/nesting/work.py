"""What a run works on: the plans of a design or of a batch, now, or as they were when a run was asked for."""

from __future__ import annotations

from collections import Counter
from typing import Any

from zygon.design.document import Document
from zygon.design.upgrade import load
from zygon.making.pipeline import build
from zygon.nest.design import StockPlan, plans
from zygon.nest.together import Item, Together, plans_together
from zygon_server.designs.models import Design
from zygon_server.designs.service import head
from zygon_server.machines.models import Job
from zygon_server.nesting.models import Batch, NestRun, Subject
from zygon_server.workshop.on_hand import on_hand_of

__all__ = ["Work", "made_for", "sent", "subject_of", "together", "work_in", "work_of"]

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
    return plans_together([Item(i.design.pk.hex, head(i.design).built, i.quantity) for i in items], *sent(batch))


def sent(batch: Batch) -> tuple[Counter[tuple[str, str]], set[str]]:
    """What is not to be laid out any more: how many pieces of a part with a flat have been cut or wait at a machine, and the offcuts that they lie on."""
    gone: Counter[tuple[str, str]] = Counter()
    taken: set[str] = set()
    for job in batch.jobs.filter(state__in=[*Job.OPEN, Job.State.DONE]).only("pieces", "marks", "sheet"):
        gone.update((p["key"], p["flat"]) for p in job.pieces if job.marks.get(f"{p['key']}#{p['number']}") != "spoiled")
        if job.sheet["is_offcut"]:
            taken.add(job.sheet["size"])
    return gone, taken


def made_for(subject: Subject) -> dict[str, Any]:
    """The fields of a run that hold what it is made from."""
    if isinstance(subject, Design):
        return {"design": subject, "revision": subject.revision, "document": subject.document, "good": subject.good}
    gone, taken = sent(subject)
    items = [
        {"key": i.design.pk.hex, "quantity": i.quantity, "document": i.design.document, "good": i.design.good}
        for i in subject.items.select_related("design")
    ]
    left_out = {"gone": [[*of, n] for of, n in gone.items()], "taken": sorted(taken)}
    return {"batch": subject, "revision": 0, "document": {"items": items, **left_out}}


def work_in(run: NestRun) -> list[Work]:
    """The plans of a run, from what was kept with it, and from what the shelf has now."""
    on_hand = on_hand_of(subject_of(run).owner_id)
    if run.design_id:
        built = build(load(run.document), run.good, on_hand=on_hand)
        return [(built.document, p) for p in plans(built)]
    items = [Item(i["key"], build(load(i["document"]), i["good"], on_hand=on_hand), i["quantity"]) for i in run.document["items"]]
    gone = {(key, flat): n for key, flat, n in run.document.get("gone", [])}
    return [(t.built.document, t.plan) for t in plans_together(items, gone, run.document.get("taken", []))]


def subject_of(run: NestRun) -> Subject:
    """Whose run it is."""
    found = run.design or run.batch
    assert found is not None
    return found
