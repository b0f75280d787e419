"""The life of nest runs: ask, claim, cancel, take up again after a worker's death."""

from __future__ import annotations

import logging
import os
import signal
import socket
import time
from datetime import timedelta
from pathlib import Path
from typing import Any
from uuid import UUID

from django.conf import settings
from django.db import transaction
from django.db.models import Count, Max, Q, QuerySet
from django.db.models.functions import Coalesce
from django.utils import timezone
from redis.exceptions import RedisError

from zygon.memo import digest
from zygon_server.errors import NotFound
from zygon_server.nesting.layouts import row_of
from zygon_server.nesting.models import NestRun, Subject
from zygon_server.nesting.work import made_for, work_of

__all__ = ["LEASE", "QUICK_SECONDS", "ask", "bounded", "cancel", "claim", "ended", "reclaim", "remind", "wake"]

#: A run whose worker has not beaten for this long is taken up by another.
LEASE = timedelta(seconds=20)
#: A queued run that nobody takes for so long was forgotten.
FORGOTTEN = timedelta(seconds=5)
#: As the settings say.
QUICK_SECONDS = settings.QUICK_SECONDS
MOST_ATTEMPTS = 3
#: Of a long queue so many are looked at.
MOST_LOOKED_AT = 200
Status = NestRun.Status
log = logging.getLogger(__name__)
ACTIVE = (Status.QUEUED, Status.RUNNING)


def ask(subject: Subject, *, quick: bool = True, seconds: float | None = None, stock: str = "") -> NestRun | None:
    """A run for a design's head or a batch, in place of any older one; None where every stock has its layout already.

    A quick run lays out only stocks whose flats changed; a real search takes all, or the one ``stock``, for longer.
    """
    todo = [(d, p) for d, p in work_of(subject) if p.task and stock in ("", p.stock)]
    if quick:
        todo = [(d, p) for d, p in todo if row_of(subject, d, p) is None]
    if not todo:
        subject.nest_runs.filter(status=Status.QUEUED, quick=True).update(**ended(Status.CANCELLED))
        return None
    made_from = digest(sorted(p.digest for _, p in todo), quick)
    with transaction.atomic():
        same = subject.nest_runs.filter(made_from=made_from, quick=quick, status__in=ACTIVE, cancel=False).first()
        if same:
            return same
        subject.nest_runs.filter(status=Status.QUEUED).update(**ended(Status.CANCELLED))
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


def ended(status: str) -> dict[str, Any]:
    """The fields of a run that is at its end: what it was made from is not needed any more, and is as large as a design."""
    return {"status": status, "finished": timezone.now(), "document": {}, "good": {}}


def bounded(seconds: float | None) -> float | None:
    """The time that a search may take, as far as one is asked for."""
    return min(max(seconds, 0.2), 120.0) if seconds else None


def wake(*, quick: bool) -> None:
    """Tells the queue of quick runs, or that of searches, that there is work."""
    from zygon_server.nesting.tasks import work_runs

    try:
        work_runs.using(queue_name="quick" if quick else "default").enqueue(quick=quick)
    except (
        OSError,
        RedisError,
    ) as error:  # a queue on another machine that is down: the run is kept, and is reminded of until somebody comes
        log.warning("the queue cannot be reached, and is asked again in a moment: %s", error)


def remind() -> int:
    """Wakes the queue again for runs that wait while nobody works: whoever was woken for them may have died before it came to them. How many wait so."""
    waiting = NestRun.objects.filter(status=Status.QUEUED, created__lt=timezone.now() - FORGOTTEN)
    kinds = set(waiting.values_list("quick", flat=True)) - set(
        NestRun.objects.filter(status=Status.RUNNING).values_list("quick", flat=True)
    )
    for quick in kinds:
        wake(quick=quick)
    return waiting.filter(quick__in=kinds).count()


