"""The life of nest runs: ask, claim, work, beat, cancel, take up again after a worker's death."""

from __future__ import annotations

import logging
import os
import socket
from datetime import timedelta
from typing import Any
from uuid import UUID

from django.db import transaction
from django.db.models import Q
from django.utils import timezone

from zygon.build.memo import digest
from zygon.build.pipeline import build
from zygon.design.upgrade import load
from zygon.errors import ZygonError
from zygon.exchange.screen import nest_data
from zygon.nest.design import StockNest, StockPlan, lay_out, plans
from zygon.nest.record import restored
from zygon.nest.task import Layout
from zygon_server.designs.models import Design
from zygon_server.designs.service import Head, head
from zygon_server.errors import NotFound
from zygon_server.nesting.models import NestLayout, NestRun

__all__ = ["LEASE", "ask", "cancel", "claim", "reclaim", "standing", "state", "work"]

log = logging.getLogger(__name__)
#: A run whose worker has not beaten for this long is taken up by another.
LEASE = timedelta(seconds=20)
BEAT = timedelta(seconds=0.5)
MOST_ATTEMPTS = 3
KEPT_LAYOUTS = 40
Status = NestRun.Status
ACTIVE = (Status.QUEUED, Status.RUNNING)


def ask(design: Design, *, quick: bool = True, seconds: float | None = None) -> NestRun | None:
    """A run for the design's head, in place of any older one; None where every stock has its layout already.

    A quick run lays out only stocks whose flats changed; a real search takes all, for longer.
    """
    built = head(design).built
    found = plans(built)
    if quick:
        known = set(design.layouts.values_list("digest", flat=True))
        found = [p for p in found if p.digest not in known]
    if not found:
        NestRun.objects.filter(design=design, status=Status.QUEUED, quick=True).update(status=Status.CANCELLED)
        return None
    made_from = digest(sorted(p.digest for p in found), quick)
    with transaction.atomic():
        same = NestRun.objects.filter(design=design, made_from=made_from, quick=quick, status__in=ACTIVE, cancel=False).first()
        if same:
            return same
        older = NestRun.objects.filter(design=design)
        older.filter(status=Status.QUEUED).update(status=Status.CANCELLED, finished=timezone.now())
        older.filter(status=Status.RUNNING).update(cancel=True)
        run = NestRun.objects.create(
            design=design, revision=design.revision, document=design.document, good=design.good, made_from=made_from, quick=quick,
            seconds=seconds or (0.8 if quick else built.document.nest.seconds),
        )  # fmt: skip
    wake()
    return run


def wake() -> None:
    """Tells the queue that there is work."""
    from zygon_server.nesting.tasks import work_runs

    work_runs.enqueue()


def cancel(design: Design, run_id: str) -> NestRun:
    """Asks a run to stop; it keeps the best that it has."""
    try:
        run = NestRun.objects.filter(design=design, pk=UUID(run_id)).first()
    except ValueError:
        run = None
    if run is None:
        raise NotFound("There is no such nest run.")
    NestRun.objects.filter(pk=run.pk, status=Status.QUEUED).update(status=Status.CANCELLED, finished=timezone.now())
    NestRun.objects.filter(pk=run.pk, status=Status.RUNNING).update(cancel=True)
    run.refresh_from_db()
    return run


def reclaim() -> int:
    """Puts runs whose lease ran out back into the queue, and gives up on those that died too often; how many were touched."""
    gone = NestRun.objects.filter(status=Status.RUNNING, lease_until__lt=timezone.now())
    lost = gone.filter(Q(cancel=True) | Q(attempts__gte=MOST_ATTEMPTS))
    n = lost.filter(cancel=True).update(status=Status.CANCELLED, finished=timezone.now())
    n += lost.filter(cancel=False).update(status=Status.FAILED, error="Its worker died too often.", finished=timezone.now())
    back = gone.update(status=Status.QUEUED, worker="")
    if back:
        wake()
    return n + back


def claim(worker: str = "") -> NestRun | None:
    """The oldest queued run, now this worker's; None where there is none."""
    worker = worker or f"{socket.gethostname()}:{os.getpid()}"
    now = timezone.now()
    for pk in NestRun.objects.filter(status=Status.QUEUED).order_by("created").values_list("pk", flat=True)[:20]:
        run = NestRun.objects.get(pk=pk)
        taken = NestRun.objects.filter(pk=pk, status=Status.QUEUED).update(
            status=Status.RUNNING, worker=worker, heartbeat=now, lease_until=now + LEASE, attempts=run.attempts + 1
        )
        if taken:
            return NestRun.objects.get(pk=pk)
    return None


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
    fields: dict[str, Any] = {"status": status, "error": error, "finished": timezone.now(), "best": None}
    if status == Status.DONE:
        fields["progress"] = 1.0
    mine.update(**fields)


