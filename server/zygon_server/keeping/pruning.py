"""What goes after a while: nothing that a maker has, but what the application kept for itself, and what was deleted long ago."""

from __future__ import annotations

from datetime import timedelta

from axes.models import AccessAttempt, AccessFailureLog
from django.contrib.sessions.models import Session
from django.db.models import Exists, OuterRef, Q
from django.utils import timezone
from django_tasks_db.models import DBTaskResult

from zygon_server.designs.models import DELETED, Design
from zygon_server.nesting.models import NestRun

__all__ = ["prune"]

#: Runs that ended are shown as long as nothing newer is there; older ones go after this time.
RUNS = timedelta(days=7)
#: What a task came to is looked at while it is on.
TASKS = timedelta(days=1)
#: Who tried to sign in.
TRIES = timedelta(days=30)


def prune() -> dict[str, int]:
    """Takes away what is not needed any more; how many rows of each kind."""
    now = timezone.now()
    later = NestRun.objects.filter(Q(design=OuterRef("design")) | Q(batch=OuterRef("batch")), created__gt=OuterRef("created"))
    gone = {
        "deleted designs": Design.objects.filter(deleted__lt=now - DELETED),
        "runs": NestRun.objects.filter(Exists(later), finished__lt=now - RUNS),
        "tasks": DBTaskResult.objects.filter(finished_at__lt=now - TASKS),
        "sessions": Session.objects.filter(expire_date__lt=now),
        "tries": AccessAttempt.objects.filter(attempt_time__lt=now - TRIES),
        "failures": AccessFailureLog.objects.filter(attempt_time__lt=now - TRIES),
    }
    return {what: rows.delete()[0] for what, rows in gone.items()}
