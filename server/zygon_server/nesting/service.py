"""The life of nest runs: ask, claim, work, beat, cancel, take up again after a worker's death."""

from __future__ import annotations

import logging
import math
import os
import socket
from datetime import timedelta
from typing import Any
from uuid import UUID

from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction
from django.db.models import Count, Max, Q
from django.utils import timezone

from zygon.design.document import Document
from zygon.errors import ZygonError
from zygon.memo import digest
from zygon.nest.design import Before, StockNest, StockPlan, as_laid, lay_out, plans
from zygon.nest.legal import turn_faults
from zygon.nest.record import carried, restored
from zygon.nest.remainder import rest_region, rests_of
from zygon.nest.room import room_on
from zygon.nest.task import Layout, Placement
from zygon.screen.design import nest_data
from zygon_server.designs.models import Design
from zygon_server.designs.service import Head, head
from zygon_server.errors import NotFound, Refused
from zygon_server.nesting.models import NestLayout, NestRun, Subject
from zygon_server.nesting.work import made_for, subject_of, work_in, work_of
from zygon_server.workshop.offcuts import keep_offcut, offcut_data, use_up

__all__ = ["LEASE", "ask", "bounded", "cancel", "claim", "earlier", "finished", "reclaim", "room", "standing", "state", "work"]

log = logging.getLogger(__name__)
#: A run whose worker has not beaten for this long is taken up by another.
LEASE = timedelta(seconds=20)
#: How long a quick run looks for better layouts, of all its stocks together.
QUICK_SECONDS = 0.8
BEAT = timedelta(seconds=0.5)
MOST_ATTEMPTS = 3
KEPT_LAYOUTS = 20
KEPT_BY_HAND = 10
#: Earlier layouts that are offered, and findings of a run that are told.
EARLIER, MOST_TRACED = 8, 400
#: Rests of one sheet that go on the shelf.
MOST_RESTS = 6
Status = NestRun.Status
ACTIVE = (Status.QUEUED, Status.RUNNING)


def ask(subject: Subject, *, quick: bool = True, seconds: float | None = None, stock: str = "") -> NestRun | None:
    """A run for a design's head or a batch, in place of any older one; None where every stock has its layout already.

    A quick run lays out only stocks whose flats changed; a real search takes all, or the one ``stock``, for longer.
    """
    todo = [(d, p) for d, p in work_of(subject) if p.task and stock in ("", p.stock)]
    if quick:
        todo = [(d, p) for d, p in todo if _row(subject, d, p) is None]
    if not todo:
        subject.nest_runs.filter(status=Status.QUEUED, quick=True).update(status=Status.CANCELLED)
        return None
    made_from = digest(sorted(p.digest for _, p in todo), quick)
    with transaction.atomic():
        same = subject.nest_runs.filter(made_from=made_from, quick=quick, status__in=ACTIVE, cancel=False).first()
        if same:
            return same
        subject.nest_runs.filter(status=Status.QUEUED).update(status=Status.CANCELLED, finished=timezone.now())
        subject.nest_runs.filter(status=Status.RUNNING).update(cancel=True)
        run = NestRun.objects.create(
            **made_for(subject),
            made_from=made_from,
            quick=quick,
            stock=stock,
            seconds=seconds or (QUICK_SECONDS if quick else todo[0][0].nest.seconds),
        )
    wake(quick=quick)
    return run


def bounded(seconds: float | None) -> float | None:
    """The time that a search may take, as far as one is asked for."""
    return min(max(seconds, 0.2), 120.0) if seconds else None


def _row(subject: Subject, document: Document, plan: StockPlan, *, keep: bool = True) -> NestLayout | None:
    """The layout of a plan, where there is one; one by hand that is legal as it stands counts at once, and is kept unless it is only looked at."""
    row = subject.layouts.filter(digest=plan.digest).first()
    if row is None and plan.hand is not None:
        laid = as_laid(document, plan)
        if laid:
            data, revision = nest_data(document, laid), _revision(subject)
            row = (
                _keep(subject, revision, data)
                if keep
                else NestLayout(digest=data["digest"], stock=data["stock"], data=data, hand=data["hand"], revision=revision)
            )
    return row


def _revision(subject: Subject) -> int:
    return subject.revision if isinstance(subject, Design) else 0


def wake(*, quick: bool) -> None:
    """Tells the queue of quick runs, or that of searches, that there is work."""
    from zygon_server.nesting.tasks import work_runs

    work_runs.using(queue_name="quick" if quick else "default").enqueue(quick=quick)