def _search(run: NestRun) -> bool:
    """Whether the search came to its end; layouts are kept as they are found."""
    built = build(load(run.document), run.good)
    document = built.document
    known = set(run.design.layouts.values_list("digest", flat=True)) if run.quick else set()
    todo = [p for p in plans(built) if p.digest not in known and p.tasks]
    last = timezone.now()
    shown: Layout | None = None

    def beat(share: float, n: int, best: StockNest) -> bool:
        nonlocal last, shown
        now = timezone.now()
        if now - last < BEAT:
            return True
        last = now
        if best.layout is not shown:  # kept as it is found, for whoever looks on, or takes the run up
            shown = best.layout
            _keep(run.design, nest_data(document, best))
        mine = NestRun.objects.filter(pk=run.pk, status=Status.RUNNING, worker=run.worker)
        progress = (n + share) / len(todo)
        summary = {"stock": best.plan.stock, "sheets": len(best.layout.sheets), "share": best.layout.share}
        alive = mine.update(heartbeat=now, lease_until=now + LEASE, progress=progress, best=summary)
        return bool(alive) and not mine.filter(cancel=True).exists()

    for n, plan in enumerate(todo):
        going = True

        def told(share: float, best: StockNest, n: int = n) -> bool:
            nonlocal going
            going = beat(share, n, best)
            return going

        # a run that is taken up again, and a search for something better, go on from what is there
        row = run.design.layouts.filter(digest=plan.digest).first()
        known = restored(document, plan, row.data) if row else None
        seconds = run.seconds / len(todo) if run.quick else run.seconds
        found = lay_out(document, plan, seconds=seconds, progress=told, start=_start(run, plan), known=known)
        if found:
            _keep(run.design, nest_data(document, found))
        if not going:
            return False
    return True


def _start(run: NestRun, plan: StockPlan) -> dict[str, list[str]]:
    """The order of the last layout of the same stock, to begin the search from."""
    last = run.design.layouts.filter(stock=plan.stock).first()
    return {last.data["sheet"]: last.data["order"]} if last else {}


def _keep(design: Design, data: dict[str, Any]) -> None:
    """Keeps a layout, unless a better one of the same plan is there."""
    known = NestLayout.objects.filter(design=design, digest=data["digest"]).first()
    if known and _rank(known.data) < _rank(data):
        return
    NestLayout.objects.update_or_create(design=design, digest=data["digest"], defaults={"stock": data["stock"], "data": data})
    old = NestLayout.objects.filter(design=design).values_list("pk", flat=True)[KEPT_LAYOUTS:]
    NestLayout.objects.filter(pk__in=list(old)).delete()


def _rank(data: dict[str, Any]) -> tuple:
    return sum(data["unplaced"].values()), data["sheet_cost"], sum(s["used_length"] for s in data["sheets"])


def state(design: Design) -> dict[str, Any]:
    """Layouts of the head by stock (the last one where the head's is not there yet, marked so), and the run that is on."""
    reclaim()
    stocks = []
    for plan in plans(head(design).built):
        layout = design.layouts.filter(digest=plan.digest).first()
        old = layout or design.layouts.filter(stock=plan.stock).first()
        stocks.append({"stock": plan.stock, "digest": plan.digest, "current": layout is not None, "layout": old.data if old else None})
    run = design.nest_runs.first()
    return {"stocks": stocks, "run": _run_data(run) if run else None}


def _run_data(run: NestRun) -> dict[str, Any]:
    return {
        "id": str(run.pk),
        "status": run.status,
        "quick": run.quick,
        "progress": run.progress,
        "best": run.best,
        "error": run.error,
        "revision": run.revision,
    }


def standing(design: Design, found: Head) -> list[StockNest]:
    """The head's layouts as the core's values, for writing sheets; stocks without one are left out."""
    nests = []
    for plan in plans(found.built):
        layout = design.layouts.filter(digest=plan.digest).first()
        nest = restored(found.document, plan, layout.data) if layout else None
        if nest:
            nests.append(nest)
    return nests
