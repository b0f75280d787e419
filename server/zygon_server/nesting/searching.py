"""A claimed run worked: layouts are kept as they are found, and a beat tells that it is alive."""

from __future__ import annotations

import logging
from datetime import timedelta
from typing import Any

from django.conf import settings
from django.utils import timezone

from zygon.design.document import Document
from zygon.errors import ZygonError
from zygon.nest.design import Before, StockNest, StockPlan, lay_out
from zygon.nest.engine import cores
from zygon.nest.record import carried, restored
from zygon.nest.task import Layout
from zygon.screen.design import nest_data
from zygon_server.nesting.layouts import keep_layout
from zygon_server.nesting.models import NestRun, Subject
from zygon_server.nesting.runs import LEASE, Status, ended
from zygon_server.nesting.work import subject_of, work_in

__all__ = ["work"]

log = logging.getLogger(__name__)
BEAT = timedelta(seconds=0.5)
#: Findings of a run that are told.
MOST_TRACED = 400
#: A search of so many seconds is worth more processes than one.
LONG = 3.0


def work(run: NestRun) -> None:
    """Lays a claimed run out and closes it: done, cancelled with the best so far, or failed with what went wrong."""
    try:
        ended = _search(run)
        _close(run, Status.DONE if ended else Status.CANCELLED)
    except ZygonError as error:
        _close(run, Status.FAILED, error.message)
    except Exception:
        log.exception("nest run %s failed", run.pk)
        _close(run, Status.FAILED, "The nesting engine failed; the log has the details.")


def _close(run: NestRun, status: str, error: str = "") -> None:
    mine = NestRun.objects.filter(pk=run.pk, status=Status.RUNNING, worker=run.worker)
    fields = {**ended(status), "error": error, "best": None}
    if status == Status.DONE:
        fields["progress"] = 1.0
    mine.update(**fields)


def _search(run: NestRun) -> bool:
    """Whether the search came to its end; layouts are kept as they are found."""
    subject = subject_of(run)
    known = set(subject.layouts.values_list("digest", flat=True)) if run.quick else set()
    todo = [(d, p) for d, p in work_in(run) if p.task and p.digest not in known and run.stock in ("", p.stock)]
    began = last = timezone.now()
    shown: Layout | None = None  # what is kept
    traced: Layout | None = None
    trace: list[dict[str, Any]] = []

    def note(best: StockNest) -> None:
        nonlocal traced
        if best.layout is traced or not best.layout.sheets:
            return
        traced, at = best.layout, (timezone.now() - began).total_seconds()
        cost, sheets = best.sheet_cost, len(traced.sheets)
        trace.append({"at": at, "stock": best.plan.stock, "sheets": sheets, "tightness": traced.tightness, "cost": cost})
        del trace[:-MOST_TRACED]

    def beat(share: float, n: int, document: Document, best: StockNest) -> bool:
        nonlocal last, shown
        note(best)
        now = timezone.now()
        if now - last < BEAT and (shown is not None or not best.layout.sheets):
            return True
        last = now
        if best.layout is not shown and best.layout.sheets:  # kept as it is found, for whoever looks on, or takes the run up
            shown = best.layout
            keep_layout(subject, run.revision, nest_data(document, best))
        mine = NestRun.objects.filter(pk=run.pk, status=Status.RUNNING, worker=run.worker)
        progress = (n + share) / len(todo)
        summary = {"stock": best.plan.stock, "sheets": len(best.layout.sheets), "share": best.layout.share}
        alive = mine.update(heartbeat=now, lease_until=now + LEASE, progress=progress, best=summary, trace=trace)
        return bool(alive) and not mine.filter(cancel=True).exists()

    for n, (document, plan) in enumerate(todo):
        going = True

        def told(share: float, best: StockNest, n: int = n, document: Document = document) -> bool:
            nonlocal going
            going = beat(share, n, document, best)
            return going

        # a run that is taken up again, and a search for something better, go on from what is there
        row = subject.layouts.filter(digest=plan.loose).first()
        seconds = run.seconds / len(todo) if run.quick else run.seconds
        found = lay_out(
            document,
            plan,
            seconds=seconds,
            progress=told,
            known=restored(document, plan, row.data) if row else None,
            before=_before(subject, plan),
            search=not run.quick,
            workers=_workers(run, seconds),
        )
        if found:
            keep_layout(subject, run.revision, nest_data(document, found))
            note(found)
            NestRun.objects.filter(pk=run.pk, status=Status.RUNNING, worker=run.worker).update(trace=trace)
        if not going:
            return False
    return True


def _workers(run: NestRun, seconds: float) -> int:
    """As many as there are cores, or as are set; one for what is over before others have begun, and for what a maker sees while editing."""
    return 1 if run.quick or seconds < LONG else settings.SEARCH_WORKERS or cores()


def _before(subject: Subject, plan: StockPlan) -> Before | None:
    """The last layout of the same stock, which stays as far as it can."""
    last = subject.layouts.filter(stock=plan.stock).first()
    return carried(plan, last.data) if last else None