def cancel(subject: Subject, run_id: str) -> NestRun:
    """Asks a run to stop; it keeps the best that it has."""
    try:
        run = subject.nest_runs.filter(pk=UUID(run_id)).first()
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
    back = list(gone.values_list("quick", flat=True))
    gone.update(status=Status.QUEUED, worker="")
    for quick in set(back):
        wake(quick=quick)
    return n + len(back)


def claim(worker: str = "", *, quick: bool | None = None) -> NestRun | None:
    """The oldest queued run, now this worker's, of quick ones or searches only where so said; None where there is none."""
    worker = worker or f"{socket.gethostname()}:{os.getpid()}"
    now = timezone.now()
    queued = NestRun.objects.filter(status=Status.QUEUED, **({} if quick is None else {"quick": quick}))
    for pk in queued.order_by("created").values_list("pk", flat=True)[:20]:
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
            _keep(subject, run.revision, nest_data(document, best))
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
            document, plan, seconds=seconds, progress=told, known=restored(document, plan, row.data) if row else None,
            before=_before(subject, plan), search=not run.quick,
        )  # fmt: skip
        if found:
            _keep(subject, run.revision, nest_data(document, found))
            note(found)
            NestRun.objects.filter(pk=run.pk, status=Status.RUNNING, worker=run.worker).update(trace=trace)
        if not going:
            return False
    return True


def _before(subject: Subject, plan: StockPlan) -> Before | None:
    """The last layout of the same stock, which stays as far as it can."""
    last = subject.layouts.filter(stock=plan.stock).first()
    return carried(plan, last.data) if last else None


def _keep(subject: Subject, revision: int, data: dict[str, Any]) -> NestLayout:
    """Keeps a layout, unless a better one of the same plan is there."""
    known = subject.layouts.filter(digest=data["digest"]).first()
    if known and _rank(known.data) < _rank(data):
        return known
    fields = {"stock": data["stock"], "data": data, "hand": data["hand"], "summary": _summed(data)}
    row, _ = subject.layouts.update_or_create(digest=data["digest"], defaults=fields, create_defaults={**fields, "revision": revision})
    for hand, most in ((True, KEPT_BY_HAND), (False, KEPT_LAYOUTS)):
        old = subject.layouts.filter(stock=data["stock"], hand=hand).values_list("pk", flat=True)[most:]
        NestLayout.objects.filter(pk__in=list(old)).delete()
    return row


def _summed(data: dict[str, Any]) -> dict[str, Any]:
    return {"sheets": len(data["sheets"]), "share": data["share"], "cost": data["sheet_cost"], "flats": data.get("flats")}


def _rank(data: dict[str, Any]) -> tuple:
    return sum(data["unplaced"].values()), data["sheet_cost"], sum(s["used_length"] for s in data["sheets"])


def token(subject: Subject) -> str:
    """What changes whenever the state would: the head's revision, the newest layout and how far the run is. Two short queries."""
    layouts = subject.layouts.aggregate(newest=Max("made"), last=Max("pk"), count=Count("pk"))
    run = subject.nest_runs.values_list("pk", "status", "progress", "heartbeat", "cancel").first()
    return digest(_revision(subject), sorted(layouts.items(), key=str), run)


def state(subject: Subject) -> dict[str, Any]:
    """Layouts of a design's head or a batch by stock (the last one where the head's is not there yet, marked so), and the run that is on.

    Beside what is laid by hand stands what a search has ``found`` around its locked parts; ``earlier`` ones can be looked at and kept again.
    """
    stocks = []
    for document, plan in work_of(subject):
        layout = _row(subject, document, plan, keep=False)
        old = layout or subject.layouts.filter(stock=plan.stock).first()
        found = subject.layouts.filter(digest=plan.loose).first() if plan.hand is not None else None
        shown = {r.pk for r in (old, found) if r}
        rows = subject.layouts.filter(stock=plan.stock).defer("data")[: KEPT_LAYOUTS + KEPT_BY_HAND]
        earlier = [_summary(plan, r) for r in rows if r.pk not in shown]
        stocks.append({
            "stock": plan.stock, "digest": plan.digest, "current": layout is not None, "layout": old.data if old else None,
            "revision": old.revision if old else 0, "by_hand": plan.hand is not None, "found": found.data if found else None,
            "found_revision": found.revision if found else 0, "earlier": earlier[:EARLIER],
        })  # fmt: skip
    run = subject.nest_runs.first()
    return {"stocks": stocks, "run": _run_data(run) if run else None}