def cancel(subject: Subject, run_id: str) -> NestRun:
    """Asks a run to stop; it keeps the best that it has."""
    try:
        run = subject.nest_runs.filter(pk=UUID(run_id)).first()
    except ValueError:
        run = None
    if run is None:
        raise NotFound("There is no such nest run.")
    NestRun.objects.filter(pk=run.pk, status=Status.QUEUED).update(**ended(Status.CANCELLED))
    NestRun.objects.filter(pk=run.pk, status=Status.RUNNING).update(cancel=True)
    run.refresh_from_db()
    return run


def reclaim() -> int:
    """Puts runs whose lease ran out back into the queue, and gives up on those that died too often; how many were touched."""
    gone = NestRun.objects.filter(status=Status.RUNNING, lease_until__lt=timezone.now())
    stuck = set(gone.values_list("worker", flat=True))
    lost = gone.filter(Q(cancel=True) | Q(attempts__gte=MOST_ATTEMPTS))
    n = lost.filter(cancel=True).update(**ended(Status.CANCELLED))
    n += lost.filter(cancel=False).update(**ended(Status.FAILED), error="Its worker died too often.")
    back = list(gone.values_list("quick", flat=True))
    gone.update(status=Status.QUEUED, worker="")
    for worker in stuck:
        _end_stuck(worker)
    for quick in set(back):
        wake(quick=quick)
    return n + len(back)


def _end_stuck(worker: str) -> None:
    """Ends a worker of this machine that lives but has not beaten: it would hold its queue up. It tells first what it was at; its supervisor starts another."""
    host, _, pid = worker.rpartition(":")
    if host != socket.gethostname() or not pid.isdigit() or int(pid) == os.getpid():
        return
    try:
        if b"work_queue" not in Path(f"/proc/{pid}/cmdline").read_bytes():
            return  # it died, and another process has its number
        log.error("worker %s is stuck and is ended", worker)
        os.kill(int(pid), signal.SIGUSR1)
        time.sleep(0.2)
        os.kill(int(pid), signal.SIGKILL)
    except OSError:
        return


def _by_turns(queued: QuerySet[NestRun]) -> list[UUID]:
    """The next runs of a queue, the one whose turn it is first."""
    owner = Coalesce("design__owner", "batch__owner")
    waiting = list(queued.annotate(owner=owner).order_by("created").values_list("pk", "owner", "created")[:MOST_LOOKED_AT])
    if len({o for _, o, _ in waiting}) > 1:
        begun = NestRun.objects.annotate(owner=owner).filter(owner__in={o for _, o, _ in waiting}, claimed__isnull=False)
        counted = begun.values("owner").annotate(on=Count("pk", filter=Q(status=Status.RUNNING)), last=Max("claimed")).order_by()
        served = {r["owner"]: (r["on"], r["last"].timestamp()) for r in counted}
        waiting.sort(key=lambda w: (*served.get(w[1], (0, 0.0)), w[2]))
    return [pk for pk, _, _ in waiting]


def claim(worker: str = "", *, quick: bool | None = None) -> NestRun | None:
    """The next queued run, now this worker's, of quick ones or searches only where so said; None where there is none.

    Makers have their turns: next is whoever has the fewest runs going on, then whoever was served longest ago, then who asked first.
    """
    worker = worker or f"{socket.gethostname()}:{os.getpid()}"
    now = timezone.now()
    queued = NestRun.objects.filter(status=Status.QUEUED, **({} if quick is None else {"quick": quick}))
    for pk in _by_turns(queued):
        run = NestRun.objects.filter(pk=pk).first()
        if run is None:  # its design was deleted just now
            continue
        taken = NestRun.objects.filter(pk=pk, status=Status.QUEUED).update(
            status=Status.RUNNING, worker=worker, claimed=now, heartbeat=now, lease_until=now + LEASE, attempts=run.attempts + 1
        )
        if taken:
            return NestRun.objects.get(pk=pk)
    return None
