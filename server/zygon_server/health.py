"""Whether the application is well: it is alive, its database can be written, its workers beat, and its disk has room."""

from __future__ import annotations

import shutil
from datetime import timedelta
from secrets import compare_digest
from typing import Any

from django.conf import settings
from django.db import DatabaseError, connection, transaction
from django.db.models import Count
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.utils import timezone

from zygon_server.designs.models import Design, Edit
from zygon_server.faults import forbidden
from zygon_server.local import VAR
from zygon_server.nesting.beats import silent
from zygon_server.nesting.models import Beat, NestRun

__all__ = ["LEAST_ROOM", "health", "metrics"]

#: Megabytes on the disk under which nothing is well any more.
LEAST_ROOM = 200
#: A run that waits for so long is waiting for a worker that does not come.
LONG_QUEUED = timedelta(seconds=60)


def health(request: HttpRequest) -> HttpResponse:
    """200 where all is well, 503 where something is not, with what it is."""
    wrong: list[str] = []
    told: dict[str, Any] = {"room_mb": shutil.disk_usage(VAR).free // 1_000_000}
    if told["room_mb"] < LEAST_ROOM:
        wrong.append(f"the disk has {told['room_mb']} MB left")
    try:
        with transaction.atomic():  # takes the writer's lock, and writes nothing
            told["workers"] = Beat.objects.count()
        quiet = silent()
        if quiet:
            wrong.append(f"nothing was heard of {', '.join(quiet)}")
        waiting = NestRun.objects.filter(status=NestRun.Status.QUEUED, created__lt=timezone.now() - LONG_QUEUED)
        if waiting.exists() and not NestRun.objects.filter(status=NestRun.Status.RUNNING).exists():
            wrong.append("runs wait for a worker")
    except DatabaseError as error:
        wrong.append(f"the database cannot be written ({error})")
    return JsonResponse({"well": not wrong, "wrong": wrong, **told}, status=503 if wrong else 200)


def _may_measure(request: HttpRequest) -> bool:
    if settings.METRICS_TOKEN:
        return compare_digest(request.headers.get("Authorization", ""), f"Bearer {settings.METRICS_TOKEN}")
    return request.headers.get("X-Forwarded-For", request.META.get("REMOTE_ADDR", "")) in ("127.0.0.1", "::1", "")


def metrics(request: HttpRequest) -> HttpResponse:
    """What stands in the database, in the text format that collectors of metrics read."""
    if not _may_measure(request):
        return forbidden(request, reason="metrics", sentence="Metrics are told to this machine, or with the token.")
    lines = [
        "# TYPE zygon_designs gauge",
        f"zygon_designs {Design.objects.count()}",
        "# TYPE zygon_edits gauge",
        f"zygon_edits {Edit.objects.count()}",
    ]
    lines.append("# TYPE zygon_runs gauge")
    lines += [
        f'zygon_runs{{status="{r["status"]}"}} {r["n"]}'
        for r in NestRun.objects.values("status").annotate(n=Count("pk")).order_by("status")
    ]
    lines.append("# TYPE zygon_beat_age_seconds gauge")
    now = timezone.now()
    lines += [f'zygon_beat_age_seconds{{worker="{b.name}"}} {(now - b.at).total_seconds():.1f}' for b in Beat.objects.order_by("name")]
    lines += ["# TYPE zygon_disk_free_bytes gauge", f"zygon_disk_free_bytes {shutil.disk_usage(VAR).free}"]
    size = connection.settings_dict["NAME"]
    lines += [
        "# TYPE zygon_database_bytes gauge",
        f"zygon_database_bytes {size.stat().st_size if hasattr(size, 'stat') and size.exists() else 0}",
    ]
    return HttpResponse("\n".join(lines) + "\n", content_type="text/plain; version=0.0.4")
