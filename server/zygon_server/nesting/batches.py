"""Batches: which designs are cut together, and how often each is made."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction

from zygon.making.result.built import Built
from zygon.nest.design import StockNest
from zygon.nest.record import restored
from zygon_server.designs.service import find
from zygon_server.errors import NotFound, Refused
from zygon_server.machines.models import Job
from zygon_server.nesting.models import Batch
from zygon_server.nesting.work import together

__all__ = ["at_machines", "batches", "find_batch", "part_names", "standing_sheets", "store"]

MOST_ITEMS, MOST_TIMES = 50, 200


def batches(user: AbstractBaseUser) -> list[dict[str, Any]]:
    """A maker's batches, latest first."""
    return [batch_data(b) for b in Batch.objects.filter(owner=user).prefetch_related("items__design")]


def batch_data(batch: Batch) -> dict[str, Any]:
    """A batch with its designs."""
    items = [{"design": str(i.design.pk), "name": i.design.name, "quantity": i.quantity} for i in batch.items.all()]
    return {"id": str(batch.pk), "name": batch.name, "items": items}


def find_batch(user: AbstractBaseUser, batch_id: str) -> Batch:
    """A maker's own batch; NotFound also where it is another's."""
    try:
        batch = Batch.objects.filter(owner=user, pk=UUID(batch_id)).first()
    except ValueError:
        batch = None
    if batch is None:
        raise NotFound("There is no such batch.")
    return batch


def store(user: AbstractBaseUser, batch: Batch | None, name: str, items: list[tuple[str, int]]) -> Batch:
    """Keeps a new batch, or another content of one. Refused where a quantity is not from 1 to 200, or a design stands in it twice."""
    name = name.strip()[:80] or "Cut together"
    designs = {}
    if len(items) > MOST_ITEMS:
        raise Refused(f"{len(items)} designs; at most {MOST_ITEMS} are cut together", entry="items", value=len(items), rule="at most 50")
    for design_id, quantity in items:
        design = find(user, design_id)
        if not 1 <= quantity <= MOST_TIMES:
            rule = f"1 to {MOST_TIMES} times"
            raise Refused(f"{design.name}: made {quantity} times; {rule}", entry=design.name, value=quantity, rule=rule)
        if design in designs:
            raise Refused(f"{design.name} stands in the batch twice.", entry=design.name, value=quantity, rule="each design once")
        designs[design] = quantity
    with transaction.atomic():
        batch = batch or Batch.objects.create(owner=user, name=name)
        batch.name = name
        batch.save()
        batch.items.all().delete()
        for design, quantity in designs.items():
            batch.items.create(design=design, quantity=quantity)
    return batch


def part_names(batch: Batch) -> dict[str, str]:
    """What the parts of a batch's layouts are called, by key."""
    return {part: s.name for t in together(batch) if t.plan.task for part, s in zip(t.plan.parts, t.plan.task.shapes, strict=True)}


def at_machines(batch: Batch) -> dict[str, int]:
    """How many pieces are on sheets that wait or lie at machines, and how many have been cut there."""
    found = {"waiting": 0, "cut": 0}
    for job in batch.jobs.filter(state__in=[*Job.OPEN, Job.State.DONE]).only("state", "pieces", "marks"):
        good = len(job.pieces) - sum(mark == "spoiled" for mark in job.marks.values())
        found["cut" if job.state == Job.State.DONE else "waiting"] += good
    return found


def standing_sheets(batch: Batch, digest: str) -> tuple[Built, StockNest]:
    """The layout of one of a batch's stocks, with the design that it is cut like; NotFound where it is not laid out."""
    for t in together(batch):
        row = batch.layouts.filter(digest=digest).first() if t.plan.digest == digest else None
        nest = restored(t.built.document, t.plan, row.data) if row else None
        if nest:
            return t.built, nest
    raise NotFound("This sheet is not laid out yet; nest first.")