def _summary(plan: StockPlan, row: NestLayout) -> dict[str, Any]:
    """What a list tells of an earlier layout, and whether its flats are those of now."""
    flats = {part: flat.digest for part, flat in zip(plan.parts, plan.flats, strict=True)}
    told = row.summary or _summed(row.data)  # layouts of before they had one
    return {
        "id": row.pk, "revision": row.revision, "made": row.made.isoformat(), "sheets": told["sheets"], "share": told["share"],
        "cost": told["cost"], "hand": row.hand, "stale": told["flats"] != flats,
    }  # fmt: skip


def earlier(design: Design, pk: int) -> dict[str, Any]:
    """One of the layouts that were kept."""
    row = design.layouts.filter(pk=pk).first()
    if row is None:
        raise NotFound("There is no such layout any more.")
    return row.data


def room(design: Design, stock: str, part: str, number: int, angle: float, mirrored: bool) -> dict[str, Any]:
    """Where one copy of a part may go on the sheets of a stock's layout: pieces of room a sheet, and the turns that the part may take.

    ``angle`` in degrees; ``number`` is the copy. Refused where the layout is not there, or the part may not lie so.
    """
    now = head(design)
    plan = next((p for p in plans(now.built) if p.stock == stock), None)
    row = _row(design, now.document, plan) if plan else None
    nest = restored(now.document, plan, row.data) if plan and row else None
    if plan is None or plan.task is None or nest is None:
        raise Refused("This stock is not laid out yet.", entry="stock", value=stock, rule="a layout")
    if part not in plan.parts:
        raise NotFound(f"There is no part {part} in this stock.")
    shape = plan.parts.index(part)
    moving = Placement(shape, number, 0.0, 0.0, math.radians(angle), mirrored)
    faults = turn_faults(plan.task, moving)
    if faults:
        raise Refused(f"{faults[0]}.", entry="angle", value=angle, rule="the turns that its stock and grain allow")
    rooms: list[list[Any]] = []
    for n, sheet in enumerate(nest.layout.sheets):
        if row and row.data["sheets"][n]["cut"]:
            rooms.append([])
            continue
        still = [p for p in sheet.placements if (p.shape, p.copy) != (shape, number)]
        rooms.append(room_on(plan.task, sheet.sheet, still, moving))
    fresh = plan.task.sheet
    rooms.append(room_on(plan.task, fresh, [], moving))
    outer = plan.task.shapes[shape].region.outer.moved(0.0, 0.0, moving.angle, mirrored)
    return {
        "digest": row.digest if row else "", "rooms": rooms, "fresh": {"size": fresh.name, "length": 0.0 if fresh.roll else fresh.length, "width": fresh.width}, "box": list(outer.bounds), "turns": [math.degrees(t) for t in plan.task.shapes[shape].turns],
        "free": plan.task.shapes[shape].free, "mirror": plan.task.shapes[shape].mirror,
    }  # fmt: skip


def finished(user: AbstractBaseUser, design: Design, stock: str, number: int, place: str) -> list[dict[str, Any]]:
    """Puts what a sheet of a stock's layout gives back on the shelf; an offcut that it was cut from is used up. Refused where the sheet is not marked as cut."""
    now = head(design)
    plan = next((p for p in plans(now.built) if p.stock == stock), None)
    row = _row(design, now.document, plan) if plan else None
    nest = restored(now.document, plan, row.data) if plan and row else None
    if nest is None or plan is None or plan.task is None or row is None or not 1 <= number <= len(nest.layout.sheets):
        raise NotFound("This sheet is not laid out.")
    if not row.data["sheets"][number - 1]["cut"]:
        raise Refused(f"Sheet {number} is not marked as cut.", entry="number", value=number, rule="a sheet that has been cut")
    sheet = nest.layout.sheets[number - 1]
    record = now.document.stocks[stock]
    made = [
        keep_offcut(
            user, stock, record.name, plan.flats[0].thickness, rest_region(piece), origin=f"{design.name}, sheet {number}", place=place
        )
        for piece in rests_of(plan.task, sheet)[:MOST_RESTS]
    ]
    if sheet.sheet.name in record.offcuts:
        use_up(user, sheet.sheet.name, design)
    return [offcut_data(o) for o in made]


def _run_data(run: NestRun) -> dict[str, Any]:
    return {
        "id": str(run.pk),
        "status": run.status,
        "quick": run.quick,
        "progress": run.progress,
        "best": run.best,
        "error": run.error,
        "revision": run.revision,
        "stock": run.stock,
        "seconds": run.seconds,
        "trace": run.trace,
    }


def standing(design: Design, found: Head) -> list[StockNest]:
    """The head's layouts as the core's values, for writing sheets; stocks without one are left out."""
    nests = []
    for plan in plans(found.built):
        layout = _row(design, found.document, plan)
        nest = restored(found.document, plan, layout.data) if layout else None
        if nest:
            nests.append(nest)
    return nests
