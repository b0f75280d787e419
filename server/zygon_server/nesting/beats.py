"""A sign of life of each process in the background, so that it is seen when one is gone."""

from __future__ import annotations

import logging
import threading
import time
from datetime import timedelta

from django.db import DatabaseError, close_old_connections
from django.utils import timezone

from zygon_server.nesting.models import Beat

__all__ = ["EVERY", "SILENT", "beat", "beating", "silent"]

#: Seconds between two beats, and after how many a process counts as silent.
EVERY, SILENT = 5.0, 30.0
log = logging.getLogger(__name__)


def beat(name: str) -> None:
    """One sign of life."""
    Beat.objects.update_or_create(name=name, defaults={"at": timezone.now()})


def beating(name: str) -> None:
    """Signs of life from now on, for as long as this process lives."""

    def go_on() -> None:
        while True:
            try:
                close_old_connections()
                beat(name)
            except DatabaseError as error:  # a busy database is beaten to later
                log.warning("no beat of %s: %s", name, error)
            time.sleep(EVERY)

    threading.Thread(target=go_on, name="beat", daemon=True).start()


def silent() -> list[str]:
    """The processes that beat once and do so no more."""
    return list(Beat.objects.filter(at__lt=timezone.now() - timedelta(seconds=SILENT)).values_list("name", flat=True))
